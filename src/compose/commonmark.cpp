// SPDX-License-Identifier: Apache-2.0
// CommonMark to a flow, through libcmark.
#include <cmark.h>

#include <algorithm>
#include <memory>

#include "compose/brief_styles.h"
#include "lumvet/compose/brief.h"

namespace lumvet {
namespace compose {
namespace {

struct Free {
  void operator()(cmark_node* node) const { cmark_node_free(node); }
  void operator()(cmark_iter* iter) const { cmark_iter_free(iter); }
};

std::string text_of(const char* text) { return text == nullptr ? std::string() : text; }

class TextReader {
 public:
  TextReader(const BriefStyles& styles, const BriefOptions& options)
      : styles_(styles), options_(options), flow_(styles.document()) {}

  Flow read(cmark_node* document) {
    const std::unique_ptr<cmark_iter, Free> iter(cmark_iter_new(document));
    for (auto event = cmark_iter_next(iter.get()); event != CMARK_EVENT_DONE;
         event = cmark_iter_next(iter.get())) {
      cmark_node* node = cmark_iter_get_node(iter.get());
      if (event == CMARK_EVENT_ENTER)
        enter(node);
      else
        leave(node);
    }
    flush_items();
    return std::move(flow_);
  }

 private:
  struct List {
    bool is_numbered = false;
    int next = 1;
  };

  const Look& block_look() const {
    return styles_.look(std::string(quotes_ > 0 ? "quote" : "body"));
  }

  void enter(cmark_node* node) {
    switch (cmark_node_get_type(node)) {
      case CMARK_NODE_BLOCK_QUOTE:
        flush_items();
        ++quotes_;
        break;
      case CMARK_NODE_LIST:
        flush_items();
        lists_.push_back({cmark_node_get_list_type(node) == CMARK_ORDERED_LIST,
                          std::max(cmark_node_get_list_start(node), 1)});
        break;
      case CMARK_NODE_ITEM: is_item_begun_ = true; break;
      case CMARK_NODE_HEADING: heading_level_ = cmark_node_get_heading_level(node); [[fallthrough]];
      case CMARK_NODE_PARAGRAPH: begin_text(); break;
      case CMARK_NODE_CODE_BLOCK: add_code(text_of(cmark_node_get_literal(node))); break;
      case CMARK_NODE_THEMATIC_BREAK: add_rule(); break;
      case CMARK_NODE_STRONG: looks_.emplace_back("strong"); break;
      case CMARK_NODE_EMPH: looks_.emplace_back("emphasis"); break;
      case CMARK_NODE_LINK:
        links_.push_back(text_of(cmark_node_get_url(node)));
        looks_.emplace_back("link");
        break;
      case CMARK_NODE_IMAGE: picture_ = text_of(cmark_node_get_url(node)); break;
      case CMARK_NODE_TEXT: put(text_of(cmark_node_get_literal(node))); break;
      case CMARK_NODE_CODE:
        looks_.emplace_back("code");
        put(text_of(cmark_node_get_literal(node)));
        looks_.pop_back();
        break;
      case CMARK_NODE_SOFTBREAK: put(" "); break;
      case CMARK_NODE_LINEBREAK: put("\n"); break;
      default: break;
    }
  }

  void leave(cmark_node* node) {
    switch (cmark_node_get_type(node)) {
      case CMARK_NODE_BLOCK_QUOTE:
        flush_items();
        --quotes_;
        break;
      case CMARK_NODE_LIST:
        flush_items();
        lists_.pop_back();
        is_item_begun_ = false;
        break;
      case CMARK_NODE_HEADING:
        flush_items();
        flow_.add_heading(paragraph_, std::exchange(heading_level_, 0));
        break;
      case CMARK_NODE_PARAGRAPH: end_paragraph(); break;
      case CMARK_NODE_STRONG:
      case CMARK_NODE_EMPH: looks_.pop_back(); break;
      case CMARK_NODE_LINK:
        looks_.pop_back();
        links_.pop_back();
        break;
      default: break;
    }
  }

  void begin_text() {
    ParagraphStyle style = block_look().paragraph;
    constexpr double kAfter = 6;  // points
    if (style.after == 0 && lists_.empty()) style.after = kAfter;
    // A further paragraph of an item stands below its first one.
    if (!lists_.empty() && !is_item_begun_)
      style.left += block_look().letters.size * 1.5 * static_cast<double>(lists_.size());
    if (heading_level_ > 0) style = styles_.document().heading_style(heading_level_);
    paragraph_ = Paragraph(std::move(style));
    plain_.clear();
    picture_.clear();
    has_text_ = false;
  }

  void put(const std::string& text) {
    plain_ += text;
    // What stands in place of a picture is its description.
    if (!picture_.empty()) return;
    has_text_ |= !text.empty();
    paragraph_.add(text, letters());
  }

  // Those of the block, with what each look around the text says otherwise than the body.
  TextStyle letters() const {
    const bool is_heading = heading_level_ > 0;
    TextStyle own =
        is_heading ? styles_.document().heading_look(heading_level_) : block_look().letters;
    const auto has = [&](const char* name) {
      return std::find(looks_.begin(), looks_.end(), name) != looks_.end();
    };
    for (const std::string& name : looks_) {
      const bool is_both = name != "link" && has("strong") && has("emphasis");
      styles_.add(is_both ? "strong_emphasis" : name, is_heading, own);
    }
    if (!links_.empty()) own.link = links_.back();
    return own;
  }

  void end_paragraph() {
    if (!picture_.empty() && !has_text_) return add_picture();
    if (!lists_.empty() && is_item_begun_) {
      is_item_begun_ = false;
      items_.push_back(std::move(paragraph_));
      if (items_.size() == 1) first_ = lists_.back().next;
      ++lists_.back().next;
      return;
    }
    flush_items();
    flow_.add(paragraph_);
  }

  // Items one after the other, up to where something else comes between.
  void flush_items() {
    if (items_.empty() || lists_.empty()) return;
    flow_.add_list(items_, lists_.back().is_numbered, first_, static_cast<int>(lists_.size()) - 1);
    items_.clear();
  }

  void add_code(std::string text) {
    flush_items();
    while (text.ends_with('\n')) text.pop_back();
    const Look& look = styles_.look(std::string("code"));
    ParagraphStyle style = look.paragraph;
    style.before = std::max(style.before, 4.0);
    style.after = std::max(style.after, 8.0);
    style.left += 12;
    flow_.add(Paragraph(text, look.letters, style));
  }

  void add_rule() {
    flush_items();
    constexpr double kHeight = 14;  // points
    const FlowOptions& d = styles_.document();
    const double width = d.paper.width - d.margins.left - d.margins.right;
    Drawing rule(
        std::max(width / std::max(d.columns, 1) - d.between_columns * (d.columns - 1), 1.0),
        kHeight);
    rule.line({0, kHeight / 2}, {rule.width(), kHeight / 2}, Color::gray(0.6), {.width = 0.75});
    flow_.add(rule);
  }

  void add_picture() {
    flush_items();
    const auto picture = Picture::load(options_.folder / picture_, options_.limits);
    if (!picture.ok()) throw ResultError(picture.error());
    flow_.add(*picture, 0, plain_);
  }

  const BriefStyles& styles_;
  const BriefOptions& options_;
  Flow flow_;
  int quotes_ = 0;
  int heading_level_ = 0;  // of the one that is read
  std::vector<List> lists_;
  bool is_item_begun_ = false;
  std::vector<Paragraph> items_;
  int first_ = 1;  // number of the first of them
  std::vector<std::string> looks_;
  std::vector<std::string> links_;
  Paragraph paragraph_;
  std::string plain_;    // what the paragraph says
  std::string picture_;  // its file, when there is one
  bool has_text_ = false;
};

}  // namespace
}  // namespace compose

Result<Flow> flow_of_commonmark(std::string_view text, std::string_view style,
                                const BriefOptions& options) {
  try {
    const std::string_view brief = style.empty() ? std::string_view("{}") : style;
    const compose::Json json = compose::json_of(brief, "the style");
    const compose::BriefStyles styles(compose::BriefNode(brief, json), options);
    const std::unique_ptr<cmark_node, compose::Free> document(
        cmark_parse_document(text.data(), text.size(), CMARK_OPT_SMART));
    if (!document) return Error(ErrorCode::limit, "no memory for the text");
    return compose::TextReader(styles, options).read(document.get());
  } catch (const ResultError& error) {
    return error.error();
  }
}

}  // namespace lumvet

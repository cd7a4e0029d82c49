// SPDX-License-Identifier: Apache-2.0
#include "lumvet/compose/page_text.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <set>

#include "compose/single_font_page.h"
#include "fonts/substitute.h"
#include "objects/content_numbers.h"
#include "save/full_writer.h"

namespace lumvet {
namespace {

using compose::EmbeddedFont;
using compose::ShapedLine;
using compose::TextFont;

using Fields = std::map<std::string, std::string>;

// With what stands in braces filled in; two of them are one that is meant.
Result<std::string> filled(const std::string& text, const Fields& fields) {
  std::string out;
  for (std::size_t at = 0; at < text.size();) {
    if (text.compare(at, 2, "{{") == 0 || text.compare(at, 2, "}}") == 0) {
      out += text[at];
      at += 2;
    } else if (text[at] == '{') {
      const std::size_t end = text.find('}', at);
      const std::string word =
          text.substr(at + 1, end == std::string::npos ? std::string::npos : end - at - 1);
      const auto field = fields.find(word);
      if (end == std::string::npos || field == fields.end())
        return Error(ErrorCode::invalid_argument,
                     "{" + word +
                         "} means nothing; write {page}, {pages}, {label}, {chapter} or {title}, "
                         "or {{ for a brace");
      out += field->second;
      at = end + 1;
    } else {
      out += text[at++];
    }
  }
  return out;
}

// The text of one page, ready to be placed.
struct Block {
  PaperSize paper;
  std::vector<ShapedLine> lines;

  double width() const {  // of the em
    double width = 0;
    for (const ShapedLine& line : lines) width = std::max(width, line.width);
    return width;
  }
};

class PageTexts {
 public:
  PageTexts(const PageText& text, TextFont font) : text_(text), font_(std::move(font)) {}

  Status add(const PaperSize& paper, const std::string& text) {
    Block block{paper, {}};
    for (std::size_t at = 0; at <= text.size();) {
      const std::size_t end = std::min(text.find('\n', at), text.size());
      LUMVET_TRY(ShapedLine line, font_.shape(text.substr(at, end - at)));
      block.lines.push_back(std::move(line));
      at = end + 1;
    }
    blocks_.push_back(std::move(block));
    return Done{};
  }

  // A page for each, of the size that its text is to be laid over.
  Result<Document> finish() const {
    file::Ledger ledger;
    const ObjectId catalog = ledger.reserve();
    LUMVET_TRY(const EmbeddedFont font, font_.embed(ledger));
    saving::PageTreeBuilder tree(ledger, blocks_.size());
    for (const Block& block : blocks_) {
      compose::add_text_page(ledger, tree, block.paper.width, block.paper.height, font,
                             content_of(block, font));
    }
    ledger.set(catalog, Dict{{"Type", Object::name("Catalog")}, {"Pages", tree.finish()}});
    return saving::opened(ledger, catalog, "the text '" + text_.text + "'");
  }

 private:
  bool is_anchored_at(std::initializer_list<Anchor> any) const {
    return std::find(any.begin(), any.end(), text_.anchor) != any.end();
  }

  // Points.
  double size_of(const Block& block) const {
    constexpr double kPlain = 10;
    constexpr double kOfPage = 0.8;
    if (text_.size) return *text_.size;
    if (text_.anchor != Anchor::center) return kPlain;
    const auto [width, height] = turned(block.width(), height_of(block, 1));
    if (width <= 0 || height <= 0) return kPlain;
    return kOfPage * std::min(block.paper.width / width, block.paper.height / height);
  }

  double line_height() const { return font_.ascent() - font_.descent(); }
  // From the top of capitals to the last line.
  double height_of(const Block& block, double size) const {
    const double more = static_cast<double>(block.lines.size()) - 1;
    return size * (font_.cap_height() + more * line_height());
  }

  double angle() const { return text_.degrees * std::numbers::pi / 180; }
  PaperSize turned(double width, double height) const {
    const double c = std::abs(std::cos(angle()));
    const double s = std::abs(std::sin(angle()));
    return {width * c + height * s, width * s + height * c};
  }

  // The middle of the text, on the page.
  Point middle_of(const Block& block, double width, double height) const {
    const auto [wide, high] = turned(width, height);
    const auto& [paper_width, paper_height] = block.paper;
    Point middle{paper_width / 2, paper_height / 2};
    if (is_anchored_at({Anchor::top_left, Anchor::left, Anchor::bottom_left}))
      middle.x = text_.margin + wide / 2;
    if (is_anchored_at({Anchor::top_right, Anchor::right, Anchor::bottom_right}))
      middle.x = paper_width - text_.margin - wide / 2;
    if (is_anchored_at({Anchor::bottom_left, Anchor::bottom, Anchor::bottom_right}))
      middle.y = text_.margin + high / 2;
    if (is_anchored_at({Anchor::top_left, Anchor::top, Anchor::top_right}))
      middle.y = paper_height - text_.margin - high / 2;
    return middle;
  }

  std::string content_of(const Block& block, const EmbeddedFont& font) const {
    const double size = size_of(block);
    const double width = size * block.width();
    const double height = height_of(block, size);
    const Point middle = middle_of(block, width, height);
    const double c = std::cos(angle());
    const double s = std::sin(angle());
    std::string content;
    objects::append_rounded({text_.color[0], text_.color[1], text_.color[2]}, content);
    content += "rg\nBT\n/Text ";
    objects::append_rounded({size}, content);
    content += "Tf\n";
    for (std::size_t i = 0; i < block.lines.size(); ++i) {
      const ShapedLine& line = block.lines[i];
      const double free = width - size * line.width;
      double x = -width / 2 + free / 2;
      if (is_anchored_at({Anchor::top_left, Anchor::left, Anchor::bottom_left})) x = -width / 2;
      if (is_anchored_at({Anchor::top_right, Anchor::right, Anchor::bottom_right}))
        x = -width / 2 + free;
      const double y =
          height / 2 - size * (font_.cap_height() + static_cast<double>(i) * line_height());
      objects::append_rounded({c, s, -s, c, middle.x + c * x - s * y, middle.y + s * x + c * y},
                              content);
      content += "Tm\n" + font.show(line, size);
    }
    return content + "ET\n";
  }

  const PageText& text_;
  TextFont font_;
  std::vector<Block> blocks_;
};

// The outermost entry of the outline under which each page comes.
Result<std::vector<std::string>> chapters_of(const Document& document) {
  std::map<int, std::string> begins;
  LUMVET_TRY(const std::vector<OutlineEntry> outline, document.outline());
  for (const OutlineEntry& entry : outline)
    if (entry.depth == 0 && entry.page) begins.insert_or_assign(*entry.page, entry.title);
  std::vector<std::string> chapters(static_cast<std::size_t>(document.page_count()));
  for (auto next = begins.begin(); next != begins.end(); ++next) {
    const auto after = std::next(next);
    const int end = after == begins.end() ? document.page_count() : after->first;
    for (int page = std::max(next->first, 0); page < std::min(end, document.page_count()); ++page)
      chapters[static_cast<std::size_t>(page)] = next->second;
  }
  return chapters;
}

Status check(const PageText& text) {
  constexpr double kMostPoints = 14'400;
  if (text.text.empty()) return Error(ErrorCode::invalid_argument, "there is no text to write");
  if (text.size && !(*text.size > 0 && *text.size <= kMostPoints))
    return Error(ErrorCode::invalid_argument,
                 "a text is more than 0 and at most 14400 points high");
  for (const double part : text.color)
    if (!(part >= 0 && part <= 1))
      return Error(ErrorCode::invalid_argument, "the parts of a color are 0 to 1");
  if (!std::isfinite(text.degrees) || !std::isfinite(text.margin))
    return Error(ErrorCode::invalid_argument, "an angle or a margin is not a number");
  return Done{};
}

}  // namespace

Status write_on_pages(EditableDocument& pages, const PageSelection& on, const PageText& text) {
  LUMVET_RETURN_IF_ERROR(check(text));
  LUMVET_TRY(const Document document, pages.now());
  LUMVET_TRY(const std::vector<int> chosen, on.in(document.page_count()));
  LUMVET_TRY(auto program, fonts::find_face(text.font, fonts_of(text.fonts)));
  LUMVET_TRY(TextFont font, TextFont::of(std::move(program)));
  PageTexts texts(text, std::move(font));
  LUMVET_TRY(const Metadata metadata, document.metadata());
  LUMVET_TRY(const std::vector<std::string> chapters, chapters_of(document));
  Fields fields{{"pages", std::to_string(document.page_count())},
                {"title", metadata.properties.title}};
  std::set<int> done;
  for (const int index : chosen) {
    if (!done.insert(index).second) continue;
    LUMVET_TRY(const Page page, document.page(index));
    fields["page"] = std::to_string(index + 1);
    LUMVET_TRY(fields["label"], document.page_label(index));
    fields["chapter"] = chapters[static_cast<std::size_t>(index)];
    LUMVET_TRY(const std::string own, filled(text.text, fields));
    LUMVET_RETURN_IF_ERROR(texts.add({page.width(), page.height()}, own));
  }
  LUMVET_TRY(const Document written, texts.finish());
  return pages.overlay(on, written, {},
                       {.anchor = Anchor::bottom_left,
                        .scale = 1,
                        .opacity = text.opacity,
                        .beneath = text.beneath});
}

}  // namespace lumvet

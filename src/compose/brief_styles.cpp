// SPDX-License-Identifier: Apache-2.0
#include "compose/brief_styles.h"

#include <algorithm>
#include <cmath>

#include "draw/face.h"

namespace lumvet::compose {
namespace {

constexpr double kQuoteIndent = 18;

constexpr double kMost = 14'400;  // points

Margins margins_of(const BriefNode& node) {
  if (node.json().is_number()) {
    const double all = node.number(0, kMost);
    return {all, all, all, all};
  }
  const auto items = node.items();
  if (items.size() != 4) node.fail("margins are one number, or left, top, right and bottom");
  return {items[0].number(0, kMost), items[1].number(0, kMost), items[2].number(0, kMost),
          items[3].number(0, kMost)};
}

PageLine line_of(const BriefNode& node) {
  node.allow({"left", "middle", "right"});
  PageLine line;
  if (const auto part = node.find("left")) line.left = part->text();
  if (const auto part = node.find("middle")) line.middle = part->text();
  if (const auto part = node.find("right")) line.right = part->text();
  return line;
}

bool are_same(const Typeface& a, const Typeface& b) {
  const auto one = draw::faces_of(a);
  const auto other = draw::faces_of(b);
  return one.ok() && other.ok() && *one == *other;
}

ParagraphStyle::Align align_of(const BriefNode& node) {
  using Align = ParagraphStyle::Align;
  const std::vector<std::pair<std::string_view, Align>> known = {
      {"start", Align::start},         {"end", Align::end},   {"center", Align::center},
      {"justified", Align::justified}, {"left", Align::left}, {"right", Align::right}};
  const std::string text = node.text();
  std::vector<std::string> names;
  for (const auto& [name, align] : known) {
    if (name == text) return align;
    names.emplace_back(name);
  }
  node.fail("'" + text + "' is no way to align text; " + meant_by(text, names));
}

}  // namespace

BriefStyles::BriefStyles(const BriefNode& brief, const BriefOptions& options) : options_(options) {
  read_document(brief);
  looks_["body"].letters.language = document_.language;
  if (const auto styles = brief.find("styles")) {
    // What all others build on comes first.
    if (styles->find("body")) read_style("body", *styles, 0);
    add_defaults();
    for (const auto& [name, style] : styles->members()) read_style(name, *styles, 0);
  } else {
    add_defaults();
  }
}

void BriefStyles::read_document(const BriefNode& brief) {
  brief.allow({"title", "author", "language", "paper", "margins", "columns", "between_columns",
               "background", "letterhead", "header", "footer", "first_page_has_header",
               "heading_font", "heading_size", "heading_color", "tagged", "styles", "blocks"});
  FlowOptions& d = document_;
  if (const auto node = brief.find("title")) d.title = node->text();
  if (const auto node = brief.find("author")) d.author = node->text();
  if (const auto node = brief.find("language")) d.language = node->text();
  if (const auto node = brief.find("paper")) {
    const auto paper = PaperSize::parse(node->text());
    if (!paper.ok()) node->fail(paper.error().message());
    d.paper = *paper;
  }
  if (const auto node = brief.find("margins")) d.margins = margins_of(*node);
  constexpr int kMostColumns = 12;
  if (const auto node = brief.find("columns")) d.columns = node->integer(1, kMostColumns);
  if (const auto node = brief.find("between_columns")) d.between_columns = node->number(0, kMost);
  if (const auto node = brief.find("background")) d.background = color(*node);
  if (const auto node = brief.find("letterhead")) d.letterhead = first_page(*node);
  if (const auto node = brief.find("header")) d.header = line_of(*node);
  if (const auto node = brief.find("footer")) d.footer = line_of(*node);
  if (const auto node = brief.find("first_page_has_header"))
    d.first_page_has_header = node->truth();
  if (const auto node = brief.find("heading_font")) d.face = face(*node);
  if (const auto node = brief.find("heading_size")) d.heading_size = node->number(1, kMost);
  if (const auto node = brief.find("heading_color")) d.heading_color = color(*node);
  if (const auto node = brief.find("tagged")) d.is_tagged = node->truth();
}

void BriefStyles::add(const std::string& name, bool is_heading, TextStyle& letters) const {
  const TextStyle& body = looks_.at("body").letters;
  const TextStyle& own = look(name).letters;
  const bool is_variant = name == "strong" || name == "emphasis" || name == "strong_emphasis";
  if (is_heading && is_variant)
    letters.face = variant(document_.face, name);
  else if (!are_same(own.face, body.face))
    letters.face = own.face;
  if (!(own.color == body.color)) letters.color = own.color;
  letters.size *= own.size / body.size;
  letters.spacing += own.spacing - body.spacing;
  letters.rise += own.rise - body.rise;
  letters.underlined |= own.underlined;
  letters.struck_out |= own.struck_out;
}

Typeface BriefStyles::variant(const Typeface& face, const std::string& name) const {
  const std::string named =
      face.family() + (name == "emphasis" ? "" : ":bold") + (name == "strong" ? "" : ":italic");
  const auto found = Typeface::named(named, options_.fonts);
  return found.ok() ? *found : face;
}

void BriefStyles::add_defaults() {
  const Look body = looks_["body"];
  const auto add = [&](const char* name) -> Look& {
    Look& look = looks_[name];
    look = body;
    return look;
  };
  for (const char* name : {"strong", "emphasis", "strong_emphasis"})
    add(name).letters.face = variant(body.letters.face, name);
  const auto code = Typeface::named("DejaVu Sans Mono", options_.fonts);
  add("code").letters.face = code.ok() ? *code : body.letters.face;
  looks_["code"].letters.size *= 0.88;
  looks_["code"].paragraph.line_height *= 1.05;
  Look& quote = add("quote");
  quote.paragraph.left += kQuoteIndent;
  quote.letters.color = Color::gray(0.3);
  Look& link = add("link");
  link.letters.color = Color::rgb(0.05, 0.3, 0.55);
  link.letters.underlined = true;
  looks_["table_head"] = looks_["strong"];
}

void BriefStyles::read_style(const std::string& name, const BriefNode& styles, int depth) {
  constexpr int kDeepest = 16;
  const BriefNode style = styles.at(name.c_str());
  style.allow({"based_on",    "font",          "size",       "color",          "spacing",
               "rise",        "underlined",    "struck_out", "language",       "align",
               "line_height", "first_indent",  "left",       "right",          "before",
               "after",       "divides_words", "runs_down",  "keeps_together", "keeps_with_next"});
  Look look = looks_.contains(name) ? looks_[name] : looks_["body"];
  if (const auto base = style.find("based_on")) {
    const std::string other = base->text();
    if (depth >= kDeepest || other == name)
      base->fail("styles are based on each other in a circle");
    if (styles.find(other.c_str()))
      read_style(other, styles, depth + 1);
    else if (!looks_.contains(other))
      base->fail("there is no style '" + other + "'");
    look = looks_[other];
  }
  apply(style, look);
  looks_[name] = look;
}

void BriefStyles::apply(const BriefNode& style, Look& look) const {
  TextStyle& letters = look.letters;
  ParagraphStyle& paragraph = look.paragraph;
  const auto number = [&](const char* key, double least, double& out) {
    if (const auto node = style.find(key)) out = node->number(least, kMost);
  };
  const auto truth = [&](const char* key, bool& out) {
    if (const auto node = style.find(key)) out = node->truth();
  };
  if (const auto node = style.find("font")) letters.face = face(*node);
  number("size", 0.1, letters.size);
  if (const auto node = style.find("color")) letters.color = color(*node);
  number("spacing", -kMost, letters.spacing);
  number("rise", -kMost, letters.rise);
  truth("underlined", letters.underlined);
  truth("struck_out", letters.struck_out);
  if (const auto node = style.find("language")) letters.language = node->text();
  if (const auto node = style.find("align")) paragraph.align = align_of(*node);
  number("line_height", 0.1, paragraph.line_height);
  number("first_indent", -kMost, paragraph.first_indent);
  number("left", 0, paragraph.left);
  number("right", 0, paragraph.right);
  number("before", 0, paragraph.before);
  number("after", 0, paragraph.after);
  truth("divides_words", paragraph.divides_words);
  truth("runs_down", paragraph.runs_down);
  truth("keeps_together", paragraph.keeps_together);
  truth("keeps_with_next", paragraph.keeps_with_next);
}

const Look& BriefStyles::look(const std::string& name) const {
  const auto known = looks_.find(name);
  return known == looks_.end() ? looks_.at("body") : known->second;
}

const Look& BriefStyles::look(const BriefNode& name) const {
  const std::string text = name.text();
  if (looks_.contains(text)) return looks_.at(text);
  std::vector<std::string> names;
  for (const auto& [known, look] : looks_) names.push_back(known);
  name.fail("there is no style '" + text + "'; " + meant_by(text, names));
}

Page BriefStyles::first_page(const BriefNode& name) const {
  const auto document = Document::open(options_.folder / name.text(), {.limits = options_.limits});
  if (!document.ok()) name.fail(document.error().to_string(), document.error().code());
  const auto page = document->page(0);
  if (!page.ok()) name.fail(page.error().to_string(), page.error().code());
  return *page;
}

Typeface BriefStyles::face(const BriefNode& name) const {
  const std::string text = name.text();
  const bool is_file = text.ends_with(".ttf") || text.ends_with(".otf") || text.ends_with(".ttc");
  const auto face =
      is_file ? Typeface::of_file(options_.folder / text) : Typeface::named(text, options_.fonts);
  if (!face.ok()) name.fail(face.error().message(), face.error().code());
  return is_file ? face->or_else(Typeface()) : *face;
}

Color BriefStyles::color(const BriefNode& text) {
  const auto color = Color::parse(text.text());
  if (!color.ok()) text.fail(color.error().message());
  return *color;
}

}  // namespace lumvet::compose

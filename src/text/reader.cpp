// SPDX-License-Identifier: Apache-2.0
#include "text/reader.h"

#include <cmath>

#include "content/interpreter.h"
#include "document/inside.h"
#include "objects/text_string.h"

namespace lumvet::text {
namespace {

// Parts of the font size.
constexpr double kBlank = 0.2;      // from which on a gap parts words
constexpr double kNextLine = 0.5;   // across the line
constexpr double kFarBack = 1.5;    // against the line
constexpr double kFarAhead = 15.0;  // along it: another column

double distance(Point from, Point to) { return std::hypot(to.x - from.x, to.y - from.y); }

bool ends_in_white(const std::string& text) {
  return text.empty() || text.back() == ' ' || text.back() == '\n';
}

}  // namespace

Rect Reader::bounds_of(content::ClipId) const {
  constexpr double kFar = 1e6;
  return {-kFar, -kFar, kFar, kFar};
}

// What stands between the last letter and this one.
std::string_view Reader::gap_before(const content::ShownGlyph& glyph) const {
  if (!pen_) return "";
  const Point begin = glyph.placed.apply({0, 0});
  const double dx = begin.x - pen_->end.x;
  const double dy = begin.y - pen_->end.y;
  const double ahead = (dx * pen_->along.x + dy * pen_->along.y) / pen_->size;
  const double beside = std::abs(dx * pen_->along.y - dy * pen_->along.x) / pen_->size;
  if (beside > kNextLine || ahead < -kFarBack || ahead > kFarAhead) return "\n";
  return ahead > kBlank ? " " : "";
}

void Reader::append(Line& line, std::string_view text, Point begin, double size) {
  if (line.text.empty()) {
    line.begin = begin;
    line.height = size;
  }
  line.text += text;
}

void Reader::add(std::string_view text, Point begin, double size) {
  append(all_, text, begin, size);
  for (const Mark& mark : marks_)
    if (mark.key) append(by_mark_[*mark.key], text, begin, size);
}

void Reader::text(const std::vector<content::ShownGlyph>& glyphs) {
  for (const content::ShownGlyph& glyph : glyphs) {
    const Point origin = glyph.placed.apply({0, 0});
    const Point end = glyph.vertical ? glyph.placed.apply({0, glyph.advance})
                                     : glyph.placed.apply({glyph.advance, 0});
    const Point up = glyph.placed.apply({0, 1});
    const double size = distance(origin, up);
    if (!(size > 0) || !std::isfinite(size)) continue;
    const std::string_view gap = gap_before(glyph);
    const bool has_white = ends_in_white(all_.text) || glyph.text == " ";
    if (gap == "\n" && !all_.text.empty() && all_.text.back() != '\n')
      add(gap, origin, size);
    else if (gap == " " && !has_white)
      add(gap, origin, size);
    const bool is_replaced = std::any_of(marks_.begin(), marks_.end(),
                                         [](const Mark& mark) { return mark.instead.has_value(); });
    if (is_replaced) {
      for (Mark& mark : marks_)
        if (mark.instead && !mark.instead->empty())
          add(std::exchange(*mark.instead, {}), origin, size);
    } else {
      add(glyph.text, origin, size);
    }
    const double length = distance(origin, end);
    const Point along = length > 0 ? Point{(end.x - origin.x) / length, (end.y - origin.y) / length}
                        : pen_     ? pen_->along
                                   : Point{1, 0};
    pen_ = Pen{end, along, size};
  }
}

void Reader::begin_marked(std::string_view, const Dict& properties) {
  Mark mark;
  const Object& id = properties["MCID"];
  const std::optional<std::uint64_t> form =
      forms_.empty() ? std::nullopt : std::optional(forms_.back());
  if (id.is_integer()) mark.key = MarkKey(form, static_cast<int>(id.as_integer()));
  if (properties["ActualText"].is_string())
    mark.instead = objects::text_to_utf8(properties["ActualText"].as_string());
  marks_.push_back(std::move(mark));
}

void Reader::end_marked() {
  if (!marks_.empty()) marks_.pop_back();
}

Status read_page(const Page& page, const RecordOptions& options, Reader& reader) {
  content::Interpreter interpreter(core_of(page), reader,
                                   std::make_shared<const content::LayerVisibility>(
                                       core_of(page), options.purpose, options.layers),
                                   options);
  document::ContentFeed contents(page);
  Status status = interpreter.run_page(contents, page.dict(), page.to_display(), content::kNoClip);
  if (!status.ok())
    return std::move(status).error().during("reading page " + std::to_string(page.index() + 1));
  return status;
}

}  // namespace lumvet::text

// SPDX-License-Identifier: Apache-2.0
#include "lumvet/compose/page_text.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

#include "compose/fields.h"

namespace lumvet {
namespace {

// The lines of one page's text, ready to be placed.
struct Block {
  PaperSize paper;
  std::vector<std::string> lines;
  double width = 0;  // of the widest, in parts of the size
};

class PageTexts {
 public:
  PageTexts(const PageText& text, Typeface face) : text_(text), face_(std::move(face)) {}

  // The text laid over a page of such a size. Errors: as Drawing::text_width's.
  Result<Drawing> drawn(const PaperSize& paper, const std::string& text) const {
    Block block{paper, {}};
    for (std::size_t at = 0; at <= text.size();) {
      const std::size_t end = std::min(text.find('\n', at), text.size());
      block.lines.push_back(text.substr(at, end - at));
      LUMVET_TRY(const double width, width_of(block.lines.back()));
      block.width = std::max(block.width, width);
      at = end + 1;
    }
    const Drawing lines = drawn(block);
    if (text_.opacity >= 1) return lines;
    Drawing faint(paper.width, paper.height);
    faint.draw(lines, {}, {.opacity = text_.opacity});
    return faint;
  }

 private:
  bool is_anchored_at(std::initializer_list<Anchor> any) const {
    return std::find(any.begin(), any.end(), text_.anchor) != any.end();
  }

  Result<double> width_of(const std::string& line) const {
    return Drawing::text_width(line, {.face = face_, .size = 1});
  }

  // Points.
  double size_of(const Block& block) const {
    constexpr double kPlain = 10;
    constexpr double kOfPage = 0.8;
    if (text_.size) return *text_.size;
    if (text_.anchor != Anchor::center) return kPlain;
    const auto [width, height] = turned(block.width, height_of(block, 1));
    if (width <= 0 || height <= 0) return kPlain;
    return kOfPage * std::min(block.paper.width / width, block.paper.height / height);
  }

  double line_height() const { return face_.ascent() - face_.descent(); }
  // From the top of capitals to the last line.
  double height_of(const Block& block, double size) const {
    const double more = static_cast<double>(block.lines.size()) - 1;
    return size * (face_.cap_height() + more * line_height());
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
      middle.y = paper_height - text_.margin - high / 2;
    if (is_anchored_at({Anchor::top_left, Anchor::top, Anchor::top_right}))
      middle.y = text_.margin + high / 2;
    return middle;
  }

  Drawing drawn(const Block& block) const {
    const double size = size_of(block);
    const double width = size * block.width;
    const double height = height_of(block, size);
    const Point middle = middle_of(block, width, height);
    const TextStyle style{.face = face_,
                          .size = size,
                          .color = Color::rgb(text_.color[0], text_.color[1], text_.color[2])};
    Drawing page(block.paper.width, block.paper.height);
    page.move(middle.x, middle.y);
    page.turn(-text_.degrees);
    const bool to_left = is_anchored_at({Anchor::top_left, Anchor::left, Anchor::bottom_left});
    const bool to_right = is_anchored_at({Anchor::top_right, Anchor::right, Anchor::bottom_right});
    const double x = to_left ? -width / 2 : to_right ? width / 2 : 0;
    for (std::size_t i = 0; i < block.lines.size(); ++i) {
      const double y =
          -height / 2 + size * (face_.cap_height() + static_cast<double>(i) * line_height());
      page.write(block.lines[i], {x, y}, style,
                 to_left    ? Drawing::Side::left
                 : to_right ? Drawing::Side::right
                            : Drawing::Side::middle);
    }
    return page;
  }

  const PageText& text_;
  Typeface face_;
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
  if (!(text.opacity > 0 && text.opacity <= 1))
    return Error(ErrorCode::invalid_argument, "an opacity is more than 0 and 1 at most");
  if (!std::isfinite(text.degrees) || !std::isfinite(text.margin))
    return Error(ErrorCode::invalid_argument, "an angle or a margin is not a number");
  return Done{};
}

}  // namespace

Status write_on_pages(EditableDocument& pages, const PageSelection& on, const PageText& text) {
  LUMVET_RETURN_IF_ERROR(check(text));
  LUMVET_TRY(const Document document, pages.now());
  LUMVET_TRY(Typeface face, Typeface::named(text.font, text.fonts));
  const PageTexts texts(text, std::move(face));
  LUMVET_TRY(const Metadata metadata, document.metadata());
  LUMVET_TRY(const std::vector<std::string> chapters, chapters_of(document));
  compose::Fields fields{{"pages", std::to_string(document.page_count())},
                         {"title", metadata.properties.title}};
  return draw_on_pages(
      pages, on,
      [&](const Page& page) -> Result<Drawing> {
        fields["page"] = std::to_string(page.index() + 1);
        LUMVET_TRY(fields["label"], document.page_label(page.index()));
        fields["chapter"] = chapters[static_cast<std::size_t>(page.index())];
        LUMVET_TRY(const std::string own, compose::filled(text.text, fields));
        return texts.drawn({page.width(), page.height()}, own);
      },
      {.beneath = text.beneath, .what = text.beneath ? "wrote beneath" : "wrote on"});
}

}  // namespace lumvet

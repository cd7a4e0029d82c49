// SPDX-License-Identifier: Apache-2.0
#include "lumvet/draw/paragraph.h"

#include <algorithm>
#include <cmath>

#include "draw/line_breaks.h"
#include "draw/set_lines.h"
#include "objects/text_string.h"

namespace lumvet {

template <>
struct Inside<SetParagraph> {
  static const draw::SetLines& lines(const SetParagraph& paragraph) { return *paragraph.lines_; }
  static SetParagraph of(draw::SetLines lines, double width) {
    SetParagraph paragraph;
    paragraph.lines_ = std::make_shared<const draw::SetLines>(std::move(lines));
    paragraph.width_ = width;
    return paragraph;
  }
};

template <>
struct Inside<Paragraph> {
  using Part = Paragraph::Part;
  static const std::vector<Part>& parts(const Paragraph& paragraph) { return paragraph.parts_; }
  static int count(const Paragraph& paragraph, Part::Kind kind) {
    return static_cast<int>(std::count_if(paragraph.parts_.begin(), paragraph.parts_.end(),
                                          [&](const Part& part) { return part.kind == kind; }));
  }
};

namespace draw {

using Part = Inside<Paragraph>::Part;

Result<Paragraph> with_numbers(const Paragraph& paragraph, const PlacePages& pages, int& next,
                               std::vector<Note>& notes) {
  constexpr double kSmaller = 0.65;
  constexpr double kRaised = 0.36;  // of the size
  Paragraph numbered(paragraph.style());
  for (const Part& part : Inside<Paragraph>::parts(paragraph)) {
    TextStyle look = part.look;
    if (part.kind == Part::Kind::text) {
      numbered.add(part.text, look);
    } else if (part.kind == Part::Kind::note) {
      notes.push_back({next, part.text, look});
      look.size *= kSmaller;
      look.rise += part.look.size * kRaised;
      look.link = "#" + notes.back().place();
      numbered.add(std::to_string(next++), look);
    } else {
      const auto page = pages.find(part.text);
      if (page == pages.end())
        return Error(ErrorCode::invalid_argument,
                     "the page of '" + part.text + "' is asked for, which no heading is called");
      if (look.link.empty()) look.link = "#" + part.text;
      numbered.add(std::to_string(page->second), look);
    }
  }
  return numbered;
}

bool tells_pages(const Paragraph& paragraph) {
  return Inside<Paragraph>::count(paragraph, Part::Kind::page) > 0;
}
std::string plain_text(const Paragraph& paragraph) {
  std::string text;
  for (const Part& part : Inside<Paragraph>::parts(paragraph))
    if (part.kind == Part::Kind::text) text += part.text;
  return text;
}
int count_notes(const Paragraph& paragraph) {
  return Inside<Paragraph>::count(paragraph, Part::Kind::note);
}
TextStyle first_look(const Paragraph& paragraph) {
  const auto& parts = Inside<Paragraph>::parts(paragraph);
  return parts.empty() ? TextStyle() : parts.front().look;
}

const SetLines& lines_of(const SetParagraph& paragraph) {
  return Inside<SetParagraph>::lines(paragraph);
}

namespace {

using Align = ParagraphStyle::Align;

// Sets the lines of one text.
class Setting {
 public:
  Setting(const ShapedText& text, const ParagraphStyle& style, const LineBreaks& breaks,
          double width, const FreeRoom& free)
      : text_(text),
        units_(std::make_shared<const std::u16string>(text.text())),
        style_(style),
        breaks_(breaks),
        width_(width),
        free_(free) {}

  Result<SetLines> set() {
    SetLines lines;
    lines.runs_down = style_.runs_down;
    double top = 0;
    const auto size = static_cast<int>(text_.text().size());
    for (int at = 0; at < size;) {
      const double indent = lines.lines.empty() ? style_.first_indent : 0;
      const bool is_beside = top < free_.height - 1e-6;
      const double left = style_.left + indent + (is_beside ? free_.left : 0);
      const double right = style_.right + (is_beside ? free_.right : 0);
      const double room = std::max(width_ - left - right, 0.0);
      const LineRange range = breaks_.line_from(at, room);
      LUMVET_TRY(SetLine line, line_of(range, left, room));
      line.top = top;
      line.base_line += top;
      top += line.height;
      lines.lines.push_back(std::move(line));
      at = range.next;
    }
    return lines;
  }

 private:
  // What stands between two tabs, from a place on.
  Status add_runs(int begin, int end, double& x, std::vector<PlacedRun>& runs) {
    LUMVET_TRY(std::vector<ShapedRun> shaped, text_.line(begin, end));
    for (ShapedRun& run : shaped) {
      const std::u16string& all = *units_;
      std::erase_if(run.glyphs, [&](const ShapedGlyph& glyph) {
        return is_unseen(all[static_cast<std::size_t>(glyph.cluster)]);
      });
      const TextStyle& style = text_.styles()[run.style];
      runs.push_back({x, style, units_, std::move(run), false});
      x += runs.back().width();
    }
    return Done{};
  }

  // Signs over and over up to the next stop, on a grid that all lines have in common.
  Status add_leader(double from, double to, int tab, std::vector<PlacedRun>& runs) {
    const auto stop = std::find_if(style_.tabs.begin(), style_.tabs.end(),
                                   [&](const TabStop& one) { return one.at >= to - 1e-6; });
    if (stop == style_.tabs.end() || stop->leader.empty()) return Done{};
    TextStyle style = text_.styles()[text_.style_at(tab)];
    style.link.clear();
    LUMVET_TRY(const ShapedText leader, ShapedText::of({{stop->leader, style}}));
    if (leader.runs().empty()) return Done{};
    const auto text = std::make_shared<const std::u16string>(leader.text());
    const double step = width_of(leader.runs().front().glyphs) * style.size + style.size / 6;
    const double gap = style.size / 2;
    for (double x = std::ceil((from + gap) / step) * step; x + step <= to - gap / 2; x += step)
      runs.push_back({x, style, text, leader.runs().front(), true});
    return Done{};
  }

  Result<SetLine> line_of(const LineRange& range, double left, double room) {
    SetLine line;
    double x = 0;
    bool has_tab = false;
    int from = range.begin;
    for (int at = range.begin; at < range.end; ++at) {
      if ((*units_)[static_cast<std::size_t>(at)] != '\t') continue;
      has_tab = true;
      LUMVET_RETURN_IF_ERROR(add_runs(from, at, x, line.runs));
      const double behind = breaks_.behind_tab(at, x);
      LUMVET_RETURN_IF_ERROR(add_leader(x, behind, at, line.runs));
      x = behind;
      from = at + 1;
    }
    LUMVET_RETURN_IF_ERROR(add_runs(from, range.end, x, line.runs));
    if (range.is_divided) LUMVET_RETURN_IF_ERROR(add_hyphen(range, x, line.runs));
    if (!has_tab && style_.align == Align::justified && !range.is_hard)
      x = justified(line.runs, x, room);
    place(line, left, room - x);
    line.left = left + free_before(room - x);
    line.right = line.left + x;
    line.text = objects::utf16_to_utf8(seen(std::u16string_view(*units_).substr(
        static_cast<std::size_t>(range.begin), static_cast<std::size_t>(range.end - range.begin))));
    if (range.is_divided) line.text += '-';
    measure(line, range.begin);
    return line;
  }

  Status add_hyphen(const LineRange& range, double& x, std::vector<PlacedRun>& runs) {
    LUMVET_TRY(const ShapedText hyphen, hyphen_at(text_, range.end - 1));
    if (hyphen.runs().empty()) return Done{};
    PlacedRun run{x, hyphen.styles().front(), std::make_shared<const std::u16string>(hyphen.text()),
                  hyphen.runs().front()};
    const double width = run.width();
    if (text_.is_leftward()) {
      for (PlacedRun& other : runs) other.left += width;
      run.left = 0;
      runs.insert(runs.begin(), std::move(run));
    } else {
      runs.push_back(std::move(run));
    }
    x += width;
    return Done{};
  }

  // Widens the blanks, or what is between signs that are written without, so that the line fills
  // its room.
  double justified(std::vector<PlacedRun>& runs, double width, double room) const {
    const auto is_blank = [](const PlacedRun& run, const ShapedGlyph& glyph) {
      const char16_t c = (*run.text)[static_cast<std::size_t>(glyph.cluster)];
      return c == ' ' || c == 0xA0;
    };
    const auto is_wide = [](const PlacedRun& run, const ShapedGlyph& glyph) {
      const char16_t c = (*run.text)[static_cast<std::size_t>(glyph.cluster)];
      return (c >= 0x2E80 && c < 0xA4D0) || (c >= 0xF900 && c < 0xFB00) || c >= 0xFF00;
    };
    for (const bool by_blanks : {true, false}) {
      std::vector<std::pair<PlacedRun*, ShapedGlyph*>> gaps;
      for (PlacedRun& run : runs)
        for (ShapedGlyph& glyph : run.glyphs.glyphs)
          if (by_blanks ? is_blank(run, glyph) : is_wide(run, glyph))
            gaps.emplace_back(&run, &glyph);
      // Nothing is put behind the last sign of the line.
      if (!by_blanks && !gaps.empty()) gaps.pop_back();
      if (gaps.empty()) continue;
      const double more = (room - width) / static_cast<double>(gaps.size());
      for (const auto& [run, glyph] : gaps) glyph->advance += more / run->style.size;
      double x = 0;
      for (PlacedRun& run : runs) {
        run.left = x;
        x += run.width();
      }
      return x;
    }
    return width;
  }

  double free_before(double free) const {
    const bool leftward = text_.is_leftward();
    switch (style_.align) {
      case Align::center: return free / 2;
      case Align::right: return free;
      case Align::left: return 0;
      case Align::end: return leftward ? 0 : free;
      case Align::start:
      case Align::justified: break;
    }
    return leftward ? free : 0;
  }

  void place(SetLine& line, double left, double free) const {
    for (PlacedRun& run : line.runs) run.left += left + free_before(free);
  }

  // By its largest letters; by those at its beginning when there are none.
  void measure(SetLine& line, int begin) const {
    double size = 0;
    double above = 0;
    double below = 0;
    const auto take = [&](const Face& face, const TextStyle& style) {
      size = std::max(size, style.size);
      above = std::max(above, face.ascent * style.size + style.rise);
      below = std::max(below, -face.descent * style.size - style.rise);
    };
    for (const PlacedRun& run : line.runs)
      if (!run.glyphs.glyphs.empty()) take(*run.glyphs.face, run.style);
    if (size == 0 && !text_.runs().empty()) {
      const TextStyle& style = text_.styles()[text_.style_at(begin)];
      take(*text_.runs().front().face, style);
    }
    line.height = size * style_.line_height;
    line.base_line = (line.height - (above + below)) / 2 + above;
  }

  const ShapedText& text_;
  std::shared_ptr<const std::u16string> units_;
  const ParagraphStyle& style_;
  const LineBreaks& breaks_;
  double width_;
  FreeRoom free_;
};

}  // namespace
}  // namespace draw

SetParagraph::SetParagraph() : lines_(std::make_shared<const draw::SetLines>()) {}

std::size_t SetParagraph::line_count() const { return lines_->lines.size(); }
double SetParagraph::height() const { return line_top(line_count()); }
double SetParagraph::line_top(std::size_t line) const {
  if (line < lines_->lines.size()) return lines_->lines[line].top;
  return lines_->lines.empty() ? 0 : lines_->lines.back().top + lines_->lines.back().height;
}
double SetParagraph::base_line(std::size_t line) const {
  return line < line_count() ? lines_->lines[line].base_line : height();
}
double SetParagraph::line_left(std::size_t line) const {
  return line < line_count() ? lines_->lines[line].left : 0;
}
double SetParagraph::line_right(std::size_t line) const {
  return line < line_count() ? lines_->lines[line].right : 0;
}
std::string SetParagraph::line_text(std::size_t line) const {
  return line < line_count() ? lines_->lines[line].text : std::string();
}

Paragraph& Paragraph::add(std::string text, const TextStyle& look) {
  parts_.push_back({std::move(text), look, Part::Kind::text});
  return *this;
}
Paragraph& Paragraph::add_note(std::string note, const TextStyle& look) {
  parts_.push_back({std::move(note), look, Part::Kind::note});
  return *this;
}
Paragraph& Paragraph::add_page_of(std::string heading, const TextStyle& look) {
  parts_.push_back({std::move(heading), look, Part::Kind::page});
  return *this;
}

Result<SetParagraph> Paragraph::set(double width, const FreeRoom& free) const {
  if (!(width > free.left + free.right) || !std::isfinite(width))
    return Error(ErrorCode::invalid_argument, "a paragraph is set to a width of more than 0");
  if (draw::count_notes(*this) > 0 || draw::tells_pages(*this))
    return Error(
        ErrorCode::invalid_argument,
        "notes stand in a flow alone, and pages that headings are on there, but for rows of a "
        "source");
  std::vector<draw::StyledPart> parts;
  parts.reserve(parts_.size());
  for (const Part& part : parts_) {
    if (!(part.look.size > 0) || !std::isfinite(part.look.size))
      return Error(ErrorCode::invalid_argument, "letters are more than 0 points large");
    parts.push_back({part.text, part.look});
  }
  LUMVET_TRY(const draw::ShapedText text, draw::ShapedText::of(parts, style_.runs_down));
  LUMVET_TRY(const draw::LineBreaks breaks, draw::LineBreaks::of(text, style_));
  LUMVET_TRY(draw::SetLines lines, draw::Setting(text, style_, breaks, width, free).set());
  return Inside<SetParagraph>::of(std::move(lines), width);
}

Result<Paragraph::Widths> Paragraph::widths() const {
  std::vector<draw::StyledPart> parts;
  parts.reserve(parts_.size());
  for (const Part& part : parts_) parts.push_back({part.text, part.look});
  LUMVET_TRY(const draw::ShapedText text, draw::ShapedText::of(parts, style_.runs_down));
  LUMVET_TRY(const draw::LineBreaks breaks, draw::LineBreaks::of(text, style_));
  const double around = style_.left + style_.right;
  Widths widths{0, breaks.widest_word() + around};
  constexpr double kEndless = 1e9;
  for (int at = 0; at < static_cast<int>(text.text().size());) {
    const draw::LineRange range = breaks.line_from(at, kEndless);
    widths.whole = std::max(widths.whole, breaks.width(range.begin, range.end) + around);
    at = range.next;
  }
  return widths;
}

}  // namespace lumvet

// SPDX-License-Identifier: Apache-2.0
#include "text/drawn_text.h"

#include <cmath>
#include <vector>

#include "content/scene_data.h"

namespace lumvet::text {
namespace {

using content::SceneText;

// Parts of the font size.
constexpr double kBlank = 0.2;      // from which on a gap parts words
constexpr double kNextLine = 0.5;   // across the line
constexpr double kFarBack = 1.5;    // against the line
constexpr double kFarAhead = 15.0;  // along it: another column

double distance(Point from, Point to) { return std::hypot(to.x - from.x, to.y - from.y); }

bool ends_in_white(const std::string& text) {
  return text.empty() || text.back() == ' ' || text.back() == '\n';
}

// A glyph where it stands, in display space.
struct Letter {
  Point begin;
  Point end;
  double size = 0;  // points
};

class Reading {
 public:
  explicit Reading(const SceneText& text) : text_(text), is_said_(text.marks.size()) {}

  void add_run(std::size_t run);
  DrawnText take() { return std::move(drawn_); }

 private:
  // Where the last letter ended, and how large it was.
  struct Pen {
    Point end;
    Point along;      // of length 1
    double size = 0;  // points
  };

  void add(std::string_view characters, const Letter& letter, int mark);
  void add_gap(std::string_view characters, const Letter& letter, int mark);
  std::string_view gap_before(const Letter& letter) const;
  int replacing_mark(int mark) const;
  MarkKey key_of(const content::TextMark& mark) const {
    if (mark.form < 0) return {std::nullopt, *mark.number};
    return {text_.forms[static_cast<std::size_t>(mark.form)], *mark.number};
  }
  const content::TextMark& mark_at(int mark) const {
    return text_.marks[static_cast<std::size_t>(mark)];
  }

  const SceneText& text_;
  std::vector<bool> is_said_;  // of each mark, whether its actual text has been added
  DrawnText drawn_;
  std::optional<Pen> pen_;
};

// What stands between the last letter and this one.
std::string_view Reading::gap_before(const Letter& letter) const {
  if (!pen_) return "";
  const double dx = letter.begin.x - pen_->end.x;
  const double dy = letter.begin.y - pen_->end.y;
  const double ahead = (dx * pen_->along.x + dy * pen_->along.y) / pen_->size;
  const double beside = std::abs(dx * pen_->along.y - dy * pen_->along.x) / pen_->size;
  if (beside > kNextLine || ahead < -kFarBack || ahead > kFarAhead) return "\n";
  return ahead > kBlank ? " " : "";
}

void append(Line& line, std::string_view characters, const Letter& letter) {
  if (line.text.empty()) {
    line.begin = letter.begin;
    line.height = letter.size;
  }
  line.text += characters;
}

void Reading::add(std::string_view characters, const Letter& letter, int mark) {
  append(drawn_.all, characters, letter);
  for (; mark >= 0; mark = mark_at(mark).outer)
    if (mark_at(mark).number) append(drawn_.by_mark[key_of(mark_at(mark))], characters, letter);
}

void Reading::add_gap(std::string_view characters, const Letter& letter, int mark) {
  const std::string_view gap = gap_before(letter);
  const std::string& all = drawn_.all.text;
  if (gap == "\n" && !all.empty() && all.back() != '\n')
    add(gap, letter, mark);
  else if (gap == " " && !ends_in_white(all) && characters != " ")
    add(gap, letter, mark);
}

// The outermost that has an actual text, which stands for all within it; -1 without one.
int Reading::replacing_mark(int mark) const {
  int replacing = -1;
  for (; mark >= 0; mark = mark_at(mark).outer)
    if (mark_at(mark).actual_text >= 0) replacing = mark;
  return replacing;
}

void Reading::add_run(std::size_t run) {
  const content::TextRun& r = text_.runs[run];
  const Matrix placed = text_.placed(r);
  const bool vertical = text_.font_of(r).is_vertical();
  const int replacing = replacing_mark(r.mark);
  const auto at = [&](double along) {
    return vertical ? placed.apply({0, along}) : placed.apply({along, 0});
  };
  Letter letter;
  letter.size = distance(placed.apply({0, 0}), placed.apply({0, 1}));
  if (!(letter.size > 0) || !std::isfinite(letter.size)) return;
  std::size_t byte = r.first_byte;
  for (std::size_t i = r.first_glyph; i < text_.glyphs_end(run); ++i) {
    const content::TextGlyph& glyph = text_.glyphs[i];
    const std::string_view characters =
        std::string_view(text_.characters).substr(byte, glyph.characters());
    byte += glyph.characters();
    letter.begin = at(glyph.begin());
    letter.end = at(glyph.begin() + glyph.advance());
    add_gap(characters, letter, r.mark);
    if (replacing < 0) {
      add(characters, letter, r.mark);
    } else if (!is_said_[static_cast<std::size_t>(replacing)]) {
      is_said_[static_cast<std::size_t>(replacing)] = true;
      const auto actual = static_cast<std::size_t>(mark_at(replacing).actual_text);
      add(text_.actual_texts[actual], letter, r.mark);
    }
    const double length = distance(letter.begin, letter.end);
    Point along = pen_ ? pen_->along : Point{1, 0};
    if (length > 0)
      along = {(letter.end.x - letter.begin.x) / length, (letter.end.y - letter.begin.y) / length};
    pen_ = Pen{letter.end, along, letter.size};
  }
}

}  // namespace

DrawnText read(const Scene& scene) {
  const SceneText& text = data_of(scene).text;
  Reading reading(text);
  for (std::size_t run = 0; run < text.page_runs; ++run) reading.add_run(run);
  return reading.take();
}

}  // namespace lumvet::text

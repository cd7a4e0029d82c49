// SPDX-License-Identifier: Apache-2.0
#include "text/letters.h"

#include <algorithm>
#include <cmath>
#include <iterator>
#include <optional>

#include "base/allowance.h"
#include "text/accents.h"
#include "text/bends.h"
#include "text/bidirectional.h"
#include "text/sight.h"
#include "text/stacks.h"
#include "text/wide_characters.h"

namespace lumvet::text {
namespace {

using content::SceneText;

bool is_white(std::string_view characters) {
  if (characters.size() == 1)
    return characters[0] == ' ' || (characters[0] >= '\t' && characters[0] <= '\r');
  for (std::size_t i = 0; i < characters.size();) {
    const auto rest = characters.substr(i);
    const std::size_t length = rest[0] == ' ' || (rest[0] >= '\t' && rest[0] <= '\r') ? 1
                               : rest.starts_with("\xC2\xA0")                         ? 2
                               : rest.starts_with("\xE3\x80\x80")                     ? 3
                               : rest.starts_with("\xE2\x80") && rest.size() > 2 &&
                                       static_cast<unsigned char>(rest[2]) <= 0x8B
                                   ? 3
                                   : 0;
    if (length == 0) return false;
    i += length;
  }
  return !characters.empty();
}

// Letters and digits of ASCII, and signs that stand on the line.
bool is_surely_no_accent(const Letter& letter) {
  return letter.is_plain && letter.characters[0] != '^' && letter.characters[0] != '`' &&
         letter.characters[0] != '~';
}

Point unit_of(Point way) { return way * (1 / std::hypot(way.x, way.y)); }

class Sorting {
 public:
  Sorting(const content::SceneData& scene, const WordOptions& options)
      : text_(scene.text),
        bounds_(scene.bounds),
        expands_(options.expands_abbreviations),
        sight_(scene),
        is_said_(text_.marks.size()) {}

  void add_run(std::uint32_t run);
  // Runs that follow a bend of the line, as one.
  void add_bend(std::uint32_t first, std::uint32_t end);
  // Characters that stand below each other.
  void add_stack(std::uint32_t first, std::uint32_t end);
  std::vector<Direction> take();

 private:
  // How the letters of a run lie.
  struct Frame {
    Point line;  // along it, as long as the font size is stretched
    Point step;  // to the next glyph
    Point origin;
    double size;  // of the font across the line, in points
    bool is_vertical;
  };

  std::optional<Frame> frame_of(std::uint32_t run) const;
  std::optional<Frame> frame_in_stack(std::uint32_t run) const;
  void add_in(const std::optional<Frame>& frame, std::uint32_t run);
  void add_letters(std::uint32_t run, const Frame& frame, Direction& direction);
  void widen(const Letter& glyph, int replacing, Direction& direction) const;
  bool reaches(const Letter& letter, const Direction& direction) const;
  static Rect inner_box(const Letter& letter, const Direction& direction);
  Direction& direction_along(Point along);
  int replacing_mark(int mark) const;
  // The text that stands for all within a mark; -1 without one.
  int text_in_place_of(const content::TextMark& mark) const {
    return mark.actual_text < 0 && expands_ ? mark.expansion : mark.actual_text;
  }

  const SceneText& text_;
  Rect bounds_;
  bool expands_;
  Sight sight_;
  std::vector<bool> is_said_;  // of each mark, whether its actual text has been taken
  std::vector<Direction> directions_;
  std::vector<Direction> bends_;
  std::size_t last_ = 0;
};

// Lines of one paragraph differ by what numbers in files were rounded, no more.
Direction& Sorting::direction_along(Point along) {
  constexpr double kSame = 0.9999;   // the cosine of 0.8 degrees
  constexpr std::size_t kMost = 64;  // then those nearest are taken
  const auto is_along = [&](const Direction& known) { return dot(known.along, along) > kSame; };
  if (last_ < directions_.size() && is_along(directions_[last_])) return directions_[last_];
  auto found = std::find_if(directions_.begin(), directions_.end(), is_along);
  if (found == directions_.end() && directions_.size() >= kMost)
    found = std::max_element(directions_.begin(), directions_.end(),
                             [&](const Direction& a, const Direction& b) {
                               return dot(a.along, along) < dot(b.along, along);
                             });
  if (found == directions_.end()) {
    directions_.push_back({along, {-along.y, along.x}});
    if (directions_.size() == 1) directions_.back().letters.reserve(text_.glyphs.size());
    found = directions_.end() - 1;
  }
  last_ = static_cast<std::size_t>(found - directions_.begin());
  return *found;
}

// The outermost that has a text, which stands for all within it; -1 without one.
int Sorting::replacing_mark(int mark) const {
  int replacing = -1;
  for (; mark >= 0; mark = text_.marks[static_cast<std::size_t>(mark)].outer)
    if (text_in_place_of(text_.marks[static_cast<std::size_t>(mark)]) >= 0) replacing = mark;
  return replacing;
}

std::optional<Sorting::Frame> Sorting::frame_of(std::uint32_t run) const {
  const Matrix placed = text_.placed(text_.runs[run]);
  Frame frame{};
  frame.origin = {placed.e, placed.f};
  frame.is_vertical = text_.font_of(text_.runs[run]).is_vertical();
  // In vertical writing lines go down the glyphs.
  frame.step = frame.is_vertical ? Point{placed.c, placed.d} : Point{placed.a, placed.b};
  frame.line = frame.is_vertical ? frame.step * -1 : frame.step;
  const double stretch = std::hypot(frame.step.x, frame.step.y);
  frame.size = std::abs(placed.determinant()) / stretch;
  if (!(stretch > 0) || !(frame.size > 0) || !std::isfinite(stretch) || !std::isfinite(frame.size))
    return std::nullopt;
  return frame;
}

void Sorting::add_run(std::uint32_t run) { add_in(frame_of(run), run); }

void Sorting::add_stack(std::uint32_t first, std::uint32_t end) {
  for (std::uint32_t run = first; run < end; ++run) add_in(frame_in_stack(run), run);
}

void Sorting::add_in(const std::optional<Frame>& frame, std::uint32_t run) {
  if (frame) add_letters(run, *frame, direction_along(unit_of(frame->line)));
}

// The letters are put onto a straight line, and where they are is kept beside.
void Sorting::add_bend(std::uint32_t first, std::uint32_t end) {
  const Point chord = chord_of(text_, first, end);
  Direction bent{chord, {-chord.y, chord.x}};
  for (std::uint32_t run = first; run < end; ++run) {
    const std::optional<Frame> frame = frame_of(run);
    if (!frame) continue;
    const Point line = unit_of(frame->line);
    Direction own{line, {-line.y, line.x}};
    add_letters(run, *frame, own);
    straighten(own, bent);
  }
  bends_.push_back(std::move(bent));
}

// As in vertical writing: from the head of a square down the middle of it. A font's characters
// stand a little below their line.
std::optional<Sorting::Frame> Sorting::frame_in_stack(std::uint32_t run) const {
  constexpr double kBelow = 0.12;  // of the font size
  const content::TextGlyph& glyph = text_.glyphs[text_.runs[run].first_glyph];
  std::optional<Frame> frame = frame_of(run);
  if (!frame) return frame;
  const Matrix placed = text_.placed(text_.runs[run]);
  frame->origin = placed.apply(
      {glyph.begin() + glyph.advance() / 2, 1 - kBelow + glyph.begin() / glyph.advance()});
  frame->step = Point{placed.c, placed.d} * (-1 / glyph.advance());
  frame->line = frame->step;
  frame->is_vertical = true;
  return frame;
}

void Sorting::add_letters(std::uint32_t run, const Frame& frame, Direction& direction) {
  const content::TextRun& r = text_.runs[run];
  const Matrix placed = text_.placed(r);
  const double size = frame.size;
  const bool is_vertical = frame.is_vertical;
  const auto& [ascent, descent] = text_.font_of(r).line_extent();
  const bool is_mirrored = dot({placed.c, placed.d}, direction.down) > 0;
  Letter letter;
  letter.run = run;
  double letter_size = size;
  // Glyphs of Type 3 fonts may be of any size in units of the font size.
  constexpr fonts::LineExtent kUsual{2, -0.5};
  if (ascent > kUsual.ascent || descent < kUsual.descent || ascent - descent < 0.4)
    letter_size *= ascent - descent;
  letter.size = static_cast<float>(letter_size);
  const double start = dot(frame.origin, direction.along);
  const double base = dot(frame.origin, direction.down);
  const double above = is_vertical ? 0.5 : is_mirrored ? -descent : ascent;
  const double below = is_vertical ? 0.5 : is_mirrored ? ascent : -descent;
  letter.base = static_cast<float>(base);
  letter.top = static_cast<float>(base - size * above);
  letter.bottom = static_cast<float>(base + size * below);
  const double unit = dot(frame.step, direction.along);
  // Where all of it is: most runs lie wholly on the page, with nothing over or below them.
  const Rect box = text_.bounds_of(run);
  const bool is_inside = box.left >= bounds_.left && box.right <= bounds_.right &&
                         box.bottom >= bounds_.bottom && box.top <= bounds_.top;
  const std::optional<Visibility> of_all = is_inside ? sight_.of_all(r, box) : std::nullopt;
  if (of_all) letter.visibility = *of_all;
  const int replacing = replacing_mark(r.mark);
  const char* characters = text_.characters.data() + r.first_byte;
  const std::size_t end = text_.glyphs_end(run);
  for (std::size_t i = r.first_glyph; i < end; ++i) {
    const content::TextGlyph& glyph = text_.glyphs[i];
    letter.characters = {characters, glyph.characters()};
    characters += glyph.characters();
    const double from = start + glyph.begin() * unit;
    const double to = from + glyph.advance() * unit;
    letter.begin = static_cast<float>(std::min(from, to));
    letter.end = static_cast<float>(std::max(from, to));
    letter.is_unknown = false;
    if (replacing >= 0) {
      const auto mark = static_cast<std::size_t>(replacing);
      if (is_said_[mark]) {
        widen(letter, replacing, direction);
        continue;
      }
      letter.characters =
          text_.actual_texts[static_cast<std::size_t>(text_in_place_of(text_.marks[mark]))];
      is_said_[mark] = true;
    } else if (letter.characters.empty()) {
      letter.is_unknown = true;
      letter.characters = kUnknown;
    }
    letter.is_plain = letter.characters.size() == 1 && letter.characters[0] > ' ' &&
                      letter.characters[0] < '\x7F';
    letter.is_blank = !letter.is_plain && is_white(letter.characters);
    if (!is_inside && !reaches(letter, direction)) continue;
    if (!of_all) letter.visibility = sight_.of(r, inner_box(letter, direction));
    direction.letters.push_back(letter);
    direction.plain += letter.is_plain ? 1 : 0;
    direction.may_have_accents |= !letter.is_blank && !is_surely_no_accent(letter);
  }
}

// What a text stands for takes the room of all its glyphs on one line.
void Sorting::widen(const Letter& glyph, int replacing, Direction& direction) const {
  if (direction.letters.empty()) return;
  Letter& letter = direction.letters.back();
  if (replacing_mark(text_.runs[letter.run].mark) != replacing ||
      std::abs(letter.base - glyph.base) > letter.size)
    return;
  letter.begin = std::min(letter.begin, glyph.begin);
  letter.end = std::max(letter.end, glyph.end);
  letter.top = std::min(letter.top, glyph.top);
  letter.bottom = std::max(letter.bottom, glyph.bottom);
}

// Whether it is on the page, more or less.
bool Sorting::reaches(const Letter& letter, const Direction& direction) const {
  const Point middle =
      direction.to_display((letter.begin + letter.end) / 2, (letter.top + letter.bottom) / 2);
  const double reach = (letter.width() + letter.height()) / 2;
  return middle.x + reach >= bounds_.left && middle.x - reach <= bounds_.right &&
         middle.y + reach >= bounds_.bottom && middle.y - reach <= bounds_.top;
}

// About its middle, where its ink is; in display space.
Rect Sorting::inner_box(const Letter& letter, const Direction& direction) {
  constexpr float kInner = 0.25F;
  const float half_width = kInner * letter.width();
  const float half_height = kInner * letter.height();
  const double along = (letter.begin + letter.end) / 2;
  const double across = (letter.top + letter.bottom) / 2;
  Rect box = Rect::nothing();
  for (const float side : {-1.0F, 1.0F})
    for (const float other : {-1.0F, 1.0F})
      box.include(direction.to_display(along + side * half_width, across + other * half_height));
  return box;
}

std::vector<Direction> Sorting::take() {
  std::erase_if(directions_, [](const Direction& one) { return one.letters.empty(); });
  std::stable_sort(directions_.begin(), directions_.end(), [](const auto& a, const auto& b) {
    return a.letters.size() > b.letters.size();
  });
  std::erase_if(bends_, [](const Direction& one) { return one.letters.empty(); });
  std::move(bends_.begin(), bends_.end(), std::back_inserter(directions_));
  return std::move(directions_);
}

}  // namespace

bool Direction::goes_left() const {
  if (2 * plain >= letters.size()) return false;
  std::size_t lefts = 0;
  std::size_t others = 0;
  for (const Letter& letter : letters) {
    if (letter.is_blank || letter.characters.empty()) continue;
    if (letter.is_plain) {
      ++others;
      continue;
    }
    const bool is_left = is_right_to_left(first_of(letter.characters));
    (is_left ? lefts : others) += 1;
  }
  return lefts > others;
}

std::vector<Direction> letters_of(const content::SceneData& scene, const WordOptions& options,
                                  Runs runs) {
  const SceneText& text = scene.text;
  const bool is_page = runs == Runs::of_page;
  const std::size_t runs_end = is_page ? text.page_runs : text.runs.size();
  Sorting sorting(scene, options);
  BendFinder bends(text, runs_end);
  StackFinder stacks(text, runs_end);
  for (auto run = static_cast<std::uint32_t>(is_page ? 0 : text.page_runs);
       run < runs_end && goes_on();) {
    if (const std::uint32_t end = stacks.end_of(run); end > run) {
      sorting.add_stack(run, end);
      run = end;
      continue;
    }
    const std::uint32_t end = bends.end_of(run);
    if (end > run + 1)
      sorting.add_bend(run, end);
    else
      sorting.add_run(run);
    run = std::max(end, run + 1);
  }
  std::vector<Direction> directions = sorting.take();
  if (options.composes_accents)
    for (Direction& direction : directions)
      if (direction.may_have_accents) compose_accents(direction);
  return directions;
}

}  // namespace lumvet::text

// SPDX-License-Identifier: Apache-2.0
// What a scene says: the characters of its glyphs and where they stand, in about ten bytes a glyph.
// Characters that show nothing, as invisible text over a scan, are there too; hidden layers are
// not.
//
// Threads: immutable once recorded, share freely.
#pragma once

#include <array>
#include <bit>
#include <cmath>
#include <cstdint>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "content/letter_mode.h"
#include "fonts/font.h"
#include "lumvet/geometry/matrix.h"

namespace lumvet::content {

// A glyph, or the rest of one that stands for more characters than fit into the one before.
class TextGlyph {
 public:
  static constexpr std::size_t kMostBytes = 255;

  TextGlyph(double begin, double advance, std::size_t characters)
      : begin_(static_cast<float>(begin)), characters_(static_cast<std::uint8_t>(characters)) {
    constexpr double kLeast = 1e-30;  // others are nothing, or nonsense
    constexpr double kMost = 1e30;
    if (!(std::abs(advance) > kLeast && std::abs(advance) < kMost)) advance = 0;
    if (advance == 0) return;
    // The number as a fraction from a half to one, by its bits.
    const auto bits = std::bit_cast<std::uint64_t>(advance);
    const int exponent = static_cast<int>(bits >> kFractionBits & 0x7FF) - kBias + 1;
    const double scaled = advance * power_of_two(-exponent) * kUnit;
    mantissa_ = static_cast<std::int16_t>(scaled + (scaled < 0 ? -0.5 : 0.5));
    exponent_ = static_cast<std::int8_t>(exponent);
  }

  double begin() const { return begin_; }  // of the font size, along the run from its origin
  // To where the next glyph begins if nothing is put between; of the font size, exact to a
  // thirty-thousandth of itself.
  double advance() const { return mantissa_ * (1 / kUnit) * power_of_two(exponent_); }
  std::size_t characters() const { return characters_; }  // bytes of UTF-8

 private:
  static constexpr double kUnit = 32767;
  static constexpr int kBias = 1023;
  static constexpr int kFractionBits = 52;

  // By the bits of a number, which is quicker than ldexp.
  static double power_of_two(int exponent) {
    return std::bit_cast<double>(static_cast<std::uint64_t>(kBias + exponent) << kFractionBits);
  }

  float begin_;
  std::int16_t mantissa_ = 0;
  std::int8_t exponent_ = 0;
  std::uint8_t characters_;
};
static_assert(sizeof(TextGlyph) == 8);

struct TextLook {
  std::array<std::uint8_t, 3> color{};  // red, green and blue of the screen
  LetterMode mode = LetterMode::fill;
  bool has_color = false;  // one for all of it, and that is painted
  bool is_clear = false;   // painted, but so that what is below shows as it was
  bool operator==(const TextLook&) const = default;
};

// What runs have in common.
struct TextStyle {
  std::array<float, 4> scaled;  // a, b, c and d from units of the font size to display space
  std::uint32_t font;           // of SceneText::fonts
  TextLook look;
};

// Glyphs of one style that stand on one line, in the order in which they are shown.
struct TextRun {
  float x;  // of the origin, in display space
  float y;
  std::uint32_t style;        // of SceneText::styles
  std::int32_t mark;          // innermost of SceneText::marks; -1 outside of all
  std::uint32_t first_glyph;  // of SceneText::glyphs, up to that of the next run
  std::uint32_t first_byte;   // of SceneText::characters
  // How many operations had been added to the scene before it, those that were dropped since among
  // them. None that might cover it, or lie below it, comes between its glyphs.
  std::uint32_t operation;
  std::int32_t clip;  // that it is shown in, of the scene's; -1 for none
};

// Marked content (14.6).
struct TextMark {
  std::int32_t outer = -1;        // that it lies in
  std::int32_t form = -1;         // of SceneText::forms; -1 in the page's own content
  std::optional<int> number;      // /MCID
  std::int32_t actual_text = -1;  // of SceneText::actual_texts, where there is one
  std::int32_t expansion = -1;    // the same of what an abbreviation stands for (14.9.5)
  bool is_artifact = false;       // no content, as running heads (14.8.2.2)
};

struct SceneText {
  std::vector<TextRun> runs;
  std::vector<TextGlyph> glyphs;
  std::string characters;  // UTF-8
  std::vector<TextStyle> styles;
  std::vector<TextMark> marks;
  std::vector<std::uint64_t> forms;       // that marks are in, by offset in the file
  std::vector<std::string> actual_texts;  // UTF-8: what a mark's glyphs stand for (14.9.4, 14.9.5)
  std::vector<std::shared_ptr<const fonts::Font>> fonts;
  std::size_t page_runs = 0;  // those of the page's content come first, then those of annotations

  const fonts::Font& font_of(const TextRun& run) const { return *fonts[styles[run.style].font]; }
  // From units of the font size, with the origin where the run begins, to display space.
  Matrix placed(const TextRun& run) const {
    const auto& [a, b, c, d] = styles[run.style].scaled;
    return {a, b, c, d, run.x, run.y};
  }
  std::size_t glyphs_end(std::size_t run) const {
    return run + 1 < runs.size() ? runs[run + 1].first_glyph : glyphs.size();
  }
  // Around the lines of a run, from its font's descent to its ascent, in display space.
  Rect bounds_of(std::size_t run) const;
  std::size_t memory() const;  // bytes, without the fonts
};

}  // namespace lumvet::content

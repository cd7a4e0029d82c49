// SPDX-License-Identifier: Apache-2.0
// Font dictionaries (ISO 32000-2, 9.5 to 9.8): the bytes of a text to placed glyphs.
//
// Threads: immutable once read, share freely.
#pragma once

#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <string_view>

#include "base/budget.h"
#include "base/findings_list.h"
#include "fonts/font_matcher.h"
#include "fonts/font_program.h"
#include "objects/resolver.h"

namespace lumvet::fonts {

// How a glyph stands in a vertical line (9.7.4.3), in text space units.
struct VerticalMetrics {
  double advance = -1;  // downward is negative
  Point origin;         // from the origin of horizontal writing to that of vertical writing
};

struct Glyph {
  std::uint32_t code = 0;
  std::size_t code_bytes = 1;
  double width = 0;                     // of the advance, in text space units: 1 is the font size
  std::shared_ptr<const Path> outline;  // in units of the font size; null for blanks
  Rect ink;                             // that the outline covers
  double stretch = 1;                   // horizontal, for a substitute of other widths
  bool is_missing = false;              // the font lacks it, and it is no blank
  std::string_view text;                // what it stands for, in UTF-8 (9.10.2); empty if not said
  std::optional<VerticalMetrics> vertical;  // when the font writes downward
};

// What Type 3 fonts have instead of outlines: little content streams (9.6.4).
struct Type3 {
  Matrix matrix;  // from glyph to text space
  Dict resources;
  std::vector<Object> procedures;  // by code; null where there is none
};

// What a line of text takes above and below its baseline, of the font size.
struct LineExtent {
  double ascent = 0.75;
  double descent = -0.25;  // below the baseline is negative
};

struct FontTraits {
  std::string name = {};  // as FontUse has it: without a subset's prefix; empty where it has none
  bool is_bold = false;   // as the name or the descriptor says (9.8)
  bool is_italic = false;
};

class Font {
 public:
  virtual ~Font() = default;
  // Calls `visit` with each glyph of a text in turn; what it refers to is there during the call.
  virtual void decode(std::string_view text,
                      const std::function<void(const Glyph&)>& visit) const = 0;
  virtual const Type3* type3() const { return nullptr; }
  virtual bool is_vertical() const { return false; }
  virtual std::size_t memory() const { return sizeof(*this); }  // bytes, about
  const LineExtent& line_extent() const { return line_extent_; }
  const FontTraits& traits() const { return traits_; }

  // Never fails: a font that cannot be read is replaced and reported.
  static std::shared_ptr<const Font> make(const Dict& dict, const objects::Resolver& resolver,
                                          const Limits& limits, Findings& findings,
                                          const FontMatcher& supplied);

 protected:
  Font(const LineExtent& extent, FontTraits traits)
      : line_extent_(extent), traits_(std::move(traits)) {}

 private:
  LineExtent line_extent_;
  FontTraits traits_;
};

}  // namespace lumvet::fonts

// SPDX-License-Identifier: Apache-2.0
#include "fonts/standard_widths.h"

#include <algorithm>
#include <span>

namespace lumvet::fonts {
namespace {

struct NamedWidth {
  std::string_view glyph;
  int width;
};

namespace widths {
#include "fonts/standard_widths.inc"
}  // namespace widths

// Slanted ones without serifs are as wide as upright ones.
std::span<const NamedWidth> widths_of(std::string_view font) {
  if (font == "Helvetica" || font == "Helvetica-Oblique") return widths::kHelvetica;
  if (font == "Helvetica-Bold" || font == "Helvetica-BoldOblique") return widths::kHelveticaBold;
  if (font == "Times-Roman") return widths::kTimesRoman;
  if (font == "Times-Bold") return widths::kTimesBold;
  if (font == "Times-Italic") return widths::kTimesItalic;
  if (font == "Times-BoldItalic") return widths::kTimesBoldItalic;
  if (font == "Symbol") return widths::kSymbol;
  if (font == "ZapfDingbats") return widths::kZapfDingbats;
  return {};
}

bool is_courier(std::string_view font) {
  return font == "Courier" || font == "Courier-Bold" || font == "Courier-Oblique" ||
         font == "Courier-BoldOblique";
}

}  // namespace

std::optional<int> standard_width(std::string_view font, std::string_view glyph) {
  constexpr int kCourier = 600;
  if (glyph.empty() || glyph == ".notdef") return std::nullopt;
  if (is_courier(font)) return kCourier;
  const std::span<const NamedWidth> widths = widths_of(font);
  const auto found = std::lower_bound(
      widths.begin(), widths.end(), glyph,
      [](const NamedWidth& one, std::string_view wanted) { return one.glyph < wanted; });
  return found != widths.end() && found->glyph == glyph ? std::optional(found->width)
                                                        : std::nullopt;
}

}  // namespace lumvet::fonts

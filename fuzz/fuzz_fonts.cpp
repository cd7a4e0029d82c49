// SPDX-License-Identifier: Apache-2.0
// Any bytes as a font program: no crash, and outlines of numbers only.
#include <cmath>

#include "fonts/font_program.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using lumvet::fonts::FontProgram;
  const auto font = FontProgram::load(lumvet::Bytes(data, data + size));
  if (!font.ok()) return 0;
  const FontProgram& program = **font;
  constexpr unsigned kMost = 64;
  for (unsigned glyph = 0; glyph < std::min(program.glyph_count(), kMost); ++glyph) {
    if (!std::isfinite(program.advance(glyph))) __builtin_trap();
    const auto outline = program.outline(glyph);
    if (outline == nullptr) continue;
    for (const lumvet::Point& point : outline->points())
      if (!std::isfinite(point.x) || !std::isfinite(point.y)) __builtin_trap();
  }
  for (std::uint32_t code = 32; code < 96; ++code) {
    static_cast<void>(program.glyph_for_unicode(code));
    static_cast<void>(program.glyph_for_symbol(code));
    static_cast<void>(program.glyph_for_mac_code(code));
    static_cast<void>(program.glyph_for_built_in(code));
    static_cast<void>(program.glyph_for_cid(code));
  }
  static_cast<void>(program.glyph_named("A"));
  return 0;
}

// SPDX-License-Identifier: Apache-2.0
// The fonts of a FontSupply, and which of them comes nearest to a wish.
//
// Threads: const methods may run concurrently; anything else needs exclusive access.
#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include "fonts/font_program.h"
#include "lumvet/fonts/font_supply.h"

namespace lumvet::fonts {

struct FontWish;

struct FontMatcher {
  struct Face {
    std::shared_ptr<const FontProgram> program;
    std::string family;  // letters only, in lower case
  };
  std::vector<Face> faces;
  bool uses_system = true;
  std::uint64_t identity = 0;  // no two supplies that were changed apart have the same

  // Null when there is none of that name.
  std::shared_ptr<const FontProgram> named(const FontWish& wish) const;
  // Null when there is none that has the wish's language, or none at all.
  std::shared_ptr<const FontProgram> nearest(const FontWish& wish) const;
  // Null when there is none that has the character.
  std::shared_ptr<const FontProgram> with_character(std::uint32_t character,
                                                    const FontWish& wish) const;
};

}  // namespace lumvet::fonts

namespace lumvet {

template <>
struct Inside<FontSupply> {
  static const fonts::FontMatcher& fonts(const FontSupply& supply) { return *supply.fonts_; }
};
inline const fonts::FontMatcher& fonts_of(const FontSupply& supply) {
  return Inside<FontSupply>::fonts(supply);
}

}  // namespace lumvet

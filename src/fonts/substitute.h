// SPDX-License-Identifier: Apache-2.0
// Fonts for fonts that a document names but does not bring along: those that the application
// supplies, and those of the system, through fontconfig.
#pragma once

#include <memory>
#include <string>

#include "fonts/font_matcher.h"
#include "fonts/font_program.h"

namespace lumvet::fonts {

struct FontWish {
  std::string name{};  // /BaseFont: "ArialMT,Bold", "Times-Roman"
  bool serif = false;
  bool fixed_pitch = false;
  bool italic = false;
  bool bold = false;
  std::string language{};  // "ja", "ko", "zh-cn", "zh-tw"; empty for others
};

std::string letters_only(const std::string& name);  // in lower case
// A character that every font for the language has; 0 for the empty language.
std::uint32_t sample_character(const std::string& language);

// The nearest font there is; nullptr when there is none at all, or none for the language. Each of
// the system's is loaded once. Threads: internally synchronized.
std::shared_ptr<const FontProgram> find_substitute(const FontWish& wish,
                                                   const FontMatcher& supplied);

// The font of that family, to write with; with ":bold", ":italic" behind it of that style. Any
// plain one for an empty name. Errors: invalid_argument when there is none.
Result<std::shared_ptr<const FontProgram>> find_face(const std::string& name,
                                                     const FontMatcher& supplied);

// A font that has a character and can be embedded, as bold or italic as the wish; nullptr when
// there is none. Each of the system's is loaded once. Threads: internally synchronized.
std::shared_ptr<const FontProgram> find_with_character(char32_t character, const FontWish& wish,
                                                       const FontMatcher& supplied);

// A font of the system whose letters are pictures, and which has a character; nullptr when there is
// none. Threads: internally synchronized.
std::shared_ptr<const FontProgram> find_pictured(char32_t character);

}  // namespace lumvet::fonts

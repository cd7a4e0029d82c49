// SPDX-License-Identifier: Apache-2.0
// What simple and composite fonts read alike: the descriptor and the embedded program.
#pragma once

#include "base/findings_list.h"
#include "fonts/cmap.h"
#include "fonts/font.h"
#include "fonts/substitute.h"

namespace lumvet::fonts {

struct FontContext {
  const objects::Resolver& resolver;
  const Limits& limits;
  Findings& findings;
  const FontMatcher& supplied;
};

struct LoadedProgram {
  std::shared_ptr<const FontProgram> program;  // null when the system has no font at all
  bool embedded = false;
  bool is_truetype = false;  // of an embedded one
  // For letters that a substitute of another language lacks; null where there is no need for it.
  std::shared_ptr<const FontProgram> latin{};
};

// The program of a descriptor, or a substitute, which is a finding unless the font is one of the
// standard 14.
// `language` is that of a substitute's characters.
LoadedProgram load_program(std::string_view base_font, const Dict& descriptor,
                           const std::string& language, const FontContext& context);

// What stands for a character that no font has: an empty box in a place of that width, in units of
// the font size.
std::shared_ptr<const Path> box_of_width(double width);

// /BaseFont without the six letters and the plus sign of a subset.
std::string plain_name(std::string_view base_font);

// As the descriptor states it (9.8.1), where that can be; the usual one otherwise.
LineExtent read_line_extent(const Dict& descriptor, const FontContext& context);

FontTraits read_traits(std::string_view base_font, const Dict& descriptor,
                       const FontContext& context);

// Nothing where the font has none, or it cannot be read.
std::optional<CMap> read_to_unicode(const Dict& font, const FontContext& context);

std::shared_ptr<const Font> make_simple_font(const Dict& dict, const FontContext& context);
std::shared_ptr<const Font> make_composite_font(const Dict& dict, const FontContext& context);

}  // namespace lumvet::fonts

// SPDX-License-Identifier: Apache-2.0
#include "draw/color_space.h"

#include <algorithm>

#include "objects/serializer.h"

namespace lumvet::draw {

bool are_of_press(const std::vector<Color>& full) {
  return std::all_of(full.begin(), full.end(),
                     [](const Color& one) { return one.kind() == Color::Kind::cmyk; });
}

namespace {

// How much a full ink adds to a part of CMYK, or takes away of a part of RGB.
double strength(const Color& full, std::size_t part) {
  switch (full.kind()) {
    case Color::Kind::gray: return 1 - full.parts()[0];
    case Color::Kind::rgb: return 1 - full.parts()[part];
    default: break;
  }
  return full.parts()[part];
}

// What CMYK takes away of red, green or blue.
double strength_on_screen(const Color& full, std::size_t part) {
  if (full.kind() != Color::Kind::cmyk) return strength(full, part);
  return 1 - (1 - full.parts()[part]) * (1 - full.parts()[3]);
}

}  // namespace

std::string mixing_of(const std::vector<Color>& full) {
  const bool is_press = are_of_press(full);
  const std::size_t parts = is_press ? 4 : 3;
  std::string out = "{";
  // The tints stay below what is made of them, until all is made.
  for (std::size_t part = 0; part < parts; ++part) {
    out += is_press ? " 0" : " 1";
    for (std::size_t i = 0; i < full.size(); ++i) {
      out += " " + std::to_string(full.size() - i + part) + " index ";
      objects::serialize_number(
          is_press ? strength(full[i], part) : strength_on_screen(full[i], part), out);
      out += is_press ? " mul add" : " mul 1 exch sub mul";
    }
    if (is_press) out += " dup 1 gt {pop 1} if";
  }
  const std::string made = std::to_string(parts);
  out += " " + std::to_string(full.size() + parts) + " " + made + " roll";
  for (std::size_t i = 0; i < full.size(); ++i) out += " pop";
  return out + "}";
}

}  // namespace lumvet::draw

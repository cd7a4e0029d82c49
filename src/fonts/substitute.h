// SPDX-License-Identifier: Apache-2.0
// Fonts of the system for fonts that a document names but does not bring along, through fontconfig.
#pragma once

#include <memory>
#include <string>

#include "fonts/font_program.h"

namespace lumvet::fonts {

struct FontWish {
  std::string name;  // /BaseFont: "ArialMT,Bold", "Times-Roman"
  bool serif = false;
  bool fixed_pitch = false;
  bool italic = false;
  bool bold = false;
};

// The nearest font there is; nullptr when the system has none at all. Each is loaded once.
// Threads: internally synchronised.
std::shared_ptr<const FontProgram> find_substitute(const FontWish& wish);

}  // namespace lumvet::fonts

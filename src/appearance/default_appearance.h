// SPDX-License-Identifier: Apache-2.0
// The font, size and color that annotations and fields state for their text (ISO 32000-2, 12.7.4.3
// and 12.7.4.4).
//
// Threads: values and free functions.
#pragma once

#include <functional>
#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "lumvet/draw/text_style.h"
#include "lumvet/fonts/font_supply.h"

namespace lumvet::appearance {

struct TextLook {
  std::string font = {};           // by its name among resources: "Helv"
  double size = 0;                 // points; 0 for as large as there is room
  std::vector<double> color = {};  // as an annotation's
};

// Of operators: "/Helv 12 Tf 0 g". What makes no sense is left out.
TextLook read_text_look(std::string_view operators);
// What a style of CSS says of the same, over what there is: "font: italic 12pt Times; color: #a00".
void read_style(std::string_view css, TextLook& look);
// The operators again.
std::string operators_of(const TextLook& look);

// What the names of fonts stand for.
struct Fonts {
  FontSupply supply = FontSupply();
  std::map<std::string, std::string> base_fonts = {};  // of the document's form, by their names
  // Where the document has the font's own program, which may lack letters; empty without.
  std::function<std::optional<Typeface>(const std::string& name)> embedded = {};

  // Also of the usual names that a document does not explain; the name itself for others.
  std::string base_font(const std::string& name) const;
};

// To write with, in that size.
TextStyle style_of(const TextLook& look, double size, const Fonts& fonts);

}  // namespace lumvet::appearance

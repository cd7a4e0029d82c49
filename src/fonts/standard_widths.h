// SPDX-License-Identifier: Apache-2.0
// How wide the letters of the standard 14 fonts are (ISO 32000-2, 9.6.2.2), for documents that do
// not say it.
#pragma once

#include <optional>
#include <string_view>

namespace lumvet::fonts {

// Of a glyph, in units of a thousandth of the font size; nothing for other fonts, by /BaseFont
// without the letters of a subset, and for glyphs that they do not have.
std::optional<int> standard_width(std::string_view font, std::string_view glyph);

}  // namespace lumvet::fonts

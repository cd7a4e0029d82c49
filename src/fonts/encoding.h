// SPDX-License-Identifier: Apache-2.0
// Codes to glyph names, and glyph names to Unicode (ISO 32000-2, annex D and 9.6.5).
#pragma once

#include <array>
#include <cstdint>
#include <optional>
#include <string_view>

namespace lumvet::fonts {

using EncodingTable = std::array<std::string_view, 256>;  // empty where there is no glyph

// StandardEncoding, WinAnsiEncoding, MacRomanEncoding, MacExpertEncoding; nullptr for other names.
const EncodingTable* find_encoding(std::string_view name);
const EncodingTable& standard_encoding();
const EncodingTable& mac_roman_encoding();
// Built into the fonts Symbol and ZapfDingbats; nullptr for other fonts.
const EncodingTable* built_in_encoding(std::string_view base_font);

// From the Adobe Glyph List, or of the forms uniXXXX and uXXXXX; suffixes after '.' do not count.
std::optional<std::uint32_t> unicode_of_glyph(std::string_view name);
// "A" for "Asmall", "one" for "oneoldstyle" and the like; empty for other names.
std::string_view plain_glyph_name(std::string_view name);
// In UTF-8, also of several, as "f_f_i" names; empty for names that say nothing.
std::string text_of_glyph(std::string_view name);

}  // namespace lumvet::fonts

// SPDX-License-Identifier: Apache-2.0
// Text strings (ISO 32000-2, 7.9.2.2) and dates (7.9.4) to UTF-8 and back.
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace lumvet::objects {

// From UTF-16 with a byte-order mark, UTF-8 with one, or PDFDocEncoding.
std::string text_to_utf8(std::string_view bytes);
// PDFDocEncoding where it suffices, else UTF-16BE with a byte-order mark.
std::string utf8_to_text(std::string_view utf8);

std::u16string utf8_to_utf16(std::string_view utf8);
std::string utf16_to_utf8(std::u16string_view utf16);  // U+FFFD for halves of pairs

void append_utf8(std::uint32_t code_point, std::string& out);
// The next code point of a UTF-8 text; U+FFFD for what is none.
std::uint32_t next_code_point(std::string_view utf8, std::size_t& position);

// "D:20261123074000+01'00'" as "2026-11-23 07:40:00 +01:00"; nothing when it is no date.
std::optional<std::string> date_for_people(std::string_view date);
// The other way round, also of "2026-11-23", "2026-11-23 07:40" and "2026-11-23T07:40:00Z"; nothing
// when it is no date.
std::optional<std::string> date_from_people(std::string_view text);

}  // namespace lumvet::objects

// SPDX-License-Identifier: Apache-2.0
#include "objects/text_string.h"

#include <algorithm>
#include <array>
#include <cstdint>

#include "base/attempt.h"
#include "base/digits.h"

namespace lumvet::objects {
namespace {

// PDFDocEncoding (ISO 32000-2, annex D.3) where it differs from Latin-1.
constexpr std::array<std::uint16_t, 8> kFrom18 = {0x02D8, 0x02C7, 0x02C6, 0x02D9,
                                                  0x02DD, 0x02DB, 0x02DA, 0x02DC};
constexpr std::array<std::uint16_t, 33> kFrom80 = {
    0x2022, 0x2020, 0x2021, 0x2026, 0x2014, 0x2013, 0x0192, 0x2044, 0x2039, 0x203A, 0x2212,
    0x2030, 0x201E, 0x201C, 0x201D, 0x2018, 0x2019, 0x201A, 0x2122, 0xFB01, 0xFB02, 0x0141,
    0x0152, 0x0160, 0x0178, 0x017D, 0x0131, 0x0142, 0x0153, 0x0161, 0x017E, 0xFFFD, 0x20AC};

std::uint32_t from_doc_encoding(std::uint8_t byte) {
  if (byte >= 0x18 && byte < 0x20) return kFrom18[byte - 0x18u];
  if (byte >= 0x80 && byte <= 0xA0) return kFrom80[byte - 0x80u];
  return byte;
}

std::optional<std::uint8_t> to_doc_encoding(std::uint32_t code) {
  if (code == '\n' || code == '\r' || code == '\t') return static_cast<std::uint8_t>(code);
  for (unsigned byte = 0x20; byte < 0x100; ++byte)
    if (byte != 0x7F && byte != 0x9F && byte != 0xAD &&
        from_doc_encoding(static_cast<std::uint8_t>(byte)) == code)
      return static_cast<std::uint8_t>(byte);
  return std::nullopt;
}

std::string to_big_endian(std::u16string_view utf16) {
  std::string bytes;
  for (const char16_t unit : utf16) {
    bytes += static_cast<char>(unit >> 8);
    bytes += static_cast<char>(unit & 0xFF);
  }
  return bytes;
}

std::string from_utf16(std::string_view bytes, bool big_endian) {
  std::string out;
  const auto unit = [&](std::size_t i) {
    const auto first = static_cast<std::uint8_t>(bytes[i]);
    const auto second = static_cast<std::uint8_t>(bytes[i + 1]);
    return static_cast<std::uint32_t>(big_endian ? first << 8 | second : second << 8 | first);
  };
  for (std::size_t i = 0; i + 1 < bytes.size(); i += 2) {
    std::uint32_t code = unit(i);
    if (code == 0x1B) {  // a language escape runs to the next one (7.9.2.2.1)
      for (i += 2; i + 1 < bytes.size() && unit(i) != 0x1B;) i += 2;
      continue;
    }
    if (code >= 0xD800 && code < 0xDC00 && i + 3 < bytes.size()) {
      const std::uint32_t low = unit(i + 2);
      if (low >= 0xDC00 && low < 0xE000) {
        code = 0x10000 + ((code - 0xD800) << 10) + (low - 0xDC00);
        i += 2;
      }
    }
    append_utf8(code, out);
  }
  return out;
}

}  // namespace

void append_utf8(std::uint32_t code, std::string& out) {
  if ((code >= 0xD800 && code < 0xE000) || code > 0x10FFFF) code = 0xFFFD;
  const auto add = [&out](std::uint32_t byte) { out += static_cast<char>(byte); };
  if (code < 0x80) {
    add(code);
  } else if (code < 0x800) {
    add(0xC0 | code >> 6);
    add(0x80 | (code & 0x3F));
  } else if (code < 0x10000) {
    add(0xE0 | code >> 12);
    add(0x80 | (code >> 6 & 0x3F));
    add(0x80 | (code & 0x3F));
  } else {
    add(0xF0 | code >> 18);
    add(0x80 | (code >> 12 & 0x3F));
    add(0x80 | (code >> 6 & 0x3F));
    add(0x80 | (code & 0x3F));
  }
}

std::uint32_t next_code_point(std::string_view utf8, std::size_t& position) {
  const auto first = static_cast<std::uint8_t>(utf8[position++]);
  if (first < 0x80) return first;
  const int more = first >= 0xF0 ? 3 : first >= 0xE0 ? 2 : first >= 0xC0 ? 1 : -1;
  if (more < 0) return 0xFFFD;
  std::uint32_t code = first & (0x3Fu >> more);
  for (int i = 0; i < more; ++i) {
    if (position >= utf8.size() || (static_cast<std::uint8_t>(utf8[position]) & 0xC0) != 0x80)
      return 0xFFFD;
    code = code << 6 | (static_cast<std::uint8_t>(utf8[position++]) & 0x3F);
  }
  return code;
}

std::string text_to_utf8(std::string_view bytes) {
  if (bytes.empty()) return {};
  constexpr std::uint64_t kMostOfByte = 3;  // bytes of UTF-8
  if (!Attempt::follow(bytes.size() * kMostOfByte)) return {};
  if (bytes.starts_with("\xFE\xFF")) return from_utf16(bytes.substr(2), true);
  if (bytes.starts_with("\xFF\xFE")) return from_utf16(bytes.substr(2), false);
  std::string out;
  if (bytes.starts_with("\xEF\xBB\xBF")) {
    for (std::size_t i = 3; i < bytes.size();) append_utf8(next_code_point(bytes, i), out);
    return out;
  }
  const auto is_itself = [](char c) { return c >= ' ' && c <= '~'; };
  const auto first = std::find_if_not(bytes.begin(), bytes.end(), is_itself);
  out.assign(bytes.begin(), first);
  for (auto at = first; at != bytes.end(); ++at)
    append_utf8(from_doc_encoding(static_cast<std::uint8_t>(*at)), out);
  return out;
}

std::u16string utf8_to_utf16(std::string_view utf8) {
  std::u16string text;
  for (std::size_t i = 0; i < utf8.size();) {
    const std::uint32_t code = next_code_point(utf8, i);
    if (code < 0x10000) {
      text += static_cast<char16_t>(code);
    } else {
      text += static_cast<char16_t>(0xD800 + ((code - 0x10000) >> 10));
      text += static_cast<char16_t>(0xDC00 + ((code - 0x10000) & 0x3FF));
    }
  }
  return text;
}

std::string utf16_to_utf8(std::u16string_view utf16) {
  return from_utf16(to_big_endian(utf16), true);
}

std::string utf8_to_text(std::string_view utf8) {
  // Most texts are the same in all three.
  if (std::all_of(utf8.begin(), utf8.end(), [](char c) { return c >= ' ' && c <= '~'; }))
    return std::string(utf8);
  std::string plain;
  for (std::size_t i = 0; i < utf8.size();) {
    const auto byte = to_doc_encoding(next_code_point(utf8, i));
    if (!byte) return "\xFE\xFF" + to_big_endian(utf8_to_utf16(utf8));
    plain += static_cast<char>(*byte);
  }
  return plain;
}

std::optional<std::string> date_for_people(std::string_view date) {
  if (date.starts_with("D:")) date.remove_prefix(2);
  const auto digits = [&date](std::size_t count) -> std::optional<std::string> {
    if (date.size() < count) return std::nullopt;
    const std::string_view part = date.substr(0, count);
    if (!std::all_of(part.begin(), part.end(), [](char c) { return is_digit(c); }))
      return std::nullopt;
    date.remove_prefix(count);
    return std::string(part);
  };
  const auto year = digits(4);
  if (!year) return std::nullopt;
  std::string text = *year;
  for (const char* before : {"-", "-", " ", ":", ":"}) {
    const auto part = digits(2);
    if (!part) break;
    text += before + *part;
  }
  if (text.size() == 13) text += ":00";  // an hour alone looks like no time
  if (!date.empty() && date[0] == 'Z') return text + " UTC";
  if (!date.empty() && (date[0] == '+' || date[0] == '-')) {
    const std::string sign(1, date[0]);
    date.remove_prefix(1);
    if (const auto hours = digits(2)) {
      if (!date.empty() && date[0] == '\'') date.remove_prefix(1);
      text += " " + sign + *hours + ":" + digits(2).value_or("00");
    }
  }
  return text;
}

std::optional<std::string> date_from_people(std::string_view text) {
  std::size_t at = 0;
  std::string date = "D:";
  const auto digits = [&](std::size_t count) {
    for (std::size_t i = 0; i < count; ++i, ++at) {
      if (at >= text.size() || text[at] < '0' || text[at] > '9') return false;
      date += text[at];
    }
    return true;
  };
  const auto skip = [&](std::string_view any) {
    const bool is_there = at < text.size() && any.find(text[at]) != std::string_view::npos;
    if (is_there) ++at;
    return is_there;
  };
  if (!digits(4) || !skip("-") || !digits(2) || !skip("-") || !digits(2)) return std::nullopt;
  if (at == text.size()) return date;
  if (!skip(" T") || !digits(2) || !skip(":") || !digits(2)) return std::nullopt;
  if (skip(":")) {
    if (!digits(2)) return std::nullopt;
  } else {
    date += "00";
  }
  while (skip(" ")) {
  }
  if (at == text.size()) return date;
  if (text.substr(at) == "Z") return date + "Z";
  if (text[at] != '+' && text[at] != '-') return std::nullopt;
  date += text[at++];
  if (!digits(2) || !skip(":")) return std::nullopt;
  date += '\'';
  if (!digits(2) || at != text.size()) return std::nullopt;
  return date + '\'';
}

}  // namespace lumvet::objects

// SPDX-License-Identifier: Apache-2.0
#include "objects/serializer.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>

#include "objects/lexer.h"

namespace lumvet::objects {
namespace {

constexpr std::string_view kHex = "0123456789ABCDEF";

// Which bytes stand for themselves in a name.
constexpr auto kPlain = [] {
  std::array<bool, 256> plain{};
  for (std::size_t byte = 33; byte < 127; ++byte)
    plain[byte] = byte != '#' && is_regular(static_cast<std::uint8_t>(byte));
  return plain;
}();

void serialize_name(std::string_view text, std::string& out) {
  const auto is_plain = [](char c) { return kPlain[static_cast<std::uint8_t>(c)]; };
  out += '/';
  if (std::all_of(text.begin(), text.end(), is_plain)) {
    out += text;
    return;
  }
  for (const char c : text) {
    if (is_plain(c)) {
      out += c;
    } else {
      out += '#';
      append_hex(std::string_view(&c, 1), out);
    }
  }
}

void serialize_string(std::string_view bytes, std::string& out) {
  std::size_t awkward = 0;
  for (const char c : bytes) awkward += static_cast<std::uint8_t>(c) < 32 || c == 127;
  if (awkward * 4 > bytes.size()) {
    out += '<';
    append_hex(bytes, out);
    out += '>';
    return;
  }
  out += '(';
  for (const char c : bytes) {
    if (c == '(' || c == ')' || c == '\\') out += '\\';
    if (c == '\r')
      out += "\\r";  // a bare CR would read back as LF
    else
      out += c;
  }
  out += ')';
}

// Two regular tokens in a row need a space between them, and so does one after the empty name.
void separate(std::string& out) {
  if (!out.empty() && (out.back() == '/' || is_regular(static_cast<std::uint8_t>(out.back()))))
    out += ' ';
}

void serialize_integer(std::int64_t value, std::string& out) {
  std::array<char, 24> digits{};
  const auto end = std::to_chars(digits.data(), digits.data() + digits.size(), value);
  out.append(digits.data(), end.ptr);
}

}  // namespace

void append_hex(std::string_view bytes, std::string& out) {
  for (const char c : bytes) {
    out += kHex[static_cast<std::uint8_t>(c) >> 4];
    out += kHex[static_cast<std::uint8_t>(c) & 15];
  }
}

void serialize_number(double value, std::string& out) {
  if (!std::isfinite(value)) value = 0;
  std::array<char, 400> digits{};
  const auto end =
      std::to_chars(digits.data(), digits.data() + digits.size(), value, std::chars_format::fixed);
  std::string_view text(digits.data(), static_cast<std::size_t>(end.ptr - digits.data()));
  if (text == "-0") text = "0";
  out += text;
}

void serialize(const Dict& dict, std::string& out, const ReferenceMap& map) {
  out += "<<";
  for (const auto& [key, value] : dict) {
    if (map && value.is_reference()) {
      const Object mapped = map(value.as_reference());
      if (mapped.is_null()) continue;
      serialize_name(key, out);
      serialize(mapped, out);
    } else {
      serialize_name(key, out);
      serialize(value, out, map);
    }
  }
  out += ">>";
}

void serialize(const Object& object, std::string& out, const ReferenceMap& map) {
  if (object.is_reference() && map) return serialize(map(object.as_reference()), out);
  if (object.is_name()) return serialize_name(object.as_name(), out);
  if (object.is_string()) return serialize_string(object.as_string(), out);
  if (object.is_dict() || object.is_stream()) return serialize(object.as_dict(), out, map);
  if (object.is_array()) {
    out += '[';
    for (const Object& item : object.as_array()) serialize(item, out, map);
    out += ']';
    return;
  }
  separate(out);
  if (object.is_null()) out += "null";
  if (object.is_bool()) out += object.as_bool() ? "true" : "false";
  if (object.is_integer())
    serialize_integer(object.as_integer(), out);
  else if (object.is_number())
    serialize_number(object.as_number(), out);
  if (object.is_reference()) {
    serialize_integer(object.as_reference().number, out);
    out += ' ';
    serialize_integer(object.as_reference().generation, out);
    out += " R";
  }
}

}  // namespace lumvet::objects

namespace lumvet {

std::string to_text(const Object& object) {
  std::string text;
  objects::serialize(object, text);
  return text;
}

}  // namespace lumvet

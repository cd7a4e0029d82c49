// SPDX-License-Identifier: Apache-2.0
#include "fonts/encoding.h"

#include <algorithm>
#include <charconv>

#include "objects/text_string.h"

namespace lumvet::fonts {
namespace {

using Table = EncodingTable;

#include "fonts/encoding_tables.inc"

struct NamedGlyph {
  std::string_view name;
  std::uint16_t unicode;
};

constexpr NamedGlyph kGlyphs[] = {
#include "fonts/glyph_list.inc"
};

std::optional<std::uint32_t> from_hex(std::string_view digits) {
  std::uint32_t code = 0;
  const auto read = std::from_chars(digits.data(), digits.data() + digits.size(), code, 16);
  if (read.ec != std::errc() || read.ptr != digits.data() + digits.size()) return std::nullopt;
  return code;
}

}  // namespace

const EncodingTable* find_encoding(std::string_view name) {
  if (name == "StandardEncoding") return &kStandard;
  if (name == "WinAnsiEncoding") return &kWinAnsi;
  if (name == "MacRomanEncoding") return &kMacRoman;
  if (name == "MacExpertEncoding") return &kMacExpert;
  return nullptr;
}

const EncodingTable& standard_encoding() { return kStandard; }
const EncodingTable& mac_roman_encoding() { return kMacRoman; }

const EncodingTable* built_in_encoding(std::string_view base_font) {
  if (base_font == "Symbol") return &kSymbol;
  if (base_font == "ZapfDingbats") return &kZapfDingbats;
  return nullptr;
}

std::optional<std::uint32_t> unicode_of_glyph(std::string_view name) {
  const auto* found = std::lower_bound(
      std::begin(kGlyphs), std::end(kGlyphs), name,
      [](const NamedGlyph& glyph, std::string_view wanted) { return glyph.name < wanted; });
  if (found != std::end(kGlyphs) && found->name == name) return found->unicode;
  const std::size_t dot = name.find('.');
  if (dot != std::string_view::npos && dot > 0) return unicode_of_glyph(name.substr(0, dot));
  if (name.starts_with("uni") && name.size() >= 7) return from_hex(name.substr(3, 4));
  if (name.starts_with("u") && name.size() >= 5 && name.size() <= 7)
    return from_hex(name.substr(1));
  return std::nullopt;
}

std::string_view plain_glyph_name(std::string_view name) {
  for (const std::string_view ending : {"small", "oldstyle", "superior", "inferior"})
    if (name.size() > ending.size() && name.ends_with(ending))
      return name.substr(0, name.size() - ending.size());
  return {};
}

std::string text_of_glyph(std::string_view name) {
  if (name.size() == 1) return std::string(name);  // itself, though no list has it
  name = name.substr(0, name.find('.', 1));
  // What only has a place of its own among private characters is said by the plain one.
  if (const std::string_view plain = plain_glyph_name(name); !plain.empty()) name = plain;
  std::string text;
  while (!name.empty()) {
    const std::size_t end = std::min(name.find('_'), name.size());
    if (const auto character = unicode_of_glyph(name.substr(0, end)))
      objects::append_utf8(*character, text);
    name.remove_prefix(std::min(end + 1, name.size()));
  }
  return text;
}

}  // namespace lumvet::fonts

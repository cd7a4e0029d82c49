// SPDX-License-Identifier: Apache-2.0
// A font with glyphs that are made of others in several colors (OpenType's tables COLR, version 0,
// and CPAL), out of one that has none.
#pragma once

#include <algorithm>
#include <array>
#include <map>
#include <string>
#include <utility>
#include <vector>

#include "lumvet/base/bytes.h"

namespace test {

// Glyphs with the places of their colors in the palette, from the lowest layer on.
using Layers = std::vector<std::pair<unsigned, unsigned>>;
// Red, green, blue and opacity.
using Palette = std::vector<std::array<unsigned, 4>>;

namespace layered {

inline void put(lumvet::Bytes& out, std::size_t value, int bytes) {
  for (int i = bytes - 1; i >= 0; --i)
    out.push_back(static_cast<std::uint8_t>(value >> (8 * i) & 0xFF));
}

inline std::size_t read(lumvet::ByteView bytes, std::size_t at, int count) {
  std::size_t value = 0;
  for (int i = 0; i < count; ++i) value = value << 8 | bytes[at + static_cast<std::size_t>(i)];
  return value;
}

}  // namespace layered

inline lumvet::Bytes with_layers(lumvet::ByteView font, const std::map<unsigned, Layers>& glyphs,
                                 const Palette& palette) {
  using layered::put;
  using layered::read;
  std::size_t layer_count = 0;
  for (const auto& [glyph, layers] : glyphs) layer_count += layers.size();
  constexpr std::size_t kHead = 14;
  lumvet::Bytes colr;
  put(colr, 0, 2);
  put(colr, glyphs.size(), 2);
  put(colr, kHead, 4);
  put(colr, kHead + 6 * glyphs.size(), 4);
  put(colr, layer_count, 2);
  std::size_t first = 0;
  for (const auto& [glyph, layers] : glyphs) {
    put(colr, glyph, 2);
    put(colr, first, 2);
    put(colr, layers.size(), 2);
    first += layers.size();
  }
  for (const auto& [glyph, layers] : glyphs)
    for (const auto& [layer, color] : layers) {
      put(colr, layer, 2);
      put(colr, color, 2);
    }
  lumvet::Bytes cpal;
  for (const std::size_t value : {std::size_t(0), palette.size(), std::size_t(1), palette.size()})
    put(cpal, value, 2);
  put(cpal, kHead, 4);
  put(cpal, 0, 2);
  for (const auto& [red, green, blue, opacity] : palette)
    for (const unsigned part : {blue, green, red, opacity}) put(cpal, part, 1);

  // All tables, in the order of their names (OpenType, "Organization of an OpenType font").
  std::map<std::string, lumvet::Bytes> tables{{"COLR", colr}, {"CPAL", cpal}};
  for (std::size_t i = 0; i < read(font, 4, 2); ++i) {
    const std::size_t entry = 12 + 16 * i;
    const auto begin = font.begin() + static_cast<std::ptrdiff_t>(read(font, entry + 8, 4));
    tables.emplace(
        std::string(font.begin() + static_cast<std::ptrdiff_t>(entry),
                    font.begin() + static_cast<std::ptrdiff_t>(entry + 4)),
        lumvet::Bytes(begin, begin + static_cast<std::ptrdiff_t>(read(font, entry + 12, 4))));
  }
  lumvet::Bytes made;
  put(made, read(font, 0, 4), 4);
  put(made, tables.size(), 2);
  put(made, 0, 6);
  std::size_t at = 12 + 16 * tables.size();
  for (const auto& [name, bytes] : tables) {
    made.insert(made.end(), name.begin(), name.end());
    put(made, 0, 4);
    put(made, at, 4);
    put(made, bytes.size(), 4);
    at += (bytes.size() + 3) / 4 * 4;
  }
  for (const auto& [name, bytes] : tables) {
    made.insert(made.end(), bytes.begin(), bytes.end());
    while (made.size() % 4 != 0) made.push_back(0);
  }
  return made;
}

}  // namespace test

// SPDX-License-Identifier: Apache-2.0
#include "save/cross_reference_rows.h"

namespace lumvet::saving {

std::size_t width_of(std::uint64_t greatest_offset) {
  std::size_t width = 1;
  while (greatest_offset >> (8 * width) != 0) ++width;
  return width;
}

Bytes plain_rows(const std::vector<Place>& places, std::size_t width) {
  Bytes rows;
  rows.reserve(places.size() * (width + 2));
  for (const Place& place : places) {
    rows.push_back(static_cast<std::uint8_t>(place.kind));
    for (std::size_t byte = width; byte-- > 0;)
      rows.push_back(static_cast<std::uint8_t>(place.where >> (8 * byte)));
    const std::uint32_t last = place.kind == Place::Kind::free ? 0xFF : place.index;
    rows.push_back(static_cast<std::uint8_t>(last));
  }
  return rows;
}

Bytes predicted_rows(const std::vector<Place>& places, std::size_t width) {
  const Bytes plain = plain_rows(places, width);
  const std::size_t length = width + 2;
  constexpr std::uint8_t kUp = 2;
  Bytes rows;
  rows.reserve(places.size() * (length + 1));
  for (std::size_t i = 0; i < plain.size(); ++i) {
    if (i % length == 0) rows.push_back(kUp);
    const std::uint8_t above = i < length ? 0 : plain[i - length];
    rows.push_back(static_cast<std::uint8_t>(plain[i] - above));
  }
  return rows;
}

}  // namespace lumvet::saving

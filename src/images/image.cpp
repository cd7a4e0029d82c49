// SPDX-License-Identifier: Apache-2.0
#include "images/image.h"

#include <cstring>

#include "images/sample_reader.h"

namespace lumvet::images {

const std::uint8_t* Image::unpacked(int y, int first, int count, Bytes& room) const {
  const auto skipped = static_cast<std::size_t>(first) % 8;
  const std::size_t wanted = skipped + static_cast<std::size_t>(count);
  if (room.size() < wanted) room.resize(wanted);
  expand_bits({packed_row(y) + first / 8, (wanted + 7) / 8}, wanted, zero, one, room.data());
  return room.data() + skipped;
}

std::optional<std::uint8_t> Image::only_value(int y, int first, int count) const {
  if (!is_packed || count <= 0) return std::nullopt;
  const std::uint8_t* row = packed_row(y);
  // Whole bytes, of which a few bits may lie beside.
  const auto begin = static_cast<std::size_t>(first) / 8;
  const auto last = static_cast<std::size_t>(first + count - 1) / 8;
  const std::uint8_t byte = row[begin];
  if (byte != 0 && byte != 0xFF) return std::nullopt;
  if (std::memcmp(row + begin, row + begin + 1, last - begin) != 0) return std::nullopt;
  return byte == 0 ? zero : one;
}

bool Image::is_even() const {
  const auto each = static_cast<std::size_t>(channels());
  return !is_packed && samples.size() > each &&
         std::memcmp(samples.data(), samples.data() + each, samples.size() - each) == 0;
}

Image Image::one_sample() const {
  return {.width = 1,
          .height = 1,
          .across = 1,
          .down = 1,
          .kind = kind,
          .samples = SampleBytes(samples.begin(), samples.begin() + channels()),
          .mask = mask};
}

}  // namespace lumvet::images

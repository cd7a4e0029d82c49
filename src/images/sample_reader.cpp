// SPDX-License-Identifier: Apache-2.0
#include "images/sample_reader.h"

#include <algorithm>
#include <array>
#include <cstring>

namespace lumvet::images {
namespace {

// Eight bytes for every byte: 255 where its bits are 1, the highest first.
constexpr auto kMasks = [] {
  std::array<std::array<std::uint8_t, 8>, 256> masks{};
  for (unsigned byte = 0; byte < masks.size(); ++byte)
    for (unsigned bit = 0; bit < 8; ++bit) masks[byte][bit] = (byte << bit & 0x80) != 0 ? 255 : 0;
  return masks;
}();

}  // namespace

void expand_bits(ByteView row, std::size_t count, std::uint8_t zero, std::uint8_t one,
                 std::uint8_t* out) {
  count = std::min(count, row.size() * 8);
  constexpr std::uint64_t kEach = 0x0101010101010101;
  const std::uint64_t zeros = zero * kEach;
  const std::uint64_t changes = static_cast<std::uint64_t>(zero ^ one) * kEach;
  const auto eight = [&](std::size_t at) {
    std::uint64_t bytes;
    std::memcpy(&bytes, kMasks[row[at / 8]].data(), sizeof bytes);
    return zeros ^ (bytes & changes);
  };
  std::size_t done = 0;
  for (; done + 8 <= count; done += 8) {
    const std::uint64_t bytes = eight(done);
    std::memcpy(out + done, &bytes, sizeof bytes);
  }
  if (done == count) return;
  const std::uint64_t bytes = eight(done);
  std::memcpy(out + done, &bytes, count - done);
}

}  // namespace lumvet::images

// SPDX-License-Identifier: Apache-2.0
#include "images/picture.h"

#include "images/sample_reader.h"

namespace lumvet::images {

const std::uint8_t* Picture::unpacked(int y, int first, int count, Bytes& room) const {
  const auto skipped = static_cast<std::size_t>(first) % 8;
  const std::size_t wanted = skipped + static_cast<std::size_t>(count);
  if (room.size() < wanted) room.resize(wanted);
  const auto row_bytes = (static_cast<std::size_t>(width) + 7) / 8;
  const std::size_t at =
      static_cast<std::size_t>(y) * row_bytes + static_cast<std::size_t>(first) / 8;
  expand_bits(ByteView(samples).subspan(at, (wanted + 7) / 8), wanted, zero, one, room.data());
  return room.data() + skipped;
}

}  // namespace lumvet::images

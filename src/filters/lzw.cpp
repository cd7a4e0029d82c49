// SPDX-License-Identifier: Apache-2.0
// LZWDecode (ISO 32000-2, 7.4.4.2): codes of 9 to 12 bits, 256 clears the table, 257 ends.
#include <array>

#include "filters/decoder.h"
#include "filters/predictor.h"

namespace lumvet::filters {
namespace {

constexpr unsigned kClear = 256;
constexpr unsigned kEnd = 257;
constexpr unsigned kTableSize = 4096;

struct Table {
  std::array<std::uint16_t, kTableSize> prefix{};
  std::array<std::uint8_t, kTableSize> last{};
  std::array<std::uint16_t, kTableSize> length{};
  unsigned next_code = kEnd + 1;

  Table() {
    for (unsigned code = 0; code < kClear; ++code) {
      last[code] = static_cast<std::uint8_t>(code);
      length[code] = 1;
    }
  }

  void append_sequence(unsigned code, Bytes& out) const {
    const std::size_t end = out.size() + length[code];
    out.resize(end);
    for (std::size_t at = end; length[code] > 0; code = prefix[code]) {
      out[--at] = last[code];
      if (length[code] == 1) break;
    }
  }

  std::uint8_t first_of(unsigned code) const {
    while (length[code] > 1) code = prefix[code];
    return last[code];
  }
};

}  // namespace

Result<Decoded> decode_lzw(const DecodeRequest& request) {
  const unsigned early = request.parameters["EarlyChange"].as_integer(1) != 0 ? 1 : 0;
  Decoded decoded;
  Table table;
  unsigned width = 9;
  std::optional<unsigned> previous;
  std::uint32_t bits = 0;
  unsigned bit_count = 0;
  bool ended = false;
  for (std::size_t i = 0; i < request.input.size() && !ended;) {
    while (bit_count < width && i < request.input.size()) {
      bits = bits << 8 | request.input[i++];
      bit_count += 8;
    }
    if (bit_count < width) break;
    bit_count -= width;
    const unsigned code = bits >> bit_count & ((1u << width) - 1);
    if (code == kEnd) {
      ended = true;
    } else if (code == kClear) {
      table.next_code = kEnd + 1;
      width = 9;
      previous.reset();
    } else {
      if (code > table.next_code || (code == table.next_code && !previous)) {
        decoded.damage = "an LZW code beyond the table";
        decoded.damage_offset = i;
        break;
      }
      if (previous && table.next_code < kTableSize) {
        const unsigned added = table.next_code++;
        table.prefix[added] = static_cast<std::uint16_t>(*previous);
        table.length[added] = static_cast<std::uint16_t>(table.length[*previous] + 1);
        table.last[added] = table.first_of(code == added ? *previous : code);
      }
      if (table.length[code] > request.most_bytes - decoded.bytes.size())
        return output_limit("LZW", request.most_bytes);
      table.append_sequence(code, decoded.bytes);
      previous = code;
      if (table.next_code + early >= 2048)
        width = 12;
      else if (table.next_code + early >= 1024)
        width = 11;
      else if (table.next_code + early >= 512)
        width = 10;
    }
  }
  if (!ended && !decoded.damage) {
    decoded.damage = "the LZW data is cut off";
    decoded.damage_offset = request.input.size();
  }
  LUMVET_CHECK(undo_predictor(request.parameters, decoded.bytes));
  return decoded;
}

}  // namespace lumvet::filters

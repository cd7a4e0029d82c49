// SPDX-License-Identifier: Apache-2.0
// ASCIIHexDecode and ASCII85Decode (ISO 32000-2, 7.4.2 and 7.4.3).
#include "filters/decoder.h"
#include "objects/lexer.h"

namespace lumvet::filters {

Result<Decoded> decode_ascii_hex(const DecodeRequest& request) {
  Decoded decoded;
  int high = -1;
  bool ended = false;
  for (std::size_t i = 0; i < request.input.size() && !ended; ++i) {
    const std::uint8_t byte = request.input[i];
    const int digit = objects::hex_digit(byte);
    if (byte == '>') {
      ended = true;
    } else if (digit >= 0) {
      if (high < 0) {
        high = digit;
        continue;
      }
      if (decoded.bytes.size() >= request.most_bytes)
        return output_limit("ASCIIHex", request.most_bytes);
      decoded.bytes.push_back(static_cast<std::uint8_t>(high << 4 | digit));
      high = -1;
    } else if (!objects::is_white(byte) && !decoded.damage) {
      decoded.damage = "a byte that is no hexadecimal digit was passed over";
      decoded.damage_offset = i;
    }
  }
  if (high >= 0) {
    if (decoded.bytes.size() >= request.most_bytes)
      return output_limit("ASCIIHex", request.most_bytes);
    decoded.bytes.push_back(static_cast<std::uint8_t>(high << 4));
  }
  if (!ended && !decoded.damage) {
    decoded.damage = "the ASCIIHex data has no '>' at its end";
    decoded.damage_offset = request.input.size();
  }
  return decoded;
}

Result<Decoded> decode_ascii85(const DecodeRequest& request) {
  Decoded decoded;
  std::uint32_t group = 0;
  int count = 0;
  bool ended = false;
  const auto give = [&](int bytes) {
    for (int i = 0; i < bytes; ++i)
      decoded.bytes.push_back(static_cast<std::uint8_t>(group >> (24 - 8 * i)));
  };
  std::size_t i = 0;
  // Some writers put the "<~" of other uses of this code in front.
  while (i < request.input.size() && objects::is_white(request.input[i])) ++i;
  if (as_text(request.input.subspan(i)).starts_with("<~")) i += 2;
  for (; i < request.input.size() && !ended; ++i) {
    const std::uint8_t byte = request.input[i];
    if (decoded.bytes.size() + 4 > request.most_bytes)
      return output_limit("ASCII85", request.most_bytes);
    if (byte == '~') {
      ended = true;
    } else if (byte == 'z' && count == 0) {
      group = 0;
      give(4);
    } else if (byte >= '!' && byte <= 'u') {
      group = group * 85 + (byte - static_cast<std::uint32_t>('!'));
      if (++count == 5) {
        give(4);
        group = 0;
        count = 0;
      }
    } else if (!objects::is_white(byte) && !decoded.damage) {
      decoded.damage = "a byte outside the ASCII85 alphabet was passed over";
      decoded.damage_offset = i;
    }
  }
  if (count > 1) {
    for (int missing = count; missing < 5; ++missing) group = group * 85 + 84;
    give(count - 1);
  }
  if (!ended && !decoded.damage) {
    decoded.damage = "the ASCII85 data has no '~>' at its end";
    decoded.damage_offset = request.input.size();
  }
  return decoded;
}

}  // namespace lumvet::filters

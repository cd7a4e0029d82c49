// SPDX-License-Identifier: Apache-2.0
#include "filters/encoded_end.h"

#include <zlib.h>

#include <array>

#include "base/allowance.h"

namespace lumvet::filters {
namespace {

using End = std::optional<std::size_t>;

// Behind the first `byte`.
End behind(ByteView input, std::uint8_t byte, std::size_t from = 0) {
  for (std::size_t at = from; at < input.size(); ++at)
    if (input[at] == byte) return at + 1;
  return std::nullopt;
}

End end_of_ascii85(ByteView input) {
  const End tilde = behind(input, '~');
  return tilde ? behind(input, '>', *tilde) : End();
}

End end_of_run_length(ByteView input) {
  constexpr std::uint8_t kEnd = 128;
  for (std::size_t at = 0; at < input.size();) {
    const std::uint8_t length = input[at++];
    if (length == kEnd) return at;
    at += length < kEnd ? length + std::size_t{1} : 1;
  }
  return std::nullopt;
}

End end_of_flate(ByteView input) {
  z_stream stream{};
  if (inflateInit(&stream) != Z_OK) return std::nullopt;
  struct Closing {
    z_stream& stream;
    ~Closing() { inflateEnd(&stream); }
  } const closing{stream};
  stream.next_in = const_cast<Bytef*>(input.data());
  stream.avail_in = static_cast<uInt>(std::min<std::size_t>(input.size(), 1u << 30));
  std::array<Bytef, 4096> out;
  for (int state = Z_OK; state == Z_OK && goes_on();) {
    stream.next_out = out.data();
    stream.avail_out = out.size();
    state = inflate(&stream, Z_NO_FLUSH);
    if (state == Z_STREAM_END) return stream.total_in;
  }
  return std::nullopt;
}

// By the lengths of its codes alone.
End end_of_lzw(ByteView input, bool is_early) {
  constexpr unsigned kClear = 256;
  constexpr unsigned kEnd = 257;
  constexpr unsigned kMostBits = 12;
  unsigned bits = 9;
  unsigned next_code = kEnd + 1;
  bool is_first = true;  // after the table was cleared
  std::uint32_t kept = 0;
  unsigned kept_bits = 0;
  for (std::size_t at = 0; at < input.size();) {
    kept = kept << 8 | input[at++];
    kept_bits += 8;
    if (kept_bits < bits) continue;
    kept_bits -= bits;
    const unsigned code = kept >> kept_bits & ((1u << bits) - 1);
    if (code == kEnd) return at;
    if (code == kClear) {
      bits = 9;
      next_code = kEnd + 1;
      is_first = true;
      continue;
    }
    if (!is_first && next_code < 1u << kMostBits) ++next_code;
    is_first = false;
    while (bits < kMostBits && next_code + (is_early ? 1 : 0) >= 1u << bits) ++bits;
  }
  return std::nullopt;
}

// Behind the marker of its end: segments are passed over by their lengths, what lies between is
// coded so that it has none.
End end_of_dct(ByteView input) {
  constexpr std::uint8_t kMarker = 0xFF;
  constexpr std::uint8_t kEnd = 0xD9;
  const auto stands_alone = [](std::uint8_t code) {
    return code == 0 || code == 1 || code == kMarker || (code >= 0xD0 && code <= 0xD8);
  };
  for (std::size_t at = 0; at + 1 < input.size();) {
    if (input[at] != kMarker) {
      ++at;
      continue;
    }
    const std::uint8_t code = input[at + 1];
    if (code == kEnd) return at + 2;
    if (code == kMarker) {
      ++at;
    } else if (stands_alone(code)) {
      at += 2;
    } else {
      if (at + 3 >= input.size()) return std::nullopt;
      at += 2 + (std::size_t{input[at + 2]} << 8 | input[at + 3]);
    }
  }
  return std::nullopt;
}

}  // namespace

std::optional<std::size_t> encoded_end(ByteView input, std::string_view filter,
                                       const Dict& parameters) {
  if (filter == "ASCIIHexDecode") return behind(input, '>');
  if (filter == "ASCII85Decode") return end_of_ascii85(input);
  if (filter == "RunLengthDecode") return end_of_run_length(input);
  if (filter == "FlateDecode") return end_of_flate(input);
  if (filter == "LZWDecode") return end_of_lzw(input, parameters["EarlyChange"].as_integer(1) != 0);
  if (filter == "DCTDecode") return end_of_dct(input);
  return std::nullopt;
}

}  // namespace lumvet::filters

// SPDX-License-Identifier: Apache-2.0
// Any filter over any bytes: no crash, never more output than the limit, and the same in one go as
// in pieces of any size.
#include <array>

#include "filters/decoder.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using namespace lumvet;
  if (size < 4) return 0;
  constexpr std::array<const char*, 5> kNames = {"FlateDecode", "LZWDecode", "ASCII85Decode",
                                                 "ASCIIHexDecode", "RunLengthDecode"};
  constexpr std::uint64_t kMost = 1 << 18;
  const Dict parameters{{"Predictor", data[1] % 17},
                        {"Colors", data[2] % 6},
                        {"BitsPerComponent", 1 << (data[2] / 6 % 6)},
                        {"Columns", data[3]},
                        {"EarlyChange", data[1] / 17 % 2}};
  const filters::Filter& filter = *filters::find_filter(kNames[data[0] % kNames.size()]);
  const ByteView input(data + 4, size - 4);
  const auto whole = filters::decode(filter, {input, parameters, kMost});
  if (whole.ok() && whole->bytes.size() > kMost) __builtin_trap();
  const auto pieces = filter.start(filters::decoding_of(input), parameters);
  if (!pieces.ok()) return 0;
  Bytes joined;
  Bytes piece(1 + data[0] * 7u);
  for (;;) {
    const auto read = (*pieces)->read(piece);
    if (!read.ok()) return 0;
    joined.insert(joined.end(), piece.begin(), piece.begin() + static_cast<std::ptrdiff_t>(*read));
    if (*read < piece.size() || joined.size() > kMost) break;
  }
  if (whole.ok() && joined.size() <= kMost && joined != whole->bytes) __builtin_trap();
  return 0;
}

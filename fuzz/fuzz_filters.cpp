// SPDX-License-Identifier: Apache-2.0
// Any filter over any bytes: no crash, and never more output than the limit.
#include <array>

#include "filters/decoder.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using namespace lumvet;
  if (size < 4) return 0;
  constexpr std::array<const char*, 5> kNames = {"FlateDecode", "LZWDecode", "ASCII85Decode",
                                                 "ASCIIHexDecode", "RunLengthDecode"};
  constexpr std::uint64_t kMost = 1 << 18;
  Dict parameters{{"Predictor", data[1] % 17},
                  {"Colors", data[2] % 6},
                  {"BitsPerComponent", 1 << (data[2] / 6 % 6)},
                  {"Columns", data[3]},
                  {"EarlyChange", data[1] / 17 % 2}};
  const auto decoded = filters::find_decoder(kNames[data[0] % kNames.size()])(
      {{data + 4, size - 4}, parameters, kMost});
  if (decoded.ok() && decoded->bytes.size() > kMost) __builtin_trap();
  return 0;
}

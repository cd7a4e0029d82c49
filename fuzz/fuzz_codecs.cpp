// SPDX-License-Identifier: Apache-2.0
// Any bytes as an image of any codec: no crash, no hang, and as many samples as the image says.
#include <array>

#include "images/codec.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using namespace lumvet;
  if (size < 4) return 0;
  constexpr std::array<const char*, 4> kNames = {"CCITTFaxDecode", "JBIG2Decode", "DCTDecode",
                                                 "JPXDecode"};
  constexpr std::uint64_t kMost = 1 << 16;
  const int width = 1 + data[2];
  const int height = 1 + data[3];
  const Dict parameters{{"K", data[1] % 3 - 1},
                        {"Columns", width},
                        {"EndOfLine", (data[1] & 4) != 0},
                        {"EncodedByteAlign", (data[1] & 8) != 0},
                        {"EndOfBlock", (data[1] & 16) != 0},
                        {"BlackIs1", (data[1] & 32) != 0},
                        {"ColorTransform", data[1] / 64 % 2}};
  const ByteView input(data + 4, size - 4);
  const ByteView globals = (data[1] & 64) != 0 ? input.first(input.size() / 2) : ByteView();
  const auto samples =
      images::find_codec(kNames[data[0] % kNames.size()])({.input = input.subspan(globals.size()),
                                                           .parameters = parameters,
                                                           .globals = globals,
                                                           .width = width,
                                                           .height = height,
                                                           .keep_values = (data[1] & 128) != 0,
                                                           .most_pixels = kMost});
  if (!samples.ok()) return 0;
  const std::size_t row = (static_cast<std::size_t>(samples->width) *
                               static_cast<std::size_t>(samples->components * samples->bits) +
                           7) /
                          8;
  if (samples->bytes.size() != row * static_cast<std::size_t>(samples->height)) __builtin_trap();
  return 0;
}

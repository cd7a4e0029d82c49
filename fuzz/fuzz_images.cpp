// SPDX-License-Identifier: Apache-2.0
// Any file as an image that becomes a page: no crash, and never more pixels than the limit.
#include "draw/image_frames.h"
#include "fuzz/small_limits.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  const auto frames =
      lumvet::draw::read_image_file(lumvet::Bytes(data, data + size), fuzz::kSmallLimits);
  if (!frames.ok()) return 0;
  for (const auto& frame : *frames) {
    const auto pixels =
        static_cast<std::uint64_t>(frame.width) * static_cast<std::uint64_t>(frame.height);
    if (frame.width < 1 || frame.height < 1 || pixels > fuzz::kSmallLimits.pixels) __builtin_trap();
    if (!frame.image.is_stream()) __builtin_trap();
  }
  return 0;
}

// SPDX-License-Identifier: Apache-2.0
#include "images/codec.h"

#include "base/attempt.h"

#include <array>
#include <utility>

namespace lumvet::images {

Codec find_codec(std::string_view name) {
  static constexpr std::array<std::pair<std::string_view, Codec>, 4> kCodecs = {
      {{"DCTDecode", decode_dct},
       {"CCITTFaxDecode", decode_ccitt},
       {"JBIG2Decode", decode_jbig2},
       {"JPXDecode", decode_jpx}}};
  for (const auto& [known, codec] : kCodecs)
    if (known == name) return codec;
  return nullptr;
}

Error too_many_pixels(std::string_view codec, std::uint64_t width, std::uint64_t height) {
  return met_limit("a " + std::string(codec) + " image of " + std::to_string(width) + " × " +
                   std::to_string(height) + " is beyond Limits::pixels");
}

}  // namespace lumvet::images

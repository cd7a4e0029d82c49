// SPDX-License-Identifier: Apache-2.0
#include "images/image_facts.h"

#include <algorithm>

namespace lumvet::images {
namespace {

std::uint64_t stated_size(const Dict& image, const objects::Resolver& resolver,
                          const Limits& limits) {
  constexpr double kMost = 1e15;
  constexpr double kChannels = 3;  // as most have; nobody looks at the color space for this
  const double samples =
      resolver.get(image, "Width").as_number() * resolver.get(image, "Height").as_number();
  const double bits =
      is_stencil(image, resolver) ? 1 : resolver.get(image, "BitsPerComponent").as_number(8);
  const double size = samples * bits * kChannels / 8;
  if (!(size > 0) || samples > static_cast<double>(limits.pixels)) return 0;
  return static_cast<std::uint64_t>(std::min(size, kMost));
}

}  // namespace

Object either(const objects::Resolver& resolver, const Dict& dict, std::string_view key,
              std::string_view short_key) {
  Object value = resolver.get(dict, key);
  return value.is_null() ? resolver.get(dict, short_key) : value;
}

bool is_stencil(const Dict& image, const objects::Resolver& resolver) {
  return either(resolver, image, "ImageMask", "IM").as_bool();
}

Result<std::uint64_t> unpacked_size(const Stream& image, const objects::Resolver& resolver,
                                    const Limits& limits) {
  std::uint64_t size = 0;
  const Object soft = resolver.get(image.dict, "SMask");
  const Object hard = resolver.get(image.dict, "Mask");
  for (const Stream* stream : {&image, soft.as_stream(), hard.as_stream()}) {
    if (stream == nullptr) continue;
    const Result<ByteSlice> encoded = stream->encoded();
    if (!encoded.ok() && encoded.error().code() == ErrorCode::need_more_data)
      return encoded.error();
    size += stated_size(stream->dict, resolver, limits);
  }
  return size;
}

}  // namespace lumvet::images

// SPDX-License-Identifier: Apache-2.0
#include "images/stored_image.h"

#include "filters/stream_decoder.h"
#include "images/image_facts.h"

namespace lumvet::images {
namespace {

struct PlainSpace {
  int components = 0;  // 0 for a space that is not plain
  Bytes profile = {};
};

Result<PlainSpace> plain_space(const Dict& image, const ImageContext& context) {
  Object space = either(context.resolver, image, "ColorSpace", "CS");
  if (space.is_name()) {
    const Object named = context.resolver.get(context.resources, "ColorSpace");
    if (named.as_dict().contains(space.as_name()))
      space = context.resolver.get(named.as_dict(), space.as_name());
  }
  if (space.is_name("DeviceGray") || space.is_name("G")) return PlainSpace{1};
  if (space.is_name("DeviceRGB") || space.is_name("RGB")) return PlainSpace{3};
  if (space.is_name("DeviceCMYK") || space.is_name("CMYK")) return PlainSpace{4};
  const Array& parts = space.as_array();
  if (parts.size() < 2 || !context.resolver.resolve(parts[0]).is_name("ICCBased"))
    return PlainSpace{};
  const Object object = context.resolver.resolve(parts[1]);
  const Stream* profile = object.as_stream();
  if (profile == nullptr) return PlainSpace{};
  const std::int64_t components = context.resolver.get(profile->dict, "N").as_integer();
  if (components != 1 && components != 3 && components != 4) return PlainSpace{};
  LUMVET_TRY(const ByteSlice bytes,
             filters::decode_whole(*profile, context.resolver, context.budget, context.findings));
  return PlainSpace{static_cast<int>(components), Bytes(bytes.view().begin(), bytes.view().end())};
}

bool has_usual_decode(const Dict& image, const ImageContext& context) {
  const Object decode = either(context.resolver, image, "Decode", "D");
  const Array& limits = decode.as_array();
  for (std::size_t i = 0; i < limits.size(); ++i)
    if (context.resolver.resolve(limits[i]).as_number() != static_cast<double>(i % 2)) return false;
  return true;
}

}  // namespace

Result<std::optional<Photograph>> stored_photograph(const Stream& image,
                                                    const ImageContext& context) {
  const auto chain = filters::filter_chain(image.dict, context.resolver);
  if (chain.empty()) return std::optional<Photograph>();
  const auto& last = chain.back().name;
  if (last != "DCTDecode" && last != "JPXDecode") return std::optional<Photograph>();
  LUMVET_TRY(filters::StreamContent content,
             filters::decode_stream(image, context.resolver, context.budget, context.findings));
  if (content.left.size() != 1) return std::optional<Photograph>();
  return std::optional<Photograph>({std::move(content.bytes), last != "JPXDecode"});
}

Result<std::optional<PlainSamples>> plain_samples(const Stream& image,
                                                  const ImageContext& context) {
  const std::optional<PlainSamples> none;
  const Dict& dict = image.dict;
  if (is_stencil(dict, context.resolver) || !has_usual_decode(dict, context)) return none;
  const std::int64_t bits = either(context.resolver, dict, "BitsPerComponent", "BPC").as_integer(8);
  const std::int64_t width = either(context.resolver, dict, "Width", "W").as_integer();
  const std::int64_t height = either(context.resolver, dict, "Height", "H").as_integer();
  constexpr std::int64_t kMostSide = 1 << 24;
  if ((bits != 8 && bits != 16) || width < 1 || height < 1 || width > kMostSide ||
      height > kMostSide ||
      static_cast<std::uint64_t>(width * height) > context.budget.limits().pixels)
    return none;
  LUMVET_TRY(PlainSpace space, plain_space(dict, context));
  const bool is_kept_anyway = bits == 8 && space.components < 4 && space.profile.empty();
  if (space.components == 0 || is_kept_anyway) return none;
  LUMVET_TRY(filters::StreamContent content,
             filters::decode_stream(image, context.resolver, context.budget, context.findings));
  const auto needed = static_cast<std::uint64_t>(width * height) *
                      static_cast<std::uint64_t>(space.components) *
                      static_cast<std::uint64_t>(bits / 8);
  if (!content.left.empty() || content.bytes.view().size() < needed) return none;
  return std::optional<PlainSamples>({static_cast<int>(width), static_cast<int>(height),
                                      static_cast<int>(bits), space.components,
                                      std::move(content.bytes), std::move(space.profile)});
}

}  // namespace lumvet::images

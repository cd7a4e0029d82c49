// SPDX-License-Identifier: Apache-2.0
#include "images/whole_samples.h"

#include "filters/stream_decoder.h"

namespace lumvet::images {

Result<WholeSamples> whole_samples(const Stream& image, const ImageContext& context,
                                   const SamplesWanted& wanted) {
  LUMVET_TRY(filters::StreamContent content,
             filters::decode_stream(image, context.resolver, context.budget, context.findings));
  if (content.left.empty()) return WholeSamples{.plain = std::move(content.bytes)};
  const filters::FilterStep& step = content.left.front();
  const Codec codec = find_codec(step.name);
  if (codec == nullptr || content.left.size() > 1)
    return Error(ErrorCode::unsupported, "images with the codec " + step.name + " cannot be read")
        .at_offset(image.offset);
  ByteSlice globals;
  if (const Stream* shared = step.parameters["JBIG2Globals"].as_stream()) {
    LUMVET_TRY(globals,
               filters::decode_whole(*shared, context.resolver, context.budget, context.findings));
  }
  Result<Samples> decoded = codec({.input = content.bytes.view(),
                                   .parameters = step.parameters,
                                   .globals = globals.view(),
                                   .width = wanted.width,
                                   .height = wanted.height,
                                   .keep_values = wanted.keep_values,
                                   .most_pixels = context.budget.limits().pixels,
                                   .reduction = wanted.reduction});
  if (!decoded.ok()) return std::move(decoded).error().at_offset(image.offset);
  if (decoded->damage)
    context.findings.add({*decoded->damage, image.offset + decoded->damage_offset, {}});
  return WholeSamples{.codec = step.name, .decoded = *std::move(decoded)};
}

}  // namespace lumvet::images

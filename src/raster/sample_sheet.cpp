// SPDX-License-Identifier: Apache-2.0
#include "raster/sample_sheet.h"

#include "lumvet/io/byte_sink.h"
#include "raster/encoder.h"

namespace lumvet::raster {
namespace {

Result<Bytes> encoded(const SampleSheet& sheet, Encoder& encoder, BufferSink& sink,
                      const ImageShape& shape) {
  LUMVET_RETURN_IF_ERROR(encoder.begin(shape));
  for (int y = 0; y < sheet.height; ++y)
    LUMVET_RETURN_IF_ERROR(
        encoder.row(sheet.samples.data() + static_cast<std::size_t>(y) * sheet.row_bytes()));
  LUMVET_RETURN_IF_ERROR(encoder.end());
  LUMVET_RETURN_IF_ERROR(encoder.finish());
  return Bytes(sink.bytes());
}

}  // namespace

Result<Bytes> encode_png(const SampleSheet& sheet) {
  BufferSink sink;
  const auto encoder = make_png_encoder(sink, {});
  const Stored stored = sheet.has_alpha       ? Stored::straight_rgba
                        : sheet.channels == 3 ? Stored::rgb
                                              : Stored::gray;
  return encoded(sheet, *encoder, sink, {sheet.width, sheet.height, stored});
}

Result<Bytes> encode_tiff(const SampleSheet& sheet) {
  BufferSink sink;
  const auto encoder = make_tiff_encoder(sink, {.format = ImageFormat::tiff});
  return encoded(sheet, *encoder, sink, {sheet.width, sheet.height, Stored::samples, &sheet});
}

}  // namespace lumvet::raster

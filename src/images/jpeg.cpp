// SPDX-License-Identifier: Apache-2.0
#include "images/jpeg.h"

#include <cstdio>

#include <jpeglib.h>

#include <array>
#include <csetjmp>

namespace lumvet::images {
namespace {

struct Trouble {
  jpeg_error_mgr base{};
  std::jmp_buf leave{};
  std::array<char, JMSG_LENGTH_MAX> message{};
};

void leave_with_message(j_common_ptr common) {
  auto* trouble = reinterpret_cast<Trouble*>(common->err);
  (*common->err->format_message)(common, trouble->message.data());
  std::longjmp(trouble->leave, 1);
}

void stay_silent(j_common_ptr) {}

// Everything with a destructor lives in the caller, since libjpeg leaves by longjmp. Gives false
// when it did; `samples` holds the rows there were.
bool decode(jpeg_decompress_struct& jpeg, Trouble& trouble, ByteView bytes, int color_transform,
            std::uint64_t most_pixels, Samples& samples, bool& too_large) {
  if (setjmp(trouble.leave) != 0) return false;
  jpeg_create_decompress(&jpeg);
  jpeg_mem_src(&jpeg, bytes.data(), static_cast<unsigned long>(bytes.size()));
  jpeg_read_header(&jpeg, TRUE);
  // Without an Adobe marker the filter's parameter says whether colours were transformed.
  if (!jpeg.saw_Adobe_marker && color_transform >= 0) {
    if (jpeg.num_components == 3)
      jpeg.jpeg_color_space = color_transform == 0 ? JCS_RGB : JCS_YCbCr;
    if (jpeg.num_components == 4)
      jpeg.jpeg_color_space = color_transform == 0 ? JCS_CMYK : JCS_YCCK;
  }
  if (jpeg.num_components == 3) jpeg.out_color_space = JCS_RGB;
  if (jpeg.num_components == 4) jpeg.out_color_space = JCS_CMYK;
  jpeg_calc_output_dimensions(&jpeg);
  samples.width = static_cast<int>(jpeg.output_width);
  samples.height = static_cast<int>(jpeg.output_height);
  samples.components = jpeg.out_color_components;
  if (std::uint64_t{jpeg.output_width} * jpeg.output_height > most_pixels) {
    too_large = true;
    return false;
  }
  const std::size_t stride =
      std::size_t{jpeg.output_width} * static_cast<unsigned>(samples.components);
  samples.bytes.assign(stride * jpeg.output_height, 255);
  jpeg_start_decompress(&jpeg);
  while (jpeg.output_scanline < jpeg.output_height) {
    JSAMPROW row = samples.bytes.data() + stride * jpeg.output_scanline;
    jpeg_read_scanlines(&jpeg, &row, 1);
  }
  jpeg_finish_decompress(&jpeg);
  return true;
}

}  // namespace

Result<Samples> decode_jpeg(ByteView bytes, int color_transform, std::uint64_t most_pixels) {
  jpeg_decompress_struct jpeg{};
  Trouble trouble;
  jpeg.err = jpeg_std_error(&trouble.base);
  trouble.base.error_exit = leave_with_message;
  trouble.base.output_message = stay_silent;
  Samples samples;
  bool too_large = false;
  const bool whole = decode(jpeg, trouble, bytes, color_transform, most_pixels, samples, too_large);
  const bool warned = trouble.base.num_warnings > 0;
  jpeg_destroy_decompress(&jpeg);
  if (too_large)
    return Error(ErrorCode::limit, "a JPEG picture of " + std::to_string(samples.width) + " × " +
                                       std::to_string(samples.height) +
                                       " is beyond Limits::pixels");
  if (!whole && samples.bytes.empty())
    return Error(ErrorCode::malformed,
                 "a JPEG picture cannot be read: " + std::string(trouble.message.data()));
  if (!whole) samples.damage = "a JPEG picture is damaged: " + std::string(trouble.message.data());
  if (whole && warned) samples.damage = "a JPEG picture is damaged or cut off";
  return samples;
}

}  // namespace lumvet::images

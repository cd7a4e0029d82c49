// SPDX-License-Identifier: Apache-2.0
// DCTDecode (ISO 32000-2, 7.4.8), through libjpeg. The four inks come as they are stored: writers
// that store them inverted say so in the image's /Decode.
#include <cstdio>

#include <jpeglib.h>

#include <array>
#include <csetjmp>

#include "images/codec.h"

namespace lumvet::images {
namespace {

struct Trouble {
  jpeg_error_mgr base{};
  std::jmp_buf leave{};
  std::array<char, JMSG_LENGTH_MAX> message{};
  jpeg_progress_mgr scans{};
};

void leave_with_message(j_common_ptr common) {
  auto* trouble = reinterpret_cast<Trouble*>(common->err);
  (*common->err->format_message)(common, trouble->message.data());
  std::longjmp(trouble->leave, 1);
}

void stay_silent(j_common_ptr) {}

// A progressive picture may have any number of scans over the same pixels; each costs as much as
// the whole, and honest ones have about ten.
void count_scans(j_common_ptr common) {
  constexpr int kMostScans = 200;
  const auto* jpeg = reinterpret_cast<j_decompress_ptr>(common);
  if (jpeg->input_scan_number <= kMostScans) return;
  auto* trouble = reinterpret_cast<Trouble*>(common->err);
  std::snprintf(trouble->message.data(), trouble->message.size(), "it has too many scans");
  std::longjmp(trouble->leave, 1);
}

// Everything with a destructor lives in the caller, since libjpeg leaves by longjmp. Gives false
// when it did; `samples` holds the rows there were.
bool decode(jpeg_decompress_struct& jpeg, Trouble& trouble, ByteView bytes, int color_transform,
            std::uint64_t most_pixels, Samples& samples, bool& too_large) {
  if (setjmp(trouble.leave) != 0) return false;
  jpeg_create_decompress(&jpeg);
  jpeg.progress = &trouble.scans;
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

Result<Samples> decode_dct(const CodecRequest& request) {
  jpeg_decompress_struct jpeg{};
  Trouble trouble;
  jpeg.err = jpeg_std_error(&trouble.base);
  trouble.base.error_exit = leave_with_message;
  trouble.base.output_message = stay_silent;
  trouble.scans.progress_monitor = count_scans;
  const auto transform = static_cast<int>(request.parameters["ColorTransform"].as_integer(-1));
  Samples samples;
  bool too_large = false;
  const bool whole =
      decode(jpeg, trouble, request.input, transform, request.most_pixels, samples, too_large);
  const bool warned = trouble.base.num_warnings > 0;
  jpeg_destroy_decompress(&jpeg);
  if (too_large)
    return too_many_pixels("JPEG", static_cast<std::uint64_t>(samples.width),
                           static_cast<std::uint64_t>(samples.height));
  if (!whole && samples.bytes.empty())
    return Error(ErrorCode::malformed,
                 "a JPEG picture cannot be read: " + std::string(trouble.message.data()));
  if (!whole) samples.damage = "a JPEG picture is damaged: " + std::string(trouble.message.data());
  if (whole && warned) samples.damage = "a JPEG picture is damaged or cut off";
  return samples;
}

}  // namespace lumvet::images

// SPDX-License-Identifier: Apache-2.0
#include "images/jpeg_blocks.h"

#include <cstdio>

#include <jpeglib.h>

#include <array>
#include <cmath>
#include <csetjmp>
#include <cstdlib>
#include <numbers>

namespace lumvet::images {
namespace {

struct Trouble {
  jpeg_error_mgr base{};
  std::jmp_buf leave{};
};

void leave(j_common_ptr common) { std::longjmp(reinterpret_cast<Trouble*>(common->err)->leave, 1); }
void stay_silent(j_common_ptr) {}

constexpr std::size_t kSide = DCTSIZE;
using Block = std::array<double, kSide * kSide>;

// The cosine transform of eight values, as a table.
const Block& cosines() {
  static const Block kTable = [] {
    Block table{};
    constexpr double kSteps = 2.0 * kSide;
    for (std::size_t k = 0; k < kSide; ++k)
      for (std::size_t n = 0; n < kSide; ++n)
        table[k * kSide + n] = (k == 0 ? std::sqrt(1.0 / kSide) : std::sqrt(2.0 / kSide)) *
                               std::cos((2.0 * static_cast<double>(n) + 1) *
                                        static_cast<double>(k) * std::numbers::pi / kSteps);
    return table;
  }();
  return kTable;
}

// Rows and columns by the table, or by it turned over.
Block transformed(const Block& in, bool is_forward) {
  const Block& table = cosines();
  const auto weight = [&](std::size_t k, std::size_t n) {
    return is_forward ? table[k * kSide + n] : table[n * kSide + k];
  };
  Block rows{};
  Block out{};
  for (std::size_t y = 0; y < kSide; ++y)
    for (std::size_t k = 0; k < kSide; ++k)
      for (std::size_t n = 0; n < kSide; ++n)
        rows[y * kSide + k] += weight(k, n) * in[y * kSide + n];
  for (std::size_t x = 0; x < kSide; ++x)
    for (std::size_t k = 0; k < kSide; ++k)
      for (std::size_t n = 0; n < kSide; ++n)
        out[k * kSide + x] += weight(k, n) * rows[n * kSide + x];
  return out;
}

// What a component of the file has where the decoder gives the least or the most of all parts.
double blank_value(const jpeg_decompress_struct& jpeg, int component, bool at_most) {
  const double most = at_most ? 255 : 0;
  switch (jpeg.jpeg_color_space) {
    case JCS_YCbCr: return component == 0 ? most : 128;
    // The decoder gives inks, which are the colors turned over.
    case JCS_YCCK: return component == 0 ? 255 - most : component == 3 ? most : 128;
    default: return most;
  }
}

// A block of a component, `left` and `top` being its place in pixels and `across` and `down` what
// one of its values stands for.
struct BlockPlace {
  int left;
  int top;
  int across;
  int down;
};

void blank_block(JCOEFPTR coefficients, const JQUANT_TBL& table, const BlockPlace& place,
                 const PixelSet& pixels, double value) {
  Block block{};
  for (std::size_t i = 0; i < block.size(); ++i)
    block[i] = static_cast<double>(coefficients[i]) * table.quantval[i];
  block = transformed(block, false);
  for (std::size_t i = 0; i < block.size(); ++i) {
    const int left = place.left + static_cast<int>(i % kSide) * place.across;
    const int top = place.top + static_cast<int>(i / kSide) * place.down;
    if (pixels.meets(left, top, left + place.across, top + place.down)) block[i] = value - 128;
  }
  block = transformed(block, true);
  for (std::size_t i = 0; i < block.size(); ++i)
    coefficients[i] =
        static_cast<JCOEF>(std::lround(block[i] / std::max<int>(table.quantval[i], 1)));
}

void blank_component(jpeg_decompress_struct& jpeg, jvirt_barray_ptr array, int component,
                     const PixelSet& pixels, bool at_most) {
  const jpeg_component_info& info = jpeg.comp_info[component];
  if (info.quant_table == nullptr) return;
  const int across = jpeg.max_h_samp_factor / info.h_samp_factor;
  const int down = jpeg.max_v_samp_factor / info.v_samp_factor;
  const double value = blank_value(jpeg, component, at_most);
  for (JDIMENSION row = 0; row < info.height_in_blocks; ++row) {
    const int top = static_cast<int>(row) * DCTSIZE * down;
    if (!pixels.meets(0, top, pixels.width(), top + DCTSIZE * down)) continue;
    JBLOCKARRAY blocks =
        (*jpeg.mem->access_virt_barray)(reinterpret_cast<j_common_ptr>(&jpeg), array, row, 1, TRUE);
    for (JDIMENSION column = 0; column < info.width_in_blocks; ++column) {
      const int left = static_cast<int>(column) * DCTSIZE * across;
      if (pixels.meets(left, top, left + DCTSIZE * across, top + DCTSIZE * down))
        blank_block(blocks[0][column], *info.quant_table, {left, top, across, down}, pixels, value);
    }
  }
}

// What holds memory of libjpeg, outside of the function that it may leave by longjmp.
struct Work {
  Trouble trouble{};
  jpeg_decompress_struct in{};
  jpeg_compress_struct out{};
  unsigned char* bytes = nullptr;
  unsigned long size = 0;
  bool is_done = false;
};

void run(Work& work, ByteView jpeg, const PixelSet& pixels, bool at_most) {
  if (setjmp(work.trouble.leave) != 0) return;
  jpeg_create_decompress(&work.in);
  jpeg_create_compress(&work.out);
  jpeg_mem_src(&work.in, jpeg.data(), static_cast<unsigned long>(jpeg.size()));
  jpeg_save_markers(&work.in, JPEG_APP0 + 2, 0xFFFF);
  jpeg_read_header(&work.in, TRUE);
  jvirt_barray_ptr* arrays = jpeg_read_coefficients(&work.in);
  if (work.trouble.base.num_warnings > 0) return;
  if (static_cast<int>(work.in.image_width) != pixels.width() ||
      static_cast<int>(work.in.image_height) != pixels.height())
    return;
  for (int i = 0; i < work.in.num_components; ++i)
    blank_component(work.in, arrays[i], i, pixels, at_most);
  jpeg_mem_dest(&work.out, &work.bytes, &work.size);
  jpeg_copy_critical_parameters(&work.in, &work.out);
  jpeg_write_coefficients(&work.out, arrays);
  for (jpeg_saved_marker_ptr marker = work.in.marker_list; marker != nullptr; marker = marker->next)
    jpeg_write_marker(&work.out, marker->marker, marker->data, marker->data_length);
  jpeg_finish_compress(&work.out);
  jpeg_finish_decompress(&work.in);
  work.is_done = true;
}

}  // namespace

Result<Bytes> with_blank_pixels(ByteView jpeg, const PixelSet& pixels, bool at_most) {
  Work work;
  work.in.err = work.out.err = jpeg_std_error(&work.trouble.base);
  work.trouble.base.error_exit = leave;
  work.trouble.base.output_message = stay_silent;
  run(work, jpeg, pixels, at_most);
  jpeg_destroy_compress(&work.out);
  jpeg_destroy_decompress(&work.in);
  Bytes bytes;
  if (work.is_done) bytes.assign(work.bytes, work.bytes + work.size);
  std::free(work.bytes);
  if (!work.is_done)
    return Error(ErrorCode::malformed, "a JPEG image is damaged, or is not written again");
  return bytes;
}

}  // namespace lumvet::images

// SPDX-License-Identifier: Apache-2.0
// DCTDecode (ISO 32000-2, 7.4.8), through libjpeg, row by row. The four inks come as they are
// stored: writers that store them inverted say so in the image's /Decode.
#include <cstdio>

#include <jpeglib.h>

#include <algorithm>
#include <array>
#include <csetjmp>
#include <utility>

#include "base/allowance.h"
#include "images/codec.h"
#include "images/row_decoding.h"

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

// A progressive image may have any number of scans over the same pixels; each costs as much as
// the whole, and honest ones have about ten.
void count_scans(j_common_ptr common) {
  constexpr int kMostScans = 200;
  const auto* jpeg = reinterpret_cast<j_decompress_ptr>(common);
  if (jpeg->input_scan_number <= kMostScans) return;
  auto* trouble = reinterpret_cast<Trouble*>(common->err);
  std::snprintf(trouble->message.data(), trouble->message.size(), "it has too many scans");
  std::longjmp(trouble->leave, 1);
}

// libjpeg leaves by longjmp, so nothing with a destructor may live in the three that call it. Each
// gives false when it did.
bool read_header(jpeg_decompress_struct& jpeg, Trouble& trouble, ByteView bytes,
                 int color_transform, int reduction) {
  if (setjmp(trouble.leave) != 0) return false;
  jpeg_create_decompress(&jpeg);
  jpeg.progress = &trouble.scans;
  jpeg_mem_src(&jpeg, bytes.data(), static_cast<unsigned long>(bytes.size()));
  jpeg_read_header(&jpeg, TRUE);
  // Without an Adobe marker the filter's parameter says whether colors were transformed.
  if (!jpeg.saw_Adobe_marker && color_transform >= 0) {
    if (jpeg.num_components == 3)
      jpeg.jpeg_color_space = color_transform == 0 ? JCS_RGB : JCS_YCbCr;
    if (jpeg.num_components == 4)
      jpeg.jpeg_color_space = color_transform == 0 ? JCS_CMYK : JCS_YCCK;
  }
  if (jpeg.num_components == 3) jpeg.out_color_space = JCS_RGB;
  if (jpeg.num_components == 4) jpeg.out_color_space = JCS_CMYK;
  jpeg.scale_num = 1;
  jpeg.scale_denom = static_cast<unsigned>(reduction);
  jpeg_calc_output_dimensions(&jpeg);
  return true;
}

bool start(jpeg_decompress_struct& jpeg, Trouble& trouble) {
  if (setjmp(trouble.leave) != 0) return false;
  jpeg_start_decompress(&jpeg);
  return true;
}

bool read_row(jpeg_decompress_struct& jpeg, Trouble& trouble, JSAMPROW row) {
  if (setjmp(trouble.leave) != 0) return false;
  return jpeg_read_scanlines(&jpeg, &row, 1) == 1;
}

bool finish(jpeg_decompress_struct& jpeg, Trouble& trouble) {
  if (setjmp(trouble.leave) != 0) return false;
  return jpeg_finish_decompress(&jpeg) != 0;
}

class DctRows final : public RowDecoding {
 public:
  DctRows(ByteSlice input, const Dict& parameters, int reduction) : input_(std::move(input)) {
    jpeg_.err = jpeg_std_error(&trouble_.base);
    trouble_.base.error_exit = leave_with_message;
    trouble_.base.output_message = stay_silent;
    trouble_.scans.progress_monitor = count_scans;
    const auto transform = static_cast<int>(parameters["ColorTransform"].as_integer(-1));
    is_readable_ = read_header(jpeg_, trouble_, input_.view(), transform, reduction);
  }
  ~DctRows() override { jpeg_destroy_decompress(&jpeg_); }
  DctRows(const DctRows&) = delete;
  DctRows& operator=(const DctRows&) = delete;

  bool is_readable() const { return is_readable_; }
  std::string complaint() const { return trouble_.message.data(); }
  std::uint64_t width() const { return jpeg_.output_width; }
  std::uint64_t height() const { return jpeg_.output_height; }
  std::uint64_t whole_width() const { return jpeg_.image_width; }
  std::uint64_t whole_height() const { return jpeg_.image_height; }
  int components() const { return jpeg_.out_color_components; }

 private:
  std::size_t row_size() const override {
    return static_cast<std::size_t>(width()) * static_cast<std::size_t>(components());
  }

  bool next_row(std::span<std::uint8_t> row) override {
    if (has_ended_) return false;
    if (!std::exchange(has_begun_, true) && !start(jpeg_, trouble_)) return end_early();
    if (!read_row(jpeg_, trouble_, row.data())) return end_early();
    if (jpeg_.output_scanline == jpeg_.output_height) {
      has_ended_ = true;
      if (!finish(jpeg_, trouble_)) end_early();
    }
    if (trouble_.base.num_warnings > 0) note_damage("a JPEG image is damaged or cut off", 0);
    return true;
  }

  bool end_early() {
    has_ended_ = true;
    note_damage("a JPEG image is damaged: " + complaint(), 0);
    return false;
  }

  ByteSlice input_;
  Trouble trouble_;
  jpeg_decompress_struct jpeg_{};
  bool is_readable_ = false;
  bool has_begun_ = false;
  bool has_ended_ = false;
};

}  // namespace

Result<SampleRows> start_dct(ByteSlice input, const Dict& parameters, std::uint64_t most_pixels,
                             int reduction) {
  auto rows = std::make_unique<DctRows>(std::move(input), parameters, reduction);
  if (!rows->is_readable())
    return Error(ErrorCode::malformed, "a JPEG image cannot be read: " + rows->complaint());
  if (rows->whole_width() * rows->whole_height() > most_pixels)
    return too_many_pixels("JPEG", rows->whole_width(), rows->whole_height());
  SampleRows samples{.width = static_cast<int>(rows->width()),
                     .height = static_cast<int>(rows->height()),
                     .components = rows->components(),
                     .whole_width = static_cast<int>(rows->whole_width()),
                     .whole_height = static_cast<int>(rows->whole_height())};
  samples.bytes = std::move(rows);
  return samples;
}

Result<Samples> decode_dct(const CodecRequest& request) {
  LUMVET_TRY(SampleRows rows,
             start_dct(ByteSlice(request.input, nullptr), request.parameters, request.most_pixels));
  Samples samples{rows.width, rows.height, rows.components};
  samples.bytes.assign(static_cast<std::size_t>(rows.width) *
                           static_cast<std::size_t>(rows.components) *
                           static_cast<std::size_t>(rows.height),
                       255);
  LUMVET_RETURN_IF_ERROR(go_on_now());
  LUMVET_TRY(const std::size_t given, rows.bytes->read(samples.bytes));
  if (given == 0 && rows.bytes->damage())
    return Error(ErrorCode::malformed, rows.bytes->damage()->what);
  if (rows.bytes->damage()) samples.damage = rows.bytes->damage()->what;
  return samples;
}

}  // namespace lumvet::images

// SPDX-License-Identifier: Apache-2.0
#include <png.h>

#include <algorithm>
#include <csetjmp>
#include <cstring>

#include "draw/image_frames.h"

namespace lumvet::draw {
namespace {

// Everything with a destructor lives in members, since libpng leaves by longjmp.
class PngFile {
 public:
  explicit PngFile(const Bytes& file) : file_(file) {
    png_ = png_create_read_struct(
        PNG_LIBPNG_VER_STRING, nullptr,
        [](png_structp png, png_const_charp) { png_longjmp(png, 1); },
        [](png_structp, png_const_charp) {});
    info_ = png_ != nullptr ? png_create_info_struct(png_) : nullptr;
  }
  ~PngFile() { png_destroy_read_struct(&png_, &info_, nullptr); }
  PngFile(const PngFile&) = delete;
  PngFile& operator=(const PngFile&) = delete;

  Result<std::vector<ImageFrame>> read(const Limits& limits) {
    if (info_ == nullptr || !read_header())
      return Error(ErrorCode::malformed, "a PNG image that cannot be read");
    if (static_cast<std::uint64_t>(width_) * static_cast<std::uint64_t>(height_) > limits.pixels)
      return Error(ErrorCode::limit, "an image beyond Limits::pixels");
    rows_.resize(row_bytes_ * static_cast<std::size_t>(height_));
    for (int y = 0; y < height_; ++y)
      pointers_.push_back(rows_.data() + static_cast<std::size_t>(y) * row_bytes_);
    if (!read_rows()) return Error(ErrorCode::malformed, "a PNG image is damaged or cut off");
    return std::vector{frame()};
  }

 private:
  static void give(png_structp png, png_bytep out, png_size_t size) {
    auto& self = *static_cast<PngFile*>(png_get_io_ptr(png));
    if (size > self.file_.size() - self.at_) png_error(png, "cut off");
    std::memcpy(out, self.file_.data() + self.at_, size);
    self.at_ += size;
  }

  bool read_header() {
    if (setjmp(png_jmpbuf(png_)) != 0) return false;
    png_set_read_fn(png_, this, give);
    png_read_info(png_, info_);
    const bool has_clear = png_get_valid(png_, info_, PNG_INFO_tRNS) != 0;
    const bool has_palette = png_get_color_type(png_, info_) == PNG_COLOR_TYPE_PALETTE;
    if (has_clear) png_set_expand(png_);  // with an opacity of its own
    png_set_interlace_handling(png_);
    png_read_update_info(png_, info_);
    width_ = static_cast<int>(png_get_image_width(png_, info_));
    height_ = static_cast<int>(png_get_image_height(png_, info_));
    bits_ = png_get_bit_depth(png_, info_);
    channels_ = png_get_channels(png_, info_);
    row_bytes_ = png_get_rowbytes(png_, info_);
    is_indexed_ = has_palette && !has_clear;
    if (is_indexed_) {
      png_colorp colors = nullptr;
      int count = 0;
      png_get_PLTE(png_, info_, &colors, &count);
      for (int i = 0; i < count; ++i) {
        palette_ += static_cast<char>(colors[i].red);
        palette_ += static_cast<char>(colors[i].green);
        palette_ += static_cast<char>(colors[i].blue);
      }
    }
    constexpr double kMetresPerInch = 0.0254;
    dots_across_ = png_get_x_pixels_per_meter(png_, info_) * kMetresPerInch;
    dots_down_ = png_get_y_pixels_per_meter(png_, info_) * kMetresPerInch;
    png_charp name = nullptr;
    int method = 0;
    png_bytep profile = nullptr;
    png_uint_32 size = 0;
    if (png_get_iCCP(png_, info_, &name, &method, &profile, &size) != 0)
      profile_.assign(profile, profile + size);
    return true;
  }

  bool read_rows() {
    if (setjmp(png_jmpbuf(png_)) != 0) return false;
    png_read_image(png_, pointers_.data());
    return true;
  }

  ImageFrame frame() {
    ImageFrame frame{
        .width = width_, .height = height_, .dots_across = dots_across_, .dots_down = dots_down_};
    const bool has_alpha = channels_ == 2 || channels_ == 4;
    if (has_alpha) frame.mask = split_alpha();
    const int colors = is_indexed_ ? 1 : channels_ - (has_alpha ? 1 : 0);
    Object space = Object::name(colors == 1 ? "DeviceGray" : "DeviceRGB");
    if (is_indexed_)
      space = Array{Object::name("Indexed"), Object::name("DeviceRGB"),
                    Object(static_cast<int>(palette_.size() / 3) - 1), Object::string(palette_)};
    frame.image = packed_image(rows_, width_, height_, colors, bits_, std::move(space));
    if (!profile_.empty() && !is_indexed_)
      frame.profile = Stream::of(Dict{{"N", colors}}, std::move(profile_));
    return frame;
  }

  // Leaves the colors; of opacities in 16 bits the upper eight count. Nothing when all is opaque.
  std::optional<Object> split_alpha() {
    const auto each = static_cast<std::size_t>(bits_ / 8);
    const auto colors = static_cast<std::size_t>(channels_ - 1) * each;
    const std::size_t pixels = rows_.size() / (colors + each);
    Bytes alphas(pixels);
    for (std::size_t i = 0; i < pixels; ++i) {
      const std::uint8_t* pixel = &rows_[i * (colors + each)];
      alphas[i] = pixel[colors];
      std::memmove(&rows_[i * colors], pixel, colors);
    }
    rows_.resize(pixels * colors);
    const bool is_opaque =
        std::all_of(alphas.begin(), alphas.end(), [](std::uint8_t alpha) { return alpha == 255; });
    return is_opaque ? std::nullopt : std::optional(packed_mask(alphas, width_, height_));
  }

  const Bytes& file_;
  std::size_t at_ = 0;
  png_structp png_ = nullptr;
  png_infop info_ = nullptr;
  int width_ = 0;
  int height_ = 0;
  int bits_ = 8;
  int channels_ = 0;
  std::size_t row_bytes_ = 0;
  bool is_indexed_ = false;
  std::string palette_;
  double dots_across_ = 0;
  double dots_down_ = 0;
  Bytes profile_;
  Bytes rows_;
  std::vector<png_bytep> pointers_;
};

}  // namespace

Result<std::vector<ImageFrame>> read_png(const Bytes& file, const Limits& limits) {
  return PngFile(file).read(limits);
}

}  // namespace lumvet::draw

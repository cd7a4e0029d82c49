// SPDX-License-Identifier: Apache-2.0
// TIFF files with any number of images, through libtiff. Samples side by side of 1, 8 or 16 bits
// go in as they are; what is stored in another way, by way of red, green, blue and opacity.
#include <tiffio.h>

#include <algorithm>
#include <cstring>
#include <memory>

#include "draw/image_frames.h"

namespace lumvet::draw {
namespace {

struct Close {
  void operator()(TIFF* tiff) const { TIFFClose(tiff); }
};

class TiffFile {
 public:
  TiffFile(const Bytes& file, const Limits& limits) : file_(file), limits_(limits) {}

  Result<std::vector<ImageFrame>> read() {
    open();
    if (!tiff_) return Error(ErrorCode::malformed, "a TIFF image that cannot be read");
    std::vector<ImageFrame> frames;
    std::uint64_t pixels = 0;
    do {
      read_shape();
      pixels += static_cast<std::uint64_t>(width_) * height_;
      if (width_ < 1 || height_ < 1 || width_ > kMostSide || height_ > kMostSide)
        return Error(ErrorCode::malformed, "a TIFF image with impossible dimensions");
      if (pixels > limits_.pixels)
        return Error(ErrorCode::limit, "images beyond Limits::pixels in one file");
      LUMVET_TRY(ImageFrame frame, read_frame());
      frames.push_back(std::move(frame));
    } while (TIFFReadDirectory(tiff_.get()) == 1);
    return frames;
  }

 private:
  static constexpr std::uint32_t kMostSide = 1 << 24;

  static TiffFile& of(thandle_t self) { return *static_cast<TiffFile*>(self); }

  tmsize_t give(void* out, tmsize_t size) {
    const std::size_t there = std::min<std::size_t>(static_cast<std::size_t>(size),
                                                    file_.size() - std::min(at_, file_.size()));
    std::memcpy(out, file_.data() + std::min(at_, file_.size()), there);
    at_ += there;
    return static_cast<tmsize_t>(there);
  }
  toff_t seek(toff_t offset, int whence) {
    at_ = whence == SEEK_SET ? offset : whence == SEEK_CUR ? at_ + offset : file_.size() + offset;
    return at_;
  }

  void open() {
    TIFFOpenOptions* options = TIFFOpenOptionsAlloc();
    if (options == nullptr) return;
    const auto quiet = [](TIFF*, void*, const char*, const char*, va_list) { return 1; };
    TIFFOpenOptionsSetErrorHandlerExtR(options, quiet, nullptr);
    TIFFOpenOptionsSetWarningHandlerExtR(options, quiet, nullptr);
    tiff_.reset(TIFFClientOpenExt(
        "image", "rm", this,
        [](thandle_t self, void* out, tmsize_t size) { return of(self).give(out, size); },
        [](thandle_t, void*, tmsize_t) -> tmsize_t { return 0; },
        [](thandle_t self, toff_t offset, int whence) { return of(self).seek(offset, whence); },
        [](thandle_t) { return 0; }, [](thandle_t self) -> toff_t { return of(self).file_.size(); },
        [](thandle_t, void**, toff_t*) { return 0; }, [](thandle_t, void*, toff_t) {}, options));
    TIFFOpenOptionsFree(options);
  }

  template <typename Value>
  Value tag(std::uint32_t name, Value otherwise) {
    Value value = otherwise;
    return TIFFGetFieldDefaulted(tiff_.get(), name, &value) == 1 ? value : otherwise;
  }

  void read_shape() {
    width_ = tag<std::uint32_t>(TIFFTAG_IMAGEWIDTH, 0);
    height_ = tag<std::uint32_t>(TIFFTAG_IMAGELENGTH, 0);
    bits_ = tag<std::uint16_t>(TIFFTAG_BITSPERSAMPLE, 1);
    channels_ = tag<std::uint16_t>(TIFFTAG_SAMPLESPERPIXEL, 1);
    photometric_ = tag<std::uint16_t>(TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_MINISWHITE);
  }

  Result<ImageFrame> read_frame() {
    ImageFrame frame{.width = static_cast<int>(width_), .height = static_cast<int>(height_)};
    const auto unit = tag<std::uint16_t>(TIFFTAG_RESOLUTIONUNIT, RESUNIT_INCH);
    const double factor = unit == RESUNIT_CENTIMETER ? 2.54 : unit == RESUNIT_INCH ? 1 : 0;
    frame.dots_across = tag<float>(TIFFTAG_XRESOLUTION, 0) * factor;
    frame.dots_down = tag<float>(TIFFTAG_YRESOLUTION, 0) * factor;
    frame.turn = turn_of(tag<std::uint16_t>(TIFFTAG_ORIENTATION, ORIENTATION_TOPLEFT));
    const bool is_gray =
        photometric_ == PHOTOMETRIC_MINISBLACK || photometric_ == PHOTOMETRIC_MINISWHITE;
    const bool is_plain =
        tag<std::uint16_t>(TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG) == PLANARCONFIG_CONTIG &&
        TIFFIsTiled(tiff_.get()) == 0 &&
        tag<std::uint16_t>(TIFFTAG_SAMPLEFORMAT, SAMPLEFORMAT_UINT) == SAMPLEFORMAT_UINT &&
        ((is_gray && channels_ == 1 && (bits_ == 1 || bits_ == 8)) ||
         (photometric_ == PHOTOMETRIC_RGB && channels_ == 3 && bits_ == 8));
    const bool done = is_plain ? take_rows(frame) : take_colors(frame);
    if (!done) return Error(ErrorCode::malformed, "a TIFF image is damaged or cut off");
    std::uint32_t size = 0;
    void* profile = nullptr;
    if (is_plain && TIFFGetField(tiff_.get(), TIFFTAG_ICCPROFILE, &size, &profile) == 1) {
      const auto* bytes = static_cast<const std::uint8_t*>(profile);
      frame.profile =
          Stream::of(Dict{{"N", static_cast<int>(channels_)}}, Bytes(bytes, bytes + size));
    }
    return frame;
  }

  bool take_rows(ImageFrame& frame) {
    const auto row_bytes = (std::size_t{width_} * channels_ * bits_ + 7) / 8;
    if (static_cast<std::size_t>(TIFFScanlineSize(tiff_.get())) != row_bytes) return false;
    Bytes rows(row_bytes * height_);
    for (std::uint32_t y = 0; y < height_; ++y)
      if (TIFFReadScanline(tiff_.get(), &rows[y * row_bytes], y, 0) != 1) return false;
    if (photometric_ == PHOTOMETRIC_MINISWHITE)
      for (std::uint8_t& byte : rows) byte = static_cast<std::uint8_t>(~byte);
    frame.image = packed_image(rows, frame.width, frame.height, channels_, bits_,
                               Object::name(channels_ == 1 ? "DeviceGray" : "DeviceRGB"));
    return true;
  }

  // Of every other kind, colors of eight bits, not multiplied by their opacity.
  bool take_colors(ImageFrame& frame) {
    std::vector<std::uint32_t> pixels(std::size_t{width_} * height_);
    if (TIFFReadRGBAImageOriented(tiff_.get(), width_, height_, pixels.data(), ORIENTATION_TOPLEFT,
                                  1) != 1)
      return false;
    frame.turn = 0;  // it stands upright now
    Bytes colors;
    Bytes alphas;
    colors.reserve(pixels.size() * 3);
    alphas.reserve(pixels.size());
    bool is_opaque = true;
    for (const std::uint32_t pixel : pixels) {
      const unsigned alpha = TIFFGetA(pixel);
      const auto whole = [alpha](unsigned value) {
        return static_cast<std::uint8_t>(alpha == 0 ? 0 : std::min(255u, value * 255 / alpha));
      };
      colors.insert(colors.end(),
                    {whole(TIFFGetR(pixel)), whole(TIFFGetG(pixel)), whole(TIFFGetB(pixel))});
      alphas.push_back(static_cast<std::uint8_t>(alpha));
      is_opaque = is_opaque && alpha == 255;
    }
    frame.image = packed_image(colors, frame.width, frame.height, 3, 8, Object::name("DeviceRGB"));
    if (!is_opaque) frame.mask = packed_mask(alphas, frame.width, frame.height);
    return true;
  }

  const Bytes& file_;
  const Limits& limits_;
  std::size_t at_ = 0;
  std::unique_ptr<TIFF, Close> tiff_;
  std::uint32_t width_ = 0;
  std::uint32_t height_ = 0;
  std::uint16_t bits_ = 1;
  std::uint16_t channels_ = 1;
  std::uint16_t photometric_ = 0;
};

}  // namespace

Result<std::vector<ImageFrame>> read_tiff(const Bytes& file, const Limits& limits) {
  return TiffFile(file, limits).read();
}

}  // namespace lumvet::draw

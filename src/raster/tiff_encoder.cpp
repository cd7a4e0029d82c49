// SPDX-License-Identifier: Apache-2.0
#include <tiffio.h>

#include <algorithm>
#include <cstring>

#include "raster/encoder.h"

namespace lumvet::raster {
namespace {

class TiffEncoder final : public Encoder {
 public:
  TiffEncoder(ByteSink& sink, const ImageOptions& options)
      : sink_(sink), direct_(dynamic_cast<PatchableSink*>(&sink)), options_(options) {}
  ~TiffEncoder() override { close(); }

  Status begin(const ImageShape& shape) override {
    if (tiff_ == nullptr) open();
    if (tiff_ == nullptr) return outcome(false);
    shape_ = shape;
    row_ = 0;
    const bool bits = shape.stored == Stored::bits;
    set(TIFFTAG_SUBFILETYPE, static_cast<unsigned>(FILETYPE_PAGE));
    set(TIFFTAG_IMAGEWIDTH, static_cast<unsigned>(shape.width));
    set(TIFFTAG_IMAGELENGTH, static_cast<unsigned>(shape.height));
    const int sample_bits = shape.sheet != nullptr ? shape.sheet->bits : bits ? 1 : 8;
    set(TIFFTAG_BITSPERSAMPLE, sample_bits);
    set(TIFFTAG_SAMPLESPERPIXEL, shape.channels());
    set(TIFFTAG_ORIENTATION, static_cast<int>(ORIENTATION_TOPLEFT));
    set(TIFFTAG_PLANARCONFIG, static_cast<int>(PLANARCONFIG_CONTIG));
    set(TIFFTAG_PAGENUMBER, image_++, 0);
    if (bits) {  // as facsimile machines have it: ink is 1
      set(TIFFTAG_PHOTOMETRIC, static_cast<int>(PHOTOMETRIC_MINISWHITE));
      set(TIFFTAG_COMPRESSION, static_cast<int>(COMPRESSION_CCITTFAX4));
    } else {
      const int colors = shape.sheet != nullptr ? shape.sheet->channels : shape.channels();
      const bool is_inks = shape.sheet != nullptr && colors == 4;
      set(TIFFTAG_PHOTOMETRIC, static_cast<int>(colors == 1 ? PHOTOMETRIC_MINISBLACK
                                                : is_inks   ? PHOTOMETRIC_SEPARATED
                                                            : PHOTOMETRIC_RGB));
      set(TIFFTAG_COMPRESSION, static_cast<int>(COMPRESSION_ADOBE_DEFLATE));
      set(TIFFTAG_PREDICTOR, static_cast<int>(PREDICTOR_HORIZONTAL));
      const bool has_own = shape.sheet != nullptr && !shape.sheet->profile.empty();
      if (has_own || !is_inks) {
        const Bytes& profile = has_own ? shape.sheet->profile : screen_profile(colors == 1);
        set(TIFFTAG_ICCPROFILE, static_cast<unsigned>(profile.size()), profile.data());
      }
    }
    if (shape.sheet != nullptr ? shape.sheet->has_alpha : shape.channels() == 4) {
      const std::uint16_t kind = EXTRASAMPLE_UNASSALPHA;
      set(TIFFTAG_EXTRASAMPLES, 1, &kind);
    }
    if (options_.dpi > 0) {
      set(TIFFTAG_RESOLUTIONUNIT, static_cast<int>(RESUNIT_INCH));
      set(TIFFTAG_XRESOLUTION, options_.dpi);
      set(TIFFTAG_YRESOLUTION, options_.dpi);
    }
    constexpr std::size_t kStrip = 1 << 20;  // bytes before compression
    line_.resize(bits ? bytes_per_row(PixelFormat::bilevel, shape.width)
                      : static_cast<std::size_t>(shape.width) *
                            static_cast<std::size_t>(shape.channels() * sample_bits / 8));
    set(TIFFTAG_ROWSPERSTRIP,
        static_cast<unsigned>(std::max<std::size_t>(1, kStrip / line_.size())));
    return outcome(valid_);
  }

  Status row(const std::uint8_t* pixels) override {
    std::copy_n(pixels, line_.size(), line_.begin());  // the encoder may change it
    if (shape_.stored == Stored::bits)
      for (std::uint8_t& byte : line_) byte = static_cast<std::uint8_t>(~byte);
    // The library takes samples of 16 bits in the order of the machine.
    if (shape_.sheet != nullptr && shape_.sheet->bits == 16)
      for (std::size_t i = 0; i + 1 < line_.size(); i += 2) {
        const auto value = static_cast<std::uint16_t>(line_[i] << 8 | line_[i + 1]);
        std::memcpy(&line_[i], &value, sizeof value);
      }
    return outcome(TIFFWriteScanline(tiff_, line_.data(), row_++, 0) == 1);
  }

  Status end() override { return outcome(TIFFWriteDirectory(tiff_) == 1); }

  Status finish() override {
    close();
    if (direct_ == nullptr && status_.ok()) status_ = sink_.write(kept_.bytes());
    return status_;
  }

 private:
  static TiffEncoder& of(thandle_t self) { return *static_cast<TiffEncoder*>(self); }
  PatchableSink& target() { return direct_ != nullptr ? *direct_ : kept_; }

  template <typename... Values>
  void set(std::uint32_t tag, Values... values) {
    valid_ = TIFFSetField(tiff_, tag, values...) == 1 && valid_;
  }

  void open() {
    start_ = target().size();
    TIFFOpenOptions* options = TIFFOpenOptionsAlloc();
    if (options == nullptr) return;
    const auto quiet = [](TIFF*, void*, const char*, const char*, va_list) { return 1; };
    TIFFOpenOptionsSetErrorHandlerExtR(options, quiet, nullptr);
    TIFFOpenOptionsSetWarningHandlerExtR(options, quiet, nullptr);
    // "8" is the kind for files beyond 4 GiB, which few programs read; so only the plain kind.
    tiff_ = TIFFClientOpenExt(
        "image", "wl", this,
        [](thandle_t self, void* data, tmsize_t size) { return of(self).read(data, size); },
        [](thandle_t self, void* data, tmsize_t size) { return of(self).write(data, size); },
        [](thandle_t self, toff_t offset, int whence) { return of(self).seek(offset, whence); },
        [](thandle_t) { return 0; },
        [](thandle_t self) -> toff_t { return of(self).target().size() - of(self).start_; },
        [](thandle_t, void**, toff_t*) { return 0; }, [](thandle_t, void*, toff_t) {}, options);
    TIFFOpenOptionsFree(options);
  }

  void close() {
    if (tiff_ != nullptr) TIFFClose(tiff_);
    tiff_ = nullptr;
  }

  tmsize_t read(void* data, tmsize_t size) {
    const std::uint64_t there = target().size() - start_;
    const auto wanted = static_cast<std::size_t>(
        std::min<std::uint64_t>(static_cast<std::uint64_t>(size), there - std::min(there, at_)));
    const Status got = target().read_back(start_ + at_, {static_cast<std::uint8_t*>(data), wanted});
    if (!got.ok()) return 0;
    at_ += wanted;
    return static_cast<tmsize_t>(wanted);
  }

  tmsize_t write(void* data, tmsize_t size) {
    ByteView bytes = as_view(data, static_cast<std::size_t>(size));
    const std::uint64_t there = target().size() - start_;
    if (at_ > there) status_ = target().write(Bytes(at_ - there, 0));
    const std::size_t over = static_cast<std::size_t>(
        std::min<std::uint64_t>(bytes.size(), there - std::min(there, at_)));
    if (status_.ok() && over > 0) status_ = target().overwrite(start_ + at_, bytes.first(over));
    if (status_.ok() && over < bytes.size()) status_ = target().write(bytes.subspan(over));
    if (!status_.ok()) return 0;
    at_ += bytes.size();
    return size;
  }

  toff_t seek(toff_t offset, int whence) {
    at_ = whence == SEEK_SET   ? offset
          : whence == SEEK_CUR ? at_ + offset
                               : target().size() - start_ + offset;
    return at_;
  }

  Status outcome(bool done) {
    if (!status_.ok()) return status_;
    if (!done)
      status_ = Error(ErrorCode::io,
                      "the TIFF image could not be made; files of this kind hold "
                      "at most 4 GiB");
    return status_;
  }

  ByteSink& sink_;
  PatchableSink* direct_;
  BufferSink kept_;
  ImageOptions options_;
  TIFF* tiff_ = nullptr;
  std::uint64_t start_ = 0;  // of the file within the sink
  std::uint64_t at_ = 0;
  ImageShape shape_;
  unsigned row_ = 0;
  int image_ = 0;
  bool valid_ = true;
  Bytes line_;
  Status status_ = Done{};
};

}  // namespace

std::unique_ptr<Encoder> make_tiff_encoder(ByteSink& sink, const ImageOptions& options) {
  return std::make_unique<TiffEncoder>(sink, options);
}

}  // namespace lumvet::raster

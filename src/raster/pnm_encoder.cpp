// SPDX-License-Identifier: Apache-2.0
// The portable anymap: bitmaps (P4), graymaps (P5), pixmaps (P6), one after the other.
#include <string>

#include "raster/encoder.h"

namespace lumvet::raster {
namespace {

class PnmEncoder final : public Encoder {
 public:
  explicit PnmEncoder(ByteSink& sink) : sink_(sink) {}

  Stored stored(PixelFormat given) const override {
    return given == PixelFormat::rgba || given == PixelFormat::bgra ? Stored::rgb
                                                                    : Encoder::stored(given);
  }

  Status begin(const ImageShape& shape) override {
    bits_ = shape.stored == Stored::bits;
    line_.resize(bits_ ? bytes_per_row(PixelFormat::bilevel, shape.width)
                       : static_cast<std::size_t>(shape.width) *
                             static_cast<std::size_t>(shape.channels()));
    std::string header = bits_ ? "P4" : shape.channels() == 1 ? "P5" : "P6";
    header += "\n" + std::to_string(shape.width) + " " + std::to_string(shape.height) + "\n";
    if (!bits_) header += "255\n";
    return sink_.write(as_view(header.data(), header.size()));
  }

  Status row(const std::uint8_t* pixels) override {
    for (std::size_t i = 0; i < line_.size(); ++i)
      line_[i] = bits_ ? static_cast<std::uint8_t>(~pixels[i]) : pixels[i];
    return sink_.write(line_);
  }

  Status end() override { return Done{}; }

 private:
  ByteSink& sink_;
  bool bits_ = false;  // in which ink is 1
  Bytes line_;
};

}  // namespace

std::unique_ptr<Encoder> make_pnm_encoder(ByteSink& sink, const ImageOptions&) {
  return std::make_unique<PnmEncoder>(sink);
}

}  // namespace lumvet::raster

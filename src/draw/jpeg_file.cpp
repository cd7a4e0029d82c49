// SPDX-License-Identifier: Apache-2.0
// JPEG files as they are: only their markers are read (ITU-T T.81; JFIF 1.02; Exif 2.3; ICC.1,
// annex B.4).
#include <map>

#include "draw/image_frames.h"

namespace lumvet::draw {
namespace {

class JpegFile {
 public:
  explicit JpegFile(const Bytes& file) : file_(file) {}

  Result<std::vector<ImageFrame>> read(const Limits& limits) {
    read_markers();
    if (width_ < 1 || height_ < 1 || (channels_ != 1 && channels_ != 3 && channels_ != 4))
      return Error(ErrorCode::malformed, "a JPEG image without dimensions");
    if (static_cast<std::uint64_t>(width_) * static_cast<std::uint64_t>(height_) > limits.pixels)
      return Error(ErrorCode::limit, "an image beyond Limits::pixels");
    Dict dict{{"Type", Object::name("XObject")},
              {"Subtype", Object::name("Image")},
              {"Width", width_},
              {"Height", height_},
              {"BitsPerComponent", 8},
              {"ColorSpace", Object::name(channels_ == 1   ? "DeviceGray"
                                          : channels_ == 3 ? "DeviceRGB"
                                                           : "DeviceCMYK")},
              {"Filter", Object::name("DCTDecode")}};
    // Four inks with this marker are stored the other way round.
    if (channels_ == 4 && has_adobe_marker_)
      dict.set("Decode", Array{Object(1), Object(0), Object(1), Object(0), Object(1), Object(0),
                               Object(1), Object(0)});
    ImageFrame frame{.width = width_,
                     .height = height_,
                     .dots_across = dots_across_,
                     .dots_down = dots_down_,
                     .turn = turn_of(orientation_)};
    frame.image = Stream::of(std::move(dict), file_);
    Bytes profile;
    for (const auto& [number, part] : profile_parts_)
      profile.insert(profile.end(), part.begin(), part.end());
    if (!profile.empty()) frame.profile = Stream::of(Dict{{"N", channels_}}, std::move(profile));
    return std::vector{std::move(frame)};
  }

 private:
  unsigned word(std::size_t at) const {
    return at + 1 < file_.size() ? file_[at] * 256u + file_[at + 1] : 0u;
  }

  void read_markers() {
    std::size_t at = 2;
    while (at + 3 < file_.size()) {
      if (file_[at] != 0xFF) return;
      const std::uint8_t marker = file_[at + 1];
      if (marker == 0xFF) {  // fill
        ++at;
        continue;
      }
      constexpr std::uint8_t kScan = 0xDA;
      if (marker == kScan) return;
      const std::size_t size = word(at + 2);
      if (size < 2 || at + 2 + size > file_.size()) return;
      take(marker, at + 4, size - 2);
      at += 2 + size;
    }
  }

  void take(std::uint8_t marker, std::size_t at, std::size_t size) {
    const std::string_view text = as_text(ByteView(file_).subspan(at, size));
    const bool is_frame =
        marker >= 0xC0 && marker <= 0xCF && marker != 0xC4 && marker != 0xC8 && marker != 0xCC;
    if (is_frame && size >= 6) {
      height_ = static_cast<int>(word(at + 1));
      width_ = static_cast<int>(word(at + 3));
      channels_ = file_[at + 5];
    } else if (marker == 0xE0 && text.starts_with(std::string_view("JFIF\0", 5)) && size >= 12) {
      const double factor = file_[at + 7] == 1 ? 1 : file_[at + 7] == 2 ? 2.54 : 0;
      dots_across_ = word(at + 8) * factor;
      dots_down_ = word(at + 10) * factor;
    } else if (marker == 0xE1 && text.starts_with(std::string_view("Exif\0\0", 6))) {
      read_exif(text.substr(6));
    } else if (marker == 0xE2 && text.starts_with(std::string_view("ICC_PROFILE\0", 12)) &&
               size > 14) {
      profile_parts_.emplace(file_[at + 12], text.substr(14));
    } else if (marker == 0xEE && text.starts_with("Adobe")) {
      has_adobe_marker_ = true;
    }
  }

  // The orientation, out of the first directory.
  void read_exif(std::string_view tiff) {
    if (tiff.size() < 8) return;
    const bool is_big = tiff[0] == 'M';
    const auto number = [&](std::size_t at, std::size_t bytes) {
      std::uint32_t value = 0;
      for (std::size_t i = 0; i < bytes && at + i < tiff.size(); ++i) {
        const auto byte = static_cast<std::uint8_t>(tiff[at + i]);
        value |= std::uint32_t{byte} << 8 * (is_big ? bytes - 1 - i : i);
      }
      return value;
    };
    const std::size_t directory = number(4, 4);
    if (directory + 2 > tiff.size()) return;
    constexpr std::size_t kEntry = 12;
    constexpr std::uint32_t kOrientation = 0x0112;
    for (std::size_t i = 0; i < number(directory, 2); ++i) {
      const std::size_t at = directory + 2 + i * kEntry;
      if (at + kEntry > tiff.size()) return;
      if (number(at, 2) == kOrientation) orientation_ = static_cast<int>(number(at + 8, 2));
    }
  }

  const Bytes& file_;
  int width_ = 0;
  int height_ = 0;
  int channels_ = 0;
  double dots_across_ = 0;
  double dots_down_ = 0;
  int orientation_ = 1;
  bool has_adobe_marker_ = false;
  std::map<int, std::string_view> profile_parts_;
};

}  // namespace

Result<std::vector<ImageFrame>> read_jpeg(const Bytes& file, const Limits& limits) {
  return JpegFile(file).read(limits);
}

}  // namespace lumvet::draw

// SPDX-License-Identifier: Apache-2.0
// Pictures to be drawn: files as they are, or rows of pixels.
//
//   const auto photo = lumvet::Picture::load("bearing.jpg").value();
//   drawing.draw(photo, {64, 120, 240, 160});
//
// JPEG and JPEG 2000 files go into documents byte for byte; PNG, TIFF and rows lose nothing, and
// their opacity and profiles come along. What is black and white only is packed by group 4. A
// picture that is drawn often is in a document once.
//
// Copies share it. Threads: immutable, share freely. Since: 0.2
#pragma once

#include <filesystem>
#include <memory>
#include <vector>

#include "lumvet/base/bytes.h"
#include "lumvet/base/export.h"
#include "lumvet/base/inside.h"
#include "lumvet/base/limits.h"
#include "lumvet/base/result.h"

namespace lumvet {

namespace draw {
struct PictureData;
}

class LUMVET_EXPORT Picture {
 public:
  // Errors: io; malformed, unsupported and limit with the file's name.
  static Result<Picture> load(const std::filesystem::path& path, const Limits& limits = {});
  // Every image of a TIFF file; of others the one that they are.
  static Result<std::vector<Picture>> load_all(const std::filesystem::path& path,
                                               const Limits& limits = {});
  static Result<Picture> of(const Bytes& file, const Limits& limits = {});

  // How pixels lie in rows: one byte for each part; two, the higher first, of gray_16 and rgb_16;
  // one bit of black_white, a row beginning at a byte, 1 for black.
  enum class Pixels { gray, rgb, rgba, black_white, gray_16, rgb_16 };
  // Rows from the top, without gaps. Errors: invalid_argument for other than as many bytes.
  static Result<Picture> of_rows(const Bytes& rows, int width, int height, Pixels pixels);

  // Pixels, as it stands upright.
  int width() const;
  int height() const;
  // Points, by the dots to the inch that it states; without them by so many.
  double wide(double dots_per_inch = 150) const;
  double high(double dots_per_inch = 150) const;

 private:
  friend struct Inside<Picture>;
  explicit Picture(std::shared_ptr<const draw::PictureData> data) : data_(std::move(data)) {}
  std::shared_ptr<const draw::PictureData> data_;
};

}  // namespace lumvet

// SPDX-License-Identifier: Apache-2.0
// The color that an image gives to a pixel: averaged over what the pixel covers when the image
// is shrunk, the nearest sample (or, where asked for, a blend of the nearest four) when enlarged.
//
// Threads: one thread at a time.
#pragma once

#include <cstdint>
#include <optional>
#include <vector>

#include "images/image.h"
#include "lumvet/geometry/matrix.h"
#include "render/box_downscaler.h"

namespace lumvet::rendering {

class ImageSampler {
 public:
  // `placed` maps the unit square, whose top is y = 1, to pixels and is invertible.
  ImageSampler(const images::Image& image, const Matrix& placed, bool interpolate);

  // Red, green, blue and 255 at the middles of `count` pixels from (x, y) on to the right, until
  // the next call; coverage takes the place of all three colors.
  const std::uint8_t* row(int x, int y, int count);
  // The mask's opacities there, a byte each, until the next call; of an image that has a mask.
  const std::uint8_t* opacities(int x, int y, int count);
  // The same straight to where they belong, of an image that is opaque; it may be looked at there
  // again for the next row.
  void row_into(int x, int y, int count, std::uint8_t* out);
  bool is_opaque() const { return mask_.image == nullptr; }

 private:
  // One plane of samples with its own map from pixels.
  struct Plane {
    const images::Image* image = nullptr;
    Matrix to_samples = {};
    double box_width = 0;
    double box_height = 0;
    std::optional<BoxDownscaler> means = {};  // of one that neither turns nor slants
  };

  class Steps;

  static Plane plane_of(const images::Image& image, const Matrix& from_pixels);
  template <typename Put>
  void sample_row(Plane& plane, int x, int y, int count, const Put& put);
  template <typename Put>
  void nearest_row(const Plane& plane, int x, int y, int count, const Put& put);
  template <typename Put>
  void smooth_row(const Plane& plane, int x, int y, int count, const Put& put);
  template <typename Put>
  void average_box(const Plane& plane, Point middle, int i, const Put& put);

  Plane colors_;
  Plane mask_{};
  bool interpolate_;
  // What was asked for last: rows of an enlarged image are often like the one above.
  struct Last {
    int x = 0;
    int count = 0;
    int row = -1;  // of samples; none when it took more than one
    bool operator==(const Last&) const = default;
  };
  int only_row(const Plane& plane, int y) const;

  void put_row(int x, int y, int count, std::uint8_t* out);

  Last last_;
  Last last_mask_;
  const std::uint8_t* last_out_ = nullptr;
  Bytes out_;
  Bytes opacities_;
  Bytes room_;  // of packed samples
  Bytes other_room_;
  Bytes mixed_;
};

}  // namespace lumvet::rendering

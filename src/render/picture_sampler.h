// SPDX-License-Identifier: Apache-2.0
// The colour that a picture gives to a pixel: averaged over what the pixel covers when the picture
// is shrunk, the nearest sample (or, where asked for, a blend of the nearest four) when enlarged.
//
// Threads: immutable, share freely.
#pragma once

#include <array>

#include "images/picture.h"
#include "lumvet/geometry/matrix.h"

namespace lumvet::rendering {

class PictureSampler {
 public:
  // `placed` maps the unit square, whose top is y = 1, to pixels and is invertible.
  PictureSampler(const images::Picture& picture, const Matrix& placed, bool interpolate);

  // The channels at the middle of pixel (x, y), then the mask's opacity: of pictures of one channel
  // in [0] and [3], of three in [0] to [3].
  std::array<std::uint8_t, 4> at(int x, int y) const;

 private:
  // One plane of samples with its own map from pixels.
  struct Plane {
    const images::Picture* picture;
    Matrix to_samples;
    double box_width;
    double box_height;
  };

  static Plane plane_of(const images::Picture& picture, const Matrix& from_pixels);
  void sample(const Plane& plane, int x, int y, std::uint8_t* out) const;
  static void average(const Plane& plane, Point middle, std::uint8_t* out);
  static void blend_nearest(const Plane& plane, Point middle, std::uint8_t* out);

  Plane colors_;
  Plane mask_{};
  bool interpolate_;
};

}  // namespace lumvet::rendering

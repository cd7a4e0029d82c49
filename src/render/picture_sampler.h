// SPDX-License-Identifier: Apache-2.0
// The colour that a picture gives to a pixel: averaged over what the pixel covers when the picture
// is shrunk, the nearest sample (or, where asked for, a blend of the nearest four) when enlarged.
//
// Threads: immutable, share freely.
#pragma once

#include <cstdint>

#include "images/picture.h"
#include "lumvet/geometry/matrix.h"

namespace lumvet::rendering {

class PictureSampler {
 public:
  // `placed` maps the unit square, whose top is y = 1, to pixels and is invertible.
  PictureSampler(const images::Picture& picture, const Matrix& placed, bool interpolate);

  // The channels at the middles of `count` pixels from (x, y) on to the right, four bytes each: of
  // pictures of one channel [0], of three [0] to [2]; the mask's opacity in [3].
  void row(int x, int y, int count, std::uint8_t* out) const;
  bool is_opaque() const { return mask_.picture == nullptr; }

 private:
  // One plane of samples with its own map from pixels.
  struct Plane {
    const images::Picture* picture;
    Matrix to_samples;
    double box_width;
    double box_height;
  };

  struct Stretch;
  class Steps;

  static Plane plane_of(const images::Picture& picture, const Matrix& from_pixels);
  void sample_row(const Plane& plane, int x, int y, int count, std::uint8_t* out) const;
  static void nearest_row(const Plane& plane, int x, int y, int count, std::uint8_t* out);
  static void smooth_row(const Plane& plane, int x, int y, int count, std::uint8_t* out);
  template <int kChannels>
  static void average_row(const Plane& plane, int x, int y, int count, std::uint8_t* out);
  static void average(const Plane& plane, Point middle, std::uint8_t* out);
  template <int kChannels>
  static void average_box(const images::Picture& picture, const Stretch& across,
                          const Stretch& down, std::uint8_t* out);

  Plane colors_;
  Plane mask_{};
  bool interpolate_;
};

}  // namespace lumvet::rendering

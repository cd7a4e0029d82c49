// SPDX-License-Identifier: Apache-2.0
// Image dictionaries (ISO 32000-2, 8.9.5) to images: codecs, bits, decode arrays, colors, masks.
#pragma once

#include "base/budget.h"
#include "base/findings_list.h"
#include "color/color_space.h"
#include "images/image.h"
#include "objects/resolver.h"

namespace lumvet::images {

struct ImageContext {
  const Dict& resources;  // for named color spaces
  const objects::Resolver& resolver;
  Budget& budget;
  Findings& findings;
  color::Intent intent = color::Intent::relative;
  // Of so many samples each way one is made, 1 or a power of 2, by the codec if it can: for
  // images that are shown small.
  int reduction = 1;
  // Rows may be decoded when they are asked for, of large images without masks; the findings then
  // outlive the image, and damage is told when it is met.
  bool may_arrive = false;
};

// A stencil (/ImageMask) covers, 255 where it paints. Data that is too short leaves the rest white
// with a finding. Errors: malformed, unsupported (a codec), limit, io,
// cancelled.
Result<std::shared_ptr<const Image>> read_image(const Stream& image, const ImageContext& context);

}  // namespace lumvet::images

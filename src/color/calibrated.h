// SPDX-License-Identifier: Apache-2.0
// Colors of the CIE, by their place between a white point and black (ISO 32000-2, 8.6.5.2 to
// 8.6.5.4).
//
// Threads: free functions.
#pragma once

#include "color/color_space.h"

namespace lumvet::color {

// From the dictionary of a CalGray, CalRGB or Lab space. Errors: malformed.
Result<std::shared_ptr<const ColorSpace>> make_calibrated_gray(const Dict& dict,
                                                               const objects::Resolver& resolver);
Result<std::shared_ptr<const ColorSpace>> make_calibrated_rgb(const Dict& dict,
                                                              const objects::Resolver& resolver);
Result<std::shared_ptr<const ColorSpace>> make_lab(const Dict& dict,
                                                   const objects::Resolver& resolver);

}  // namespace lumvet::color

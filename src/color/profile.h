// SPDX-License-Identifier: Apache-2.0
// Colors by an ICC profile (ISO 32000-2, 8.6.5.5), through Little CMS.
//
// Threads: free functions.
#pragma once

#include "base/findings_list.h"
#include "color/color_space.h"

namespace lumvet::color {

// The space of a profile of so many components. What a profile says is worked out once for each
// stream and kept while its file is open. Profiles that come out as the screen's own colors give
// ColorSpace::rgb() or gray(). Errors: malformed when it is no such profile; limit, io.
Result<std::shared_ptr<const ColorSpace>> space_of_profile(const Stream& stream,
                                                           std::size_t components,
                                                           const objects::Resolver& resolver,
                                                           Budget& budget, Findings& findings);

}  // namespace lumvet::color

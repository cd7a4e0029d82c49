// SPDX-License-Identifier: Apache-2.0
// Limits under which thousands of inputs can be tried: no input may take long and none may take
// much, so that what is slow or great beyond them is a fault.
#pragma once

#include <lumvet/base/limits.h>

namespace fuzz {

inline constexpr lumvet::Limits kSmallLimits{.nesting = 30,
                                             .objects = 10'000,
                                             .decoded_bytes = 1 << 20,
                                             .pixels = 1 << 18,
                                             .operators = 3'000,
                                             .page_milliseconds = 2'000,
                                             .page_memory = 16 << 20,
                                             .followed_bytes = 1 << 20,
                                             .followed_ratio = 64};

}  // namespace fuzz

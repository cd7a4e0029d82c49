// SPDX-License-Identifier: Apache-2.0
// Lengths as they are written on the command line: "12mm", "1.5cm", "30pt", "2in".
#pragma once

#include <string>

#include <lumvet/base/result.h>

namespace tool {

// In points. A number without a unit is millimeters, and points where it is the size of letters.
// Errors: invalid_argument.
enum class BareLength { millimeters, points };
lumvet::Result<double> parse_length(const std::string& text,
                                    BareLength bare = BareLength::millimeters);

}  // namespace tool

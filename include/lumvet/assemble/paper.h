// SPDX-License-Identifier: Apache-2.0
// Sizes of paper, and what is cut off pages.
//
// Threads: values.
#pragma once

#include <string_view>

#include "lumvet/base/export.h"
#include "lumvet/base/result.h"

namespace lumvet {

struct PaperSize {
  double width = 0;   // points
  double height = 0;  // points
  bool operator==(const PaperSize&) const = default;

  // "A4", "a5", "Letter", "A3 landscape", "210x297" in millimeters. Errors: invalid_argument.
  LUMVET_EXPORT static Result<PaperSize> parse(std::string_view text);
};

// What is cut off at each side of a page as it is shown, in points.
struct Margins {
  double left = 0;
  double top = 0;
  double right = 0;
  double bottom = 0;
};

}  // namespace lumvet

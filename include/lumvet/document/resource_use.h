// SPDX-License-Identifier: Apache-2.0
// The fonts and images that pages use (ISO 32000-2, 7.8.3): of their own, or through their forms,
// patterns and annotations.
//
// Threads: values.
#pragma once

#include <compare>
#include <cstdint>
#include <string>
#include <vector>

#include "lumvet/base/error.h"

namespace lumvet {

struct FontUse {
  std::string name = {};  // "Helvetica", without a subset's "ABCDEF+"
  std::string kind = {};  // "TrueType", "Type 1", "TrueType, CID-keyed", …
  bool embedded = false;
  bool subset = false;
  auto operator<=>(const FontUse&) const = default;
};

// An image that stands in an object of its own; those inside content streams are not listed.
struct ImageUse {
  ObjectId id = {};              // 0 0 when it stands in no object of its own
  std::int64_t width = 0;        // samples, as stated
  std::int64_t height = 0;       // samples, as stated
  std::int64_t bits = 0;         // of each component; 1 for a stencil; 0 when the data says it
  std::string color_space = {};  // "DeviceRGB", "ICCBased"; empty when the data says it
  std::vector<std::string> filters = {};  // in the order in which they are undone
  std::uint64_t bytes = 0;                // as stored
  bool is_stencil = false;                // paints a color through itself (8.9.6.2)
  bool has_mask = false;                  // or a soft mask
  auto operator<=>(const ImageUse&) const = default;
};

}  // namespace lumvet

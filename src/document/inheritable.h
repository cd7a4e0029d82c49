// SPDX-License-Identifier: Apache-2.0
// The entries that a page has from the nodes above it when it has none of its own (ISO 32000-2,
// table 31).
#pragma once

#include <array>
#include <string_view>

namespace lumvet::document {

inline constexpr std::array<std::string_view, 4> kInheritable = {"Resources", "MediaBox", "CropBox",
                                                                 "Rotate"};

}  // namespace lumvet::document

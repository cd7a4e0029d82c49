// SPDX-License-Identifier: Apache-2.0
// Flags of annotations (ISO 32000-2, table 167).
#pragma once

#include <cstdint>

namespace lumvet::document {

inline constexpr std::int64_t kHidden = 1 << 1;
inline constexpr std::int64_t kPrint = 1 << 2;
inline constexpr std::int64_t kNoZoom = 1 << 3;
inline constexpr std::int64_t kNoRotate = 1 << 4;
inline constexpr std::int64_t kNoView = 1 << 5;
inline constexpr std::int64_t kToggleNoView = 1 << 8;

}  // namespace lumvet::document

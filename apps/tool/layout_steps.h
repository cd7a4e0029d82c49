// SPDX-License-Identifier: Apache-2.0
// Those steps of an arrangement that change how pages look: their size, what lies on them, several
// on one.
#pragma once

#include <string>
#include <vector>

#include <lumvet/assemble/arrangement.h>

#include "secrets.h"

namespace tool {

using Words = std::vector<std::string>;

inline constexpr double kPointsPerMillimetre = 72 / 25.4;

lumvet::Error wrong_step(const std::string& form);  // "write turn PAGES left, right or around"

using LayoutStep = lumvet::Status (*)(const Words& words, const Secrets& secrets,
                                      lumvet::Arrangement& pages);

// Null when the word names none of them.
LayoutStep layout_step(const std::string& verb);

}  // namespace tool

// SPDX-License-Identifier: Apache-2.0
// Those steps of an arrangement that change how pages look: their size, what lies on them, several
// on one.
#pragma once

#include <string>
#include <vector>

#include "arranged_pages.h"
#include "secrets.h"

namespace tool {

using Words = std::vector<std::string>;

lumvet::Error wrong_step(
    const std::string& form);  // "such a step is rotate PAGES left, right or around"

using LayoutStep = lumvet::Status (*)(const Words& words, const Secrets& secrets,
                                      ArrangedPages& pages);

// Null when the word names none of them.
LayoutStep layout_step(const std::string& verb);

}  // namespace tool

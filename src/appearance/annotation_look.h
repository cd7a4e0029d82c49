// SPDX-License-Identifier: Apache-2.0
// Annotations drawn by their own entries (ISO 32000-2, 12.5.6), in a design of our own where the
// standard leaves it open.
//
// Threads: free functions.
#pragma once

#include <optional>

#include "appearance/default_appearance.h"
#include "appearance/look.h"

namespace lumvet::appearance {

// Nothing for what shows nothing by itself: pop-up notes, printers' marks, annotations without
// extent, kinds that are not known. Fields are drawn elsewhere.
std::optional<Look> look_of(const Annotation& mark, const Fonts& fonts);

// What stands at the end of the line that leads from a free text to what it tells of: files say it
// once.
inline std::string callout_end(const Annotation& mark) {
  for (const std::string& end : {mark.line_ends[1], mark.line_ends[0]})
    if (!end.empty() && end != "None") return end;
  return "None";
}

}  // namespace lumvet::appearance

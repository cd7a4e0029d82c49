// SPDX-License-Identifier: Apache-2.0
// A field and its widget in one dictionary, told apart (ISO 32000-2, 12.7.4.1 and 12.5.6.19).
//
// Threads: free functions.
#pragma once

#include <array>
#include <string_view>

#include "lumvet/objects/object.h"

namespace lumvet::document {

// What belongs to a field (tables 226 and 228 to 233), but for its name and its place among others.
// Actions on events are scripts.
inline constexpr std::array<std::string_view, 16> kOfFields = {
    "FT", "TU", "TM",     "Ff",  "V",  "DV", "DA",   "Q",
    "DS", "RV", "MaxLen", "Opt", "TI", "I",  "Lock", "SV"};

// The widget alone, which may have a look of its own (/DA, /Q).
inline Dict without_field(Dict widget) {
  for (const std::string_view key : kOfFields)
    if (key != "DA" && key != "Q") widget.remove(key);
  widget.remove("T");
  return widget;
}

}  // namespace lumvet::document

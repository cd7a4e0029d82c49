// SPDX-License-Identifier: Apache-2.0
// How pages follow one another when a document is shown as slides (ISO 32000-2, 12.4.4).
//
// Threads: values. Since: 0.2
#pragma once

#include <optional>
#include <string>

namespace lumvet {

// In which a page takes the place of the one before it (table 164).
struct Transition {
  std::string style = "R";    // "Wipe", "Dissolve"; "R" takes its place at once
  double seconds = 1;         // how long it takes
  bool is_vertical = false;   // of Split and Blinds: lines move up and down
  bool goes_outward = false;  // of Split, Box and Fly
  std::optional<double> direction =
      0;                   // degrees counterclockwise from left to right; nothing: none
  double scale = 1;        // of Fly: how large it begins or ends
  bool is_opaque = false;  // of Fly: a rectangle without holes
  bool operator==(const Transition&) const = default;
};

struct Presentation {
  std::optional<double> seconds = {};  // after which the next page comes by itself
  std::optional<Transition> transition = {};
  bool operator==(const Presentation&) const = default;
};

}  // namespace lumvet

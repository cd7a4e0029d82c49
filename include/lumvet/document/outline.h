// SPDX-License-Identifier: Apache-2.0
// The outline, a document's table of contents beside its pages (ISO 32000-2, 12.3.3).
//
// Threads: values.
#pragma once

#include <array>
#include <optional>
#include <string>
#include <vector>

#include "lumvet/document/action.h"
#include "lumvet/document/destination.h"
#include "lumvet/objects/object.h"

namespace lumvet {

// One line of it.
struct OutlineEntry {
  std::string title = {};        // UTF-8
  int depth = 0;                 // 0 for the outermost
  std::optional<int> page = {};  // from 0, when it leads to a page of this document
  bool is_open = false;          // whether what is below it is shown at first
  bool bold = false;
  bool italic = false;
  std::array<double, 3> color = {0, 0, 0};      // red, green, blue from 0 to 1
  std::optional<Destination> destination = {};  // its own, or that of its first action
  std::vector<Action> actions = {};             // one after the other
  ObjectId object = {};                         // which it is in the file; 0 0 for a new one
};

}  // namespace lumvet

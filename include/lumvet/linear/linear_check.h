// SPDX-License-Identifier: Apache-2.0
// Whether a file is linearized ("fast web view", annex F), and whether its tables tell the truth.
//
//   const lumvet::LinearCheck check = lumvet::check_linearized(manual).value();
//   for (const std::string& difference : check.differences) log(difference);
//
// Threads: free functions; documents may be shared. Since: 0.2
#pragma once

#include <string>
#include <vector>

#include "lumvet/document/document.h"

namespace lumvet {

struct LinearCheck {
  enum class State {
    no,
    was_once,  // and has been updated since, so that its tables no longer count
    yes,
  };
  State state = State::no;
  // Entries of its tables that are not as the bytes are, the first of them first, at most 100.
  std::vector<std::string> differences = {};
};

// Errors: io, need_more_data, limit.
LUMVET_EXPORT Result<LinearCheck> check_linearized(const Document& document);

}  // namespace lumvet

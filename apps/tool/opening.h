// SPDX-License-Identifier: Apache-2.0
// How a document shall be shown, as it is chosen on the command line.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include <lumvet/base/result.h>
#include <lumvet/edit/new_view.h>

#include "command_line.h"

namespace tool {

struct Opening {
  std::string mode;
  std::string layout;
  std::string fit;
  int page = 0;  // from 1; 0 when it is not given
  std::vector<std::string> preferences;
};

void add_opening_options(CLI::App& verb, Opening& opening);

// Nothing when nothing is chosen. Errors: invalid_argument.
lumvet::Result<std::optional<lumvet::NewView>> view_of(const Opening& opening);

}  // namespace tool

// SPDX-License-Identifier: Apache-2.0
// What travels along with pages, as it is chosen on the command line.
#pragma once

#include <string>
#include <vector>

#include <lumvet/assemble/assembly.h>

#include "command_line.h"

namespace tool {

struct Carrying {
  std::vector<std::string> without;
  bool keeps_lost_entries = false;
};

void add_carrying_options(CLI::App& verb, Carrying& carrying);
lumvet::Carry carry_of(const Carrying& carrying);

}  // namespace tool

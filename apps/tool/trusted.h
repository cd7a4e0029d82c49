// SPDX-License-Identifier: Apache-2.0
// Whom the person at this computer trusts: certificates in a folder of their configuration, and
// those that are named on the command line.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include <lumvet/sign/long_life.h>
#include <lumvet/sign/trust.h>

#include "command_line.h"

namespace tool {

struct Trusting {
  std::vector<std::string> anchors;      // files and folders
  std::vector<std::string> revocations;  // files
  bool ignores_own = false;              // the person's own folder
};

void add_trust_options(CLI::App& verb, Trusting& trusting);
// Errors: io, malformed with the file's name.
lumvet::Result<lumvet::Trust> trust_of(const Trusting& trusting);

// A document with what proves its signatures, into a file, or onto standard output, which "-" is.
// Errors: as lumvet::prolong's.
lumvet::Result<lumvet::ProlongReport> prolong_to(const std::string& output, bool replace,
                                                 const lumvet::Document& document,
                                                 const lumvet::ProlongRequest& request);

// $XDG_CONFIG_HOME/lumvet/trust, or ~/.config/lumvet/trust. Errors: io when neither is known.
lumvet::Result<std::filesystem::path> trust_folder();

}  // namespace tool

// SPDX-License-Identifier: Apache-2.0
// How a document that is written shall be protected, as it is chosen on the command line.
#pragma once

#include <string>
#include <vector>

#include <lumvet/save/save.h>

#include "command_line.h"

namespace tool {

struct Protecting {
  std::string user_password_file;
  std::string owner_password_file;
  std::vector<std::string> refused;
  std::string cipher = "aes-256";
  bool metadata_in_clear = false;
  bool attachments_only = false;
  std::vector<std::string> recipients;
  bool removes = false;

  bool is_asked() const {
    return !user_password_file.empty() || !owner_password_file.empty() || !refused.empty() ||
           !recipients.empty();
  }
};

// Gives their group.
CLI::App* add_protecting_options(CLI::App& verb, Protecting& protecting);

// Sets it in options. Errors: io; invalid_argument.
lumvet::Status protect_as(const Protecting& protecting, lumvet::SaveOptions& options);

}  // namespace tool

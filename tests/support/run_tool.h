// SPDX-License-Identifier: Apache-2.0
// The real tool, as a person or a script runs it.
#pragma once

#include <sys/wait.h>

#include <cstdlib>
#include <string>

#include "tests/support/temporary_folder.h"

namespace test {

struct Ran {
  int code = -1;
  std::string out;
  std::string err;
};

// Runs `lumvet <arguments>` in the folder.
inline Ran run(const TemporaryFolder& folder, const std::string& arguments,
               const std::string& program = LUMVET_TOOL) {
  const TemporaryFolder outputs;
  const std::string command = "cd '" + folder.path().string() + "' && '" + program + "' " +
                              arguments + " >'" + (outputs / "out").string() + "' 2>'" +
                              (outputs / "err").string() + "'";
  const int status = std::system(command.c_str());
  return {WEXITSTATUS(status), test::read_file(outputs / "out"), test::read_file(outputs / "err")};
}

}  // namespace test

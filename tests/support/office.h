// SPDX-License-Identifier: Apache-2.0
// The documents of the demo, made anew for a run of tests.
#pragma once

#include <cstdlib>
#include <filesystem>
#include <string>

#include "tests/support/catch.h"
#include "tests/support/temporary_folder.h"

namespace test {

// One of the office's documents.
inline std::filesystem::path office(const std::string& name) {
  static const TemporaryFolder folder;
  static const int made = std::system(
      (std::string("'") + LUMVET_MAKE_DEMO + "' '" + folder.path().string() + "' >/dev/null")
          .c_str());
  REQUIRE(made == 0);
  return folder / name;
}

}  // namespace test

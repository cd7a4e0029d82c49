// SPDX-License-Identifier: Apache-2.0
// The documents of the demo, made once for all tests of a build.
#pragma once

#include <unistd.h>

#include <cstdlib>
#include <filesystem>
#include <string>
#include <vector>

#include "tests/support/catch.h"
#include "tests/support/temporary_folder.h"

namespace test {

// The folder of them, which nobody changes. It has the age of the program in its name, and those of
// older programs go.
inline const std::filesystem::path& office_folder() {
  namespace fs = std::filesystem;
  static const fs::path kept = [] {
    const auto age = fs::last_write_time(LUMVET_MAKE_DEMO).time_since_epoch().count();
    const fs::path folder = fs::path(LUMVET_BINARY_DIR) / ("office-" + std::to_string(age));
    if (fs::exists(folder)) return folder;
    std::vector<fs::path> older;
    for (const auto& entry : fs::directory_iterator(LUMVET_BINARY_DIR))
      if (entry.path().filename().string().starts_with("office-") &&
          entry.path().extension() != ".new")
        older.push_back(entry.path());
    for (const fs::path& path : older) fs::remove_all(path);
    // Another test may be first.
    const fs::path made = folder.string() + "-" + std::to_string(::getpid()) + ".new";
    const std::string command =
        std::string("'") + LUMVET_MAKE_DEMO + "' '" + made.string() + "' >/dev/null";
    REQUIRE(std::system(command.c_str()) == 0);
    std::error_code taken;
    fs::rename(made, folder, taken);
    if (taken) fs::remove_all(made);
    return folder;
  }();
  return kept;
}

// One of the office's documents.
inline std::filesystem::path office(const std::string& name) { return office_folder() / name; }

// All of them in a folder `demo`, to do with as one likes.
inline void lay_out_office(const TemporaryFolder& folder) {
  std::filesystem::copy(office_folder(), folder / "demo", std::filesystem::copy_options::recursive);
}

}  // namespace test

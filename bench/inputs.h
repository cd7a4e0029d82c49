// SPDX-License-Identifier: Apache-2.0
// The files that the benchmarks read, made by bench/run.sh.
#pragma once

#include <cstdlib>
#include <filesystem>
#include <iostream>
#include <string>

namespace bench {

inline std::filesystem::path input(const std::string& name) {
  const char* folder = std::getenv("LUMVET_BENCH_INPUTS");
  const std::filesystem::path path =
      std::filesystem::path(folder != nullptr ? folder : "build/demo") / name;
  if (!std::filesystem::exists(path)) {
    std::cerr << path << " is missing; start the benchmarks with bench/run.sh\n";
    std::exit(1);
  }
  return path;
}

// Whether it is only to be seen that the benchmarks run.
inline bool is_short() { return std::getenv("LUMVET_BENCH_SHORT") != nullptr; }

}  // namespace bench

// SPDX-License-Identifier: Apache-2.0
// Times as signatures have them: seconds since 1970, of UTC.
//
// Threads: free functions.
#pragma once

#include <array>
#include <chrono>
#include <cstdint>
#include <ctime>
#include <string>

namespace lumvet::signing {

inline std::int64_t now_in_seconds() {
  return std::chrono::duration_cast<std::chrono::seconds>(
             std::chrono::system_clock::now().time_since_epoch())
      .count();
}

// As std::strftime writes it.
inline std::string time_text(std::int64_t seconds, const char* format) {
  const auto time = static_cast<std::time_t>(seconds);
  std::tm parts{};
  gmtime_r(&time, &parts);
  std::array<char, 40> text{};
  return std::string(text.data(), std::strftime(text.data(), text.size(), format, &parts));
}
inline std::string day_of(std::int64_t seconds) { return time_text(seconds, "%Y-%m-%d"); }

}  // namespace lumvet::signing

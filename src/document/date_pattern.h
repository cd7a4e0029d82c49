// SPDX-License-Identifier: Apache-2.0
// Dates and times of the day written by a pattern: d, dd, ddd, dddd, m, mm, mmm, mmmm, yy, yyyy, H,
// HH, h, hh, M, MM, s, ss and tt; all else stands for itself, and so does what a backslash leads.
//
// Threads: values and free functions.
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace lumvet::document {

struct Moment {
  int year = 0;
  int month = 1;
  int day = 1;
  int hour = 0;
  int minute = 0;
  int second = 0;
};

// Nothing for what does not follow the pattern, or is no day or time.
std::optional<Moment> read_moment(std::string_view text, std::string_view pattern);
std::string moment_text(const Moment& moment, std::string_view pattern);

}  // namespace lumvet::document

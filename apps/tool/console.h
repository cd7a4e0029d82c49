// SPDX-License-Identifier: Apache-2.0
// What every verb of the tool shares: exit codes, messages, progress on a terminal.
#pragma once

#include <chrono>
#include <memory>
#include <string>

#include <lumvet/base/error.h>
#include <lumvet/base/findings.h>
#include <lumvet/base/progress.h>

#include "command_line.h"

namespace tool {

// What the tool's exit codes mean to a script.
inline constexpr int kDone = 0;
inline constexpr int kFailed = 1;
inline constexpr int kWrongUsage = 2;

// What it says to a person; its code, which says the same, is for programs.
std::string sentence_of(const lumvet::Error& error);
// Prints "lumvet: …" on standard error, with what to do next where that is known.
int fail(const lumvet::Error& error);
int wrong_usage(const std::string& message);
// Wrong usage where a caller asked for what cannot be, failed otherwise.
int refuse(const lumvet::Error& error);

// What was printed is written through; gives `code`, or failed when it could not be.
int finish_output(int code);

// Lets Ctrl-C stop the work at its next step, which leaves nothing half done, and say so; a second
// one ends the program at once.
void watch_for_interruption();
// Cancelled then.
const lumvet::CancelToken& interruption();

// Whether notes are to be failures.
bool& is_strict();
void add_strict_option(CLI::App& verb);
// With notes: done all the same, or failed where that is asked for.
int code_for(const std::vector<lumvet::Finding>& findings);
// Findings on standard error, the first few of them; gives the exit code.
int report_findings(const std::vector<lumvet::Finding>& findings);

// What help says of an option: defaults as "[default: 2]", no list of words that its sentence has.
std::shared_ptr<CLI::Formatter> help_formatter();
// An option that may be given several times takes one value each time, whatever it looks like: what
// follows is another argument, and brackets are no list.
void one_at_a_time(CLI::Option& option);
// A whole number from 1 on.
CLI::Validator positive_number();

// "1 page", "12 pages".
std::string count_of(std::uint64_t count, const char* one, const char* many);
// Seconds since 1970 as "2026-12-01 05:09 UTC".
std::string time_text(std::int64_t seconds);
// "1.3 MB".
std::string size_for_people(std::uint64_t bytes);

// A line on standard error that tells how far the work is; only on a terminal, and only after half
// a second.
class ProgressLine {
 public:
  explicit ProgressLine(std::string what);
  ~ProgressLine();
  ProgressLine(const ProgressLine&) = delete;
  ProgressLine& operator=(const ProgressLine&) = delete;

  void update(std::uint64_t done, std::uint64_t total);

 private:
  std::string what_;
  bool on_terminal_;
  bool shown_ = false;
  std::chrono::steady_clock::time_point started_;
  std::chrono::steady_clock::time_point last_;
};

}  // namespace tool

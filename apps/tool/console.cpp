// SPDX-License-Identifier: Apache-2.0
#include "console.h"

#include <unistd.h>

#include <cstdio>
#include <iostream>

namespace tool {

std::string sentence_of(const lumvet::Error& error) {
  return error.to_string().substr(lumvet::name_of(error.code()).size() + 2);
}

int fail(const lumvet::Error& error) {
  std::cerr << "lumvet: " << sentence_of(error) << '\n';
  if (error.code() == lumvet::ErrorCode::exists)
    std::cerr << "        add --replace to replace it\n";
  if (error.code() == lumvet::ErrorCode::password)
    std::cerr
        << "        give it with --password-file FILE, in LUMVET_PASSWORD, or at a terminal\n";
  return kFailed;
}

int wrong_usage(const std::string& message) {
  std::cerr << "lumvet: " << message << '\n';
  return kWrongUsage;
}

bool& is_strict() {
  static bool strict = false;
  return strict;
}

void add_strict_option(CLI::App& verb) {
  verb.add_flag("--strict", is_strict(),
                "Fail where there are notes; a document with any is not written");
}

int code_for(const std::vector<lumvet::Finding>& findings) {
  return findings.empty() || !is_strict() ? kDone : kFailed;
}

int report_findings(const std::vector<lumvet::Finding>& findings) {
  constexpr std::size_t kMostShown = 10;
  for (std::size_t i = 0; i < findings.size() && i < kMostShown; ++i)
    std::cerr << "  note: " << findings[i].to_string() << '\n';
  if (findings.size() > kMostShown)
    std::cerr << "  and " << findings.size() - kMostShown << " more notes; --json lists all\n";
  return code_for(findings);
}

std::string count_of(std::uint64_t count, const char* one, const char* many) {
  return std::to_string(count) + " " + (count == 1 ? one : many);
}

std::string size_for_people(std::uint64_t bytes) {
  if (bytes < 1000) return count_of(bytes, "byte", "bytes");
  double size = static_cast<double>(bytes) / 1000;
  const char* unit = "kB";
  for (const char* larger : {"MB", "GB", "TB"}) {
    if (size < 1000) break;
    size /= 1000;
    unit = larger;
  }
  char text[32];
  std::snprintf(text, sizeof text, "%.1f %s", size, unit);
  return text;
}

ProgressLine::ProgressLine(std::string what)
    : what_(std::move(what)),
      on_terminal_(::isatty(STDERR_FILENO) == 1),
      started_(std::chrono::steady_clock::now()),
      last_(started_) {}

ProgressLine::~ProgressLine() {
  if (shown_) std::cerr << "\r\x1b[K" << std::flush;
}

void ProgressLine::update(std::uint64_t done, std::uint64_t total) {
  if (!on_terminal_ || total == 0) return;
  const auto now = std::chrono::steady_clock::now();
  constexpr std::chrono::milliseconds kPatience(500);
  constexpr std::chrono::milliseconds kBetween(100);
  if (now - started_ < kPatience || now - last_ < kBetween) return;
  last_ = now;
  shown_ = true;
  std::cerr << '\r' << what_ << ' ' << done << " of " << total << " (" << 100 * done / total
            << " %)\x1b[K" << std::flush;
}

}  // namespace tool

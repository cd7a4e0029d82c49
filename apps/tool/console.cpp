// SPDX-License-Identifier: Apache-2.0
#include "console.h"

#include <array>
#include <ctime>

#include <unistd.h>

#include <cerrno>
#include <csignal>
#include <cstdio>
#include <cstring>
#include <iostream>
#include <sstream>
#include <utility>

#include <CLI/CLI.hpp>

#include "printable.h"

namespace tool {

std::string sentence_of(const lumvet::Error& error) {
  return error.to_string().substr(lumvet::name_of(error.code()).size() + 2);
}

int fail(const lumvet::Error& error) {
  std::cerr << "lumvet: " << sentence_of(error) << '\n';
  if (error.code() == lumvet::ErrorCode::exists)
    std::cerr << "        add --replace to replace it\n";
  const bool is_by_certificate = error.message().find("certificate") != std::string::npos;
  if (error.code() == lumvet::ErrorCode::password)
    std::cerr << (is_by_certificate
                      ? "        give the certificate and its key with --key-file FILE\n"
                      : "        give it with --password-file FILE, in LUMVET_PASSWORD, or at a "
                        "terminal\n");
  return kFailed;
}

int refuse(const lumvet::Error& error) {
  return error.code() == lumvet::ErrorCode::invalid_argument ? wrong_usage(sentence_of(error))
                                                             : fail(error);
}

int finish_output(int code) {
  std::cout.flush();
  if (std::cout && std::fflush(stdout) == 0) return code;
  std::cerr << "lumvet: standard output cannot be written: " << std::strerror(errno) << '\n';
  return kFailed;
}

namespace {

lumvet::CancelToken& token() {
  static lumvet::CancelToken token;
  return token;
}

}  // namespace

const lumvet::CancelToken& interruption() { return token(); }

void watch_for_interruption() {
  token();
  std::signal(SIGINT, [](int) {
    token().cancel();
    std::signal(SIGINT, SIG_DFL);
    constexpr char kTold[] = "\nlumvet: stopping; Ctrl-C again stops at once\n";
    [[maybe_unused]] const auto written = ::write(STDERR_FILENO, kTold, sizeof kTold - 1);
  });
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

namespace {

class HelpFormatter final : public CLI::Formatter {
 public:
  std::string make_option_opts(const CLI::Option* option) const override {
    std::string text;
    if (!option->get_option_text().empty()) return " " + option->get_option_text();
    if (option->get_type_size() != 0) text += " " + option->get_type_name();
    if (option->get_required()) text += " (required)";
    return text;
  }
  std::string make_option_desc(const CLI::Option* option) const override {
    std::string text = option->get_description();
    const std::string& value = option->get_default_str();
    const bool is_told = !value.empty() && value != "[]" && value != "0";
    if (is_told) text += " [default: " + value + "]";
    return in_lines(text);
  }
  // With one empty line between its parts.
  std::string make_help(const CLI::App* app, std::string name,
                        CLI::AppFormatMode mode) const override {
    return CLI::detail::find_and_replace(CLI::Formatter::make_help(app, std::move(name), mode),
                                         "\n\n\n", "\n\n");
  }
  // Options that belong together, below what they are for.
  std::string make_expanded(const CLI::App* group) const override {
    if (!group->get_name().empty()) return CLI::Formatter::make_expanded(group);
    const std::string options = make_groups(group, CLI::AppFormatMode::Sub);
    const std::string heading = "\nOptions:\n";
    const bool has_heading = options.starts_with(heading);
    return "\n" + group->get_description() + ":\n" +
           (has_heading ? options.substr(heading.size()) : options);
  }

 private:
  // Broken between words, so that no terminal does it within one.
  static std::string in_lines(const std::string& text) {
    constexpr std::size_t kWidest = 76;
    std::string lines;
    std::size_t width = 0;
    std::istringstream words(text);
    for (std::string word; words >> word;) {
      if (width > 0 && width + 1 + word.size() > kWidest) {
        lines += '\n';
        width = 0;
      } else if (width > 0) {
        lines += ' ';
        ++width;
      }
      lines += word;
      width += word.size();
    }
    return lines;
  }
};

}  // namespace

std::shared_ptr<CLI::Formatter> help_formatter() {
  auto formatter = std::make_shared<HelpFormatter>();
  constexpr std::size_t kWidth = 30;
  formatter->column_width(kWidth);
  return formatter;
}

void one_at_a_time(CLI::Option& option) {
  option.expected(1)->multi_option_policy(CLI::MultiOptionPolicy::TakeAll)->allow_extra_args(false);
}

CLI::Validator positive_number() {
  return CLI::Validator(
      [](std::string& text) -> std::string {
        const bool is_number = !text.empty() && text.size() < 10 &&
                               text.find_first_not_of("0123456789") == std::string::npos &&
                               text.find_first_not_of('0') != std::string::npos;
        return is_number ? "" : "'" + text + "' is not a number from 1 on";
      },
      "");
}

std::string count_of(std::uint64_t count, const char* one, const char* many) {
  return std::to_string(count) + " " + (count == 1 ? one : many);
}

std::string time_text(std::int64_t seconds) {
  const auto time = static_cast<std::time_t>(seconds);
  std::tm parts{};
  gmtime_r(&time, &parts);
  std::array<char, 40> text{};
  return std::string(text.data(),
                     std::strftime(text.data(), text.size(), "%Y-%m-%d %H:%M UTC", &parts));
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
  if (shown_) raw_errors() << "\r\x1b[K" << std::flush;
}

void ProgressLine::update(std::uint64_t done, std::uint64_t total) {
  if (!on_terminal_ || total == 0) return;
  const auto now = std::chrono::steady_clock::now();
  constexpr std::chrono::milliseconds kPatience(500);
  constexpr std::chrono::milliseconds kBetween(100);
  if (now - started_ < kPatience || now - last_ < kBetween) return;
  last_ = now;
  shown_ = true;
  raw_errors() << '\r' << printable(what_) << ' ' << done << " of " << total << " ("
               << 100 * done / total << " %)\x1b[K" << std::flush;
}

}  // namespace tool

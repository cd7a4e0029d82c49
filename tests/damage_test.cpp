// SPDX-License-Identifier: Apache-2.0
// Two thousand damaged copies of good files: whatever happens is an error or a document with
// findings, never a crash, and never a matter of many seconds or much memory. Each copy is tried in
// a process of its own.
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

#include <algorithm>
#include <map>

#include "lumvet/lumvet.h"
#include "tests/support/catch.h"
#include "tests/support/damage.h"
#include "tests/support/office.h"
#include "tests/support/sanitized.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;
using test::DamageKind;

namespace {

// What a child process came to.
enum Outcome { kWithFindings = 0, kWithoutFindings = 1, kRefused = 2, kWrong = 9 };

// What an application would do with a file that somebody sent.
Outcome use(const std::string& bytes) {
  const Limits limits{.decoded_bytes = 64 << 20,
                      .pixels = 16'000'000,
                      .operators = 200'000,
                      .page_milliseconds = 2000};
  const auto document =
      Document::open(Bytes(bytes.begin(), bytes.end()), {.limits = limits, .password = "ostrel"});
  if (!document.ok()) return document.error().message().empty() ? kWrong : kRefused;
  document->outline().ok();
  document->attachments().ok();
  document->fonts().ok();
  document->metadata().ok();
  document->revisions().ok();
  document->layers().ok();
  document->structure().ok();
  document->form().ok();
  const int pages = std::min(document->page_count(), 3);
  for (int i = 0; i < pages; ++i) {
    const auto page = document->page(i);
    if (page.ok()) page->annotations().ok();
    if (page.ok()) static_cast<void>(render(*page, {.dpi = 20, .threads = 1, .limits = limits}));
  }
  BufferSink sink;
  const auto saved = repair(*document, sink);
  if (saved.ok()) {
    const auto again = Document::open(sink.take(), {.password = "ostrel"});
    if (!again.ok() || again->page_count() != saved->pages) return kWrong;
  }
  return document->findings().empty() ? kWithoutFindings : kWithFindings;
}

struct Tried {
  int outcome = kWrong;  // or minus the signal that ended it
  long peak = 0;         // kilobytes
};

Tried try_apart(const std::string& bytes) {
  const pid_t child = ::fork();
  if (child == 0) {
    ::alarm(test::kIsSanitized ? 60 : 5);  // ends a process that hangs
    ::_exit(use(bytes));
  }
  int status = 0;
  rusage usage{};
  ::wait4(child, &status, 0, &usage);
  return {WIFEXITED(status) ? WEXITSTATUS(status) : -WTERMSIG(status), usage.ru_maxrss};
}

std::map<std::string, std::string> good_files() {
  std::map<std::string, std::string> files;
  for (const auto& entry : std::filesystem::directory_iterator(
           std::filesystem::path(LUMVET_SOURCE_DIR) / "demo/producers"))
    if (entry.path().extension() == ".pdf")
      files[entry.path().filename().string()] = test::read_file(entry.path());
  for (const char* name : {"report.pdf", "annex.pdf", "inspection.pdf"})
    files[name] = test::read_file(test::office(name));
  return files;
}

constexpr int kEach = test::kIsSanitized ? 3 : 23;  // 23 copies of 11 files in 9 ways are 2,277

struct ToDamage {
  std::string name;
  std::string bytes;
  int copies = kEach;
};

// Besides, a folder of real documents, where somebody names one.
std::vector<ToDamage> files_to_damage() {
  std::vector<ToDamage> files;
  for (const auto& [name, bytes] : good_files()) files.push_back({name, bytes});
  constexpr std::uintmax_t kLargest = 2'000'000;
  constexpr int kFew = 2;
  if (const char* folder = std::getenv("LUMVET_DAMAGE_FOLDER"))
    for (const auto& entry : std::filesystem::recursive_directory_iterator(folder))
      if (entry.path().extension() == ".pdf" && entry.is_regular_file() &&
          entry.file_size() <= kLargest)
        files.push_back({entry.path().filename().string(), test::read_file(entry.path()), kFew});
  return files;
}

// Tries damaged copies of every file and gives how many opened, and of how many.
std::pair<int, int> try_all(DamageKind kind) {
  int opened = 0;
  int tried = 0;
  test::Damager damager(2026 + static_cast<unsigned>(kind));
  const long idle = try_apart("").peak;
  for (const auto& [name, good, copies] : files_to_damage()) {
    REQUIRE(good.size() > 500);
    for (int i = 0; i < copies; ++i) {
      const std::string bad = damager.damaged(good, kind);
      // Their keys are made of the identifier in the trailer: without it no password opens them.
      const bool is_lost = kind == DamageKind::truncated_tail && name.starts_with("locked-") &&
                           name != "locked-r6.pdf";
      const Tried result = try_apart(bad);
      CAPTURE(name, i, test::name_of(kind));
      CHECK(result.outcome >= kWithFindings);
      CHECK(result.outcome <= kRefused);
      if (!test::kIsSanitized)
        CHECK(result.peak - idle < static_cast<long>(bad.size() * 16 / 1024) + 256 * 1024);
      if (is_lost) continue;
      opened += result.outcome < kRefused;
      ++tried;
    }
  }
  return {opened, tried};
}

}  // namespace

TEST_CASE("the good files open without a finding", "[damage]") {
  for (const auto& [name, good] : good_files()) {
    CAPTURE(name);
    CHECK(try_apart(good).outcome == kWithoutFindings);
  }
}

TEST_CASE("files with a lost tail or wrong offsets open nearly always", "[damage]") {
  const auto kind = GENERATE(DamageKind::truncated_tail, DamageKind::wrong_offsets);
  const auto [opened, tried] = try_all(kind);
  CAPTURE(test::name_of(kind), opened, tried);
  CHECK(tried >= kEach * 8);
  CHECK(opened * 10 >= tried * 9);
}

TEST_CASE("files damaged in other ways do no harm", "[damage]") {
  const auto kind =
      GENERATE(DamageKind::flipped_bytes, DamageKind::wrong_lengths, DamageKind::wrong_references,
               DamageKind::huge_numbers, DamageKind::lost_piece, DamageKind::moved_piece,
               DamageKind::converted_line_ends);
  const auto [opened, tried] = try_all(kind);
  CHECK(tried >= kEach * 11);
  CHECK(opened > tried / 2);
}

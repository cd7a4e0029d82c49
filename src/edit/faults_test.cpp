// SPDX-License-Identifier: Apache-2.0
// Saves that are cut short: by a sink that fails at any byte, and by being killed at any moment.
#include <fcntl.h>
#include <sys/file.h>
#include <sys/ptrace.h>
#include <sys/resource.h>
#include <sys/syscall.h>
#include <sys/user.h>
#include <sys/wait.h>
#include <unistd.h>

#include <algorithm>
#include <csignal>
#include <functional>
#include <random>

#include "lumvet/edit/editable_document.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/sanitized.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;

namespace {

// Takes so many bytes, then the disk is full.
class FullDisk final : public ByteSink {
 public:
  explicit FullDisk(std::uint64_t room) : room_(room) {}
  Status write(ByteView bytes) override {
    if (bytes.size() > room_)
      return Error(ErrorCode::io, "cannot write the test's file: No space left on device");
    room_ -= bytes.size();
    return Done{};
  }

 private:
  std::uint64_t room_;
};

std::string pages(int count, const std::string& title) {
  test::PdfBuilder pdf;
  std::string kids;
  for (int i = 0; i < count; ++i) {
    kids += std::to_string(10 + 2 * i) + " 0 R ";
    pdf.object(10 + 2 * i,
               "<</Type/Page/Parent 2 0 R/Contents " + std::to_string(11 + 2 * i) + " 0 R>>");
    pdf.stream(11 + 2 * i, "", std::to_string(i) + " w " + std::string(200, ' '));
  }
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[" + kids + "]/Count " + std::to_string(count) +
                    "/MediaBox[0 0 9 9]>>");
  pdf.object(3, "<</Title(" + title + ")>>");
  return pdf.finish("/Root 1 0 R/Info 3 0 R");
}

const std::pair<const char*, FileLayout> kLayouts[] = {
    {"compact", FileLayout::compact},
    {"classic", FileLayout::classic},
    {"linearized", FileLayout::linearized},
    {"linearized classic", FileLayout::linearized_classic}};

}  // namespace

TEST_CASE("a disk that is full at any byte is told, whatever is written", "[edit]") {
  const Document document = test::open(pages(5, "Day 12")).value();
  for (const auto& [name, layout] : kLayouts) {
    BufferSink whole;
    REQUIRE(save(document, whole, {.layout = layout}).ok());
    for (std::uint64_t room = 0; room < whole.size(); room += 1 + whole.size() / 60) {
      CAPTURE(name, room);
      FullDisk disk(room);
      const auto saved = save(document, disk, {.layout = layout});
      REQUIRE_FALSE(saved.ok());
      CHECK(saved.error().code() == ErrorCode::io);
      CHECK_THAT(saved.error().to_string(), Catch::Contains("No space left"));
    }
  }
}

TEST_CASE("a file system that takes no more leaves the old file, and nothing else", "[edit]") {
  const test::TemporaryFolder folder;
  const Document fresh = test::open(pages(300, "Day 12")).value();
  const std::string old = pages(40, "Day 11");
  for (const auto& [name, layout] : kLayouts) {
    BufferSink whole;
    REQUIRE(save(fresh, whole, {.layout = layout}).ok());
    for (const std::uint64_t most :
         {std::uint64_t{0}, std::uint64_t{1}, whole.size() / 2, whole.size() - 1}) {
      CAPTURE(name, most);
      test::write_file(folder / "day.pdf", old);
      const pid_t child = ::fork();
      REQUIRE(child >= 0);
      if (child == 0) {
        std::signal(SIGXFSZ, SIG_IGN);
        const rlimit limit{most, most};
        ::setrlimit(RLIMIT_FSIZE, &limit);
        const auto saved = save(fresh, folder / "day.pdf", {.layout = layout, .replace = true});
        const bool is_told = !saved.ok() && saved.error().code() == ErrorCode::io &&
                             saved.error().to_string().find("day.pdf") != std::string::npos;
        ::_exit(is_told ? 0 : 1);
      }
      int status = 0;
      ::waitpid(child, &status, 0);
      CHECK(status == 0);
      CHECK(test::read_file(folder / "day.pdf") == old);
      CHECK(folder.file_count() == 1);
    }
  }
}

namespace {

// Lets a child do it again and again until it is killed, up to 20 ms later.
void do_until_killed(std::mt19937& random, const std::function<bool()>& work) {
  const pid_t child = ::fork();
  REQUIRE(child >= 0);
  if (child == 0) {
    while (work()) {
    }
    ::_exit(1);
  }
  ::usleep(static_cast<useconds_t>(random() % 20'000));
  ::kill(child, SIGKILL);
  int status = 0;
  ::waitpid(child, &status, 0);
  REQUIRE(WIFSIGNALED(status));
}

// Of each kind of save. Sanitizers make children slow to begin, and have seen enough of a few.
constexpr int kKills = test::kIsSanitized ? 10 : 100;

}  // namespace

TEST_CASE("a save that is killed harms nothing and leaves nothing behind", "[edit]") {
  const test::TemporaryFolder folder;
  const Document fresh = test::open(pages(300, "Day 12")).value();
  const std::string old = pages(40, "Day 11");
  std::mt19937 random(12);
  for (const auto& [name, layout] : kLayouts) {
    const SaveOptions options{.layout = layout, .replace = true};
    for (int round = 0; round < kKills; ++round) {
      CAPTURE(name, round);
      test::write_file(folder / "day.pdf", old);
      do_until_killed(random, [&] { return save(fresh, folder / "day.pdf", options).ok(); });
      const auto left = Document::open(folder / "day.pdf");
      REQUIRE(left.ok());
      CHECK_FALSE(left->was_repaired());
      const bool is_old = left->info().value().title == "Day 11";
      CHECK(left->page_count() == (is_old ? 40 : 300));
      if (is_old) CHECK(test::read_file(folder / "day.pdf") == old);
    }
    // What its last moments named is gone after the next.
    CHECK(folder.file_count() <= 2);
    REQUIRE(save(fresh, folder / "day.pdf", options).ok());
    CHECK(folder.file_count() == 1);
  }
}

namespace {

// Appends a change in a child that is killed when it asks the system for the `wanted`th thing that
// writes, names or removes; false when it got through before.
bool is_killed_at_write(EditableDocument& changes, int wanted) {
  const pid_t child = ::fork();
  REQUIRE(child >= 0);
  if (child == 0) {
    ::ptrace(PTRACE_TRACEME, 0, nullptr, nullptr);
    ::raise(SIGSTOP);
    ::_exit(changes.append_to_file().ok() ? 0 : 1);
  }
  int status = 0;
  REQUIRE(::waitpid(child, &status, 0) == child);
  REQUIRE(WIFSTOPPED(status));
  int met = 0;
  for (bool is_entry = true;; is_entry = !is_entry) {
    REQUIRE(::ptrace(PTRACE_SYSCALL, child, nullptr, nullptr) == 0);
    REQUIRE(::waitpid(child, &status, 0) == child);
    if (WIFEXITED(status)) {
      CHECK(WEXITSTATUS(status) == 0);
      return false;
    }
    REQUIRE(WIFSTOPPED(status));
    user_regs_struct registers{};
    REQUIRE(::ptrace(PTRACE_GETREGS, child, nullptr, &registers) == 0);
    constexpr long kWrites[] = {SYS_write,  SYS_pwrite64, SYS_ftruncate, SYS_fsync, SYS_linkat,
                                SYS_rename, SYS_unlink,   SYS_link,      SYS_openat};
    const auto call = static_cast<long>(registers.orig_rax);
    if (!is_entry || std::find(std::begin(kWrites), std::end(kWrites), call) == std::end(kWrites))
      continue;
    if (++met < wanted) continue;
    ::kill(child, SIGKILL);
    ::waitpid(child, &status, 0);
    return true;
  }
}

}  // namespace

TEST_CASE("an update that is killed at any write leaves the file as it was, or whole", "[edit]") {
  const test::TemporaryFolder folder;
  const std::filesystem::path path = folder / "day.pdf";
  const std::string old = pages(40, "Day 11");
  std::mt19937 random(13);
  Bytes noise(3 << 18);  // of several writes
  for (std::uint8_t& byte : noise) byte = static_cast<std::uint8_t>(random());
  test::write_file(path, old);
  EditableDocument changes = EditableDocument::of(Document::open(path).value());
  REQUIRE(changes.attach({.name = "noise", .bytes = noise}).ok());
  const Bytes more = changes.appended().value();
  const std::string whole = old + std::string(more.begin(), more.end());
  int kills = 0;
  while (is_killed_at_write(changes, kills + 1)) {
    ++kills;
    CAPTURE(kills);
    const std::string left = test::read_file(path);
    CHECK((left == old || left == whole));
    test::write_file(path, old);
    REQUIRE(kills < 1000);
  }
  CHECK(kills > 5);
  CHECK(test::read_file(path) == whole);
  // What the killed ones left is gone with the last.
  CHECK(folder.file_count() == 1);
}

TEST_CASE("a limit on the size of files ends an update before or after it, not within", "[edit]") {
  const test::TemporaryFolder folder;
  const std::filesystem::path path = folder / "day.pdf";
  const std::string old = pages(2, "Day 11");
  test::write_file(path, old);
  EditableDocument changes = EditableDocument::of(Document::open(path).value());
  REQUIRE(changes.set_language("de").ok());
  const std::size_t added = changes.appended().value().size();
  for (std::size_t most = old.size(); most <= old.size() + added; most += 7) {
    CAPTURE(most);
    const pid_t child = ::fork();
    REQUIRE(child >= 0);
    if (child == 0) {
      const rlimit limit{most, most};
      ::setrlimit(RLIMIT_FSIZE, &limit);  // whose signal ends the program
      ::_exit(changes.append_to_file().ok() ? 0 : 1);
    }
    int status = 0;
    REQUIRE(::waitpid(child, &status, 0) == child);
    CHECK(WIFSIGNALED(status));
    CHECK(test::read_file(path) == old);
  }
}

TEST_CASE("an update does not overwrite what somebody else wrote meanwhile", "[edit]") {
  const test::TemporaryFolder folder;
  const std::filesystem::path path = folder / "day.pdf";
  test::write_file(path, pages(2, "Day 11"));
  EditableDocument one = EditableDocument::of(Document::open(path).value());
  EditableDocument other = EditableDocument::of(Document::open(path).value());
  REQUIRE(one.set_language("de").ok());
  REQUIRE(other.set_language("fr").ok());
  REQUIRE(one.append_to_file().ok());
  const auto refused = other.append_to_file();
  REQUIRE_FALSE(refused.ok());
  CHECK(refused.error().code() == ErrorCode::invalid_argument);
  CHECK(Document::open(path)->language().value() == "de");
}

TEST_CASE("a file that somebody is changing is not changed by another", "[edit]") {
  const test::TemporaryFolder folder;
  const auto path = folder / "days.pdf";
  test::write_file(path, pages(3, "Day 12"));
  EditableDocument days = EditableDocument::of(Document::open(path).value());
  REQUIRE(days.set_properties({.title = "Day 13"}).ok());
  const int other = ::open(path.c_str(), O_RDONLY | O_CLOEXEC);
  REQUIRE(::flock(other, LOCK_EX) == 0);
  const Result<SaveReport> refused = days.append_to_file();
  REQUIRE_FALSE(refused.ok());
  CHECK_THAT(refused.error().message(), Catch::Contains("being changed by somebody else"));
  CHECK(test::read_file(path) == pages(3, "Day 12"));
  ::close(other);
  CHECK(days.append_to_file().ok());
  CHECK(Document::open(path)->info()->title == "Day 13");
}

TEST_CASE("of those that change one file at once no change is lost", "[edit]") {
  constexpr int kWriters = 6;
  constexpr int kRounds = 15;
  for (int round = 0; round < kRounds; ++round) {
    const test::TemporaryFolder folder;
    const auto path = folder / "days.pdf";
    test::write_file(path, pages(3, "Day 12"));
    int ready[2];  // is closed when all may begin
    REQUIRE(::pipe(ready) == 0);
    std::vector<pid_t> children;
    for (int i = 0; i < kWriters; ++i) {
      const pid_t child = ::fork();
      REQUIRE(child >= 0);
      if (child == 0) {
        ::close(ready[1]);
        EditableDocument days = EditableDocument::of(Document::open(path).value());
        if (!days.set_properties({.title = "Writer " + std::to_string(i)}).ok()) ::_exit(2);
        char none = 0;
        if (::read(ready[0], &none, 1) != 0) ::_exit(2);
        ::_exit(days.append_to_file().ok() ? 0 : 1);
      }
      children.push_back(child);
    }
    ::close(ready[0]);
    ::close(ready[1]);
    std::size_t succeeded = 0;
    for (const pid_t child : children) {
      int status = 0;
      REQUIRE(::waitpid(child, &status, 0) == child);
      REQUIRE(WIFEXITED(status));
      REQUIRE(WEXITSTATUS(status) <= 1);
      if (WEXITSTATUS(status) == 0) ++succeeded;
    }
    const Document after = Document::open(path).value();
    CHECK(succeeded >= 1);
    CHECK(after.revisions()->size() == 1 + succeeded);
    CHECK(after.findings().empty());
    CHECK(std::distance(std::filesystem::directory_iterator(folder.path()), {}) == 1);
  }
}

TEST_CASE("of those that save under one name at once each is whole, and one is first", "[edit]") {
  const auto replace = GENERATE(false, true);
  constexpr int kWriters = 6;
  const test::TemporaryFolder folder;
  const auto path = folder / "days.pdf";
  std::vector<pid_t> children;
  for (int i = 0; i < kWriters; ++i) {
    const pid_t child = ::fork();
    REQUIRE(child >= 0);
    if (child == 0) {
      const Document days = test::open(pages(10 + i, "Day " + std::to_string(i))).value();
      ::_exit(save(days, path, {.replace = replace}).ok() ? 0 : 1);
    }
    children.push_back(child);
  }
  int succeeded = 0;
  for (const pid_t child : children) {
    int status = 0;
    REQUIRE(::waitpid(child, &status, 0) == child);
    REQUIRE(WIFEXITED(status));
    if (WEXITSTATUS(status) == 0) ++succeeded;
  }
  CHECK(succeeded == (replace ? kWriters : 1));
  const Document after = Document::open(path).value();
  CHECK(after.findings().empty());
  CHECK(after.info()->title == "Day " + std::to_string(after.page_count() - 10));
  CHECK(std::distance(std::filesystem::directory_iterator(folder.path()), {}) == 1);
}

TEST_CASE("an update that cannot be written leaves the file as long as it was", "[edit]") {
  const test::TemporaryFolder folder;
  test::write_file(folder / "a.pdf", pages(2, "Day 11"));
  const Document document = Document::open(folder / "a.pdf").value();
  EditableDocument changes = EditableDocument::of(document);
  REQUIRE(changes.set_language("de").ok());
  const std::string before = test::read_file(folder / "a.pdf");
  // A file-size limit counts for root as well.
  const pid_t child = ::fork();
  if (child == 0) {
    std::signal(SIGXFSZ, SIG_IGN);
    const rlimit limit{before.size() + 40, before.size() + 40};
    ::setrlimit(RLIMIT_FSIZE, &limit);
    const auto appended = changes.append_to_file();
    std::_Exit(!appended.ok() && appended.error().code() == ErrorCode::io ? 0 : 1);
  }
  int status = 0;
  REQUIRE(::waitpid(child, &status, 0) == child);
  CHECK(WIFEXITED(status));
  CHECK(WEXITSTATUS(status) == 0);
  CHECK(test::read_file(folder / "a.pdf") == before);
}

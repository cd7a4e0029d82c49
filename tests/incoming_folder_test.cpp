// SPDX-License-Identifier: Apache-2.0
#include "apps/tool/incoming_folder.h"

#include <sys/stat.h>

#include <fstream>
#include <thread>

#include "tests/support/catch.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;
using namespace tool;
using namespace std::chrono_literals;
namespace fs = std::filesystem;

namespace {

constexpr auto kShort = 20ms;

void write(const fs::path& path, const std::string& text) {
  std::ofstream(path, std::ios::binary | std::ios::app) << text;
}

std::string read(const fs::path& path) {
  std::ifstream in(path, std::ios::binary);
  return {std::istreambuf_iterator<char>(in), {}};
}

IncomingFolder open(const fs::path& folder) {
  return IncomingFolder::open(folder, {.ending = ".pdf", .settles_in = kShort}).value();
}

std::vector<std::string> names(const std::vector<IncomingFile>& files) {
  std::vector<std::string> all;
  for (const IncomingFile& file : files) all.push_back(file.path.filename().string());
  return all;
}

// After two looks, the second late enough.
std::vector<IncomingFile> settled(IncomingFolder& folder) {
  REQUIRE(folder.ready().ok());
  std::this_thread::sleep_for(2 * kShort);
  return folder.ready().value();
}

using Names = std::vector<std::string>;

}  // namespace

TEST_CASE("a file counts once it has stopped growing", "[io]") {
  const test::TemporaryFolder place;
  IncomingFolder folder = open(place.path());
  CHECK(folder.ready().value().empty());
  CHECK_FALSE(folder.is_waiting());
  write(place.path() / "b.PDF", "half");
  write(place.path() / "a.pdf", "whole");
  write(place.path() / ".hidden.pdf", "x");
  write(place.path() / "notes.txt", "x");
  fs::create_directory(place.path() / "folder.pdf");
  CHECK(folder.ready().value().empty());
  CHECK(folder.is_waiting());
  std::this_thread::sleep_for(2 * kShort);
  write(place.path() / "b.PDF", " and more");
  CHECK(names(folder.ready().value()) == Names{"a.pdf"});
  CHECK(folder.is_waiting());
  CHECK(names(settled(folder)) == Names{"a.pdf", "b.PDF"});
  CHECK_FALSE(folder.is_waiting());
}

TEST_CASE("each file is worked on once, over restarts too", "[io]") {
  const test::TemporaryFolder place;
  const std::string odd = "line\nend \\ and blank.pdf";
  for (const std::string& name : {std::string("a.pdf"), odd, std::string("c.pdf")})
    write(place.path() / name, "bytes");
  {
    IncomingFolder folder = open(place.path());
    const auto files = settled(folder);
    REQUIRE(names(files) == Names{"a.pdf", "c.pdf", odd});
    for (const int done : {0, 2}) {
      REQUIRE(folder.begin(files[static_cast<std::size_t>(done)]).ok());
      REQUIRE(folder.finish(files[static_cast<std::size_t>(done)]).ok());
    }
    REQUIRE(folder.begin(files[1]).ok());  // and then it was killed
    CHECK(names(folder.ready().value()) == Names{"c.pdf"});
  }
  IncomingFolder folder = open(place.path());
  auto files = settled(folder);
  REQUIRE(names(files) == Names{"c.pdf"});
  CHECK(files[0].was_begun);
  // Another file of the same name is another file.
  write(place.path() / "a.pdf", " changed");
  files = settled(folder);
  CHECK(names(files) == Names{"a.pdf", "c.pdf"});
  CHECK_FALSE(files[0].was_begun);
}

TEST_CASE("what failed is put aside with its reason", "[io]") {
  const test::TemporaryFolder place;
  IncomingFolder folder = open(place.path());
  for (int i = 0; i < 2; ++i) {
    write(place.path() / "a.pdf", std::string(static_cast<std::size_t>(i + 1), 'x'));
    const auto files = settled(folder);
    REQUIRE(files.size() == 1);
    REQUIRE(folder.begin(files[0]).ok());
    const fs::path now = folder.put_aside(files[0], "it is cut off").value();
    CHECK(now == place.path() / "failed" / (i == 0 ? "a.pdf" : "a-2.pdf"));
    CHECK(read(now).size() == static_cast<std::size_t>(i + 1));
    CHECK(read(now.string() + ".txt") == "it is cut off\n");
    CHECK_FALSE(fs::exists(place.path() / "a.pdf"));
    CHECK(settled(folder).empty());
  }
}

TEST_CASE("a file that ends the program twice is put aside", "[io]") {
  const test::TemporaryFolder place;
  write(place.path() / "bomb.pdf", "x");
  for (int run = 0; run < 2; ++run) {
    IncomingFolder folder = open(place.path());
    const auto files = settled(folder);
    REQUIRE(names(files) == Names{"bomb.pdf"});
    CHECK(files[0].was_begun == (run > 0));
    REQUIRE(folder.begin(files[0]).ok());
  }
  IncomingFolder folder = open(place.path());
  CHECK(settled(folder).empty());
  CHECK(read(place.path() / "failed" / "bomb.pdf.txt") ==
        "the program ended twice while it was working on it\n");
}

TEST_CASE("a file that is left comes again, however often", "[io]") {
  const test::TemporaryFolder place;
  write(place.path() / "a.pdf", "x");
  for (int run = 0; run < 4; ++run) {
    IncomingFolder folder = open(place.path());
    const auto files = settled(folder);
    REQUIRE(names(files) == Names{"a.pdf"});
    CHECK_FALSE(files[0].was_begun);
    REQUIRE(folder.begin(files[0]).ok());
    fs::remove(place.path() / ".lumvet-journal");  // which is then made again
    REQUIRE(folder.leave(files[0]).ok());
  }
}

TEST_CASE("the journal forgets what is gone and bears damage", "[io]") {
  const test::TemporaryFolder place;
  write(place.path() / "a.pdf", "x");
  {
    IncomingFolder folder = open(place.path());
    const auto files = settled(folder);
    REQUIRE(folder.begin(files.at(0)).ok());
    REQUIRE(folder.finish(files.at(0)).ok());
  }
  fs::remove(place.path() / "a.pdf");
  write(place.path() / ".lumvet-journal", "nonsense\nbegun 5\n\n");
  write(place.path() / "b.pdf", "x");
  IncomingFolder folder = open(place.path());
  CHECK(read(place.path() / ".lumvet-journal").empty());
  CHECK(names(settled(folder)) == Names{"b.pdf"});
  CHECK(IncomingFolder::open(place.path() / "none").error().code() == ErrorCode::io);
}

// Half an upload was published when it paused for longer than a file takes to settle.
TEST_CASE("an upload that stalls is waited for until its end is there", "[io]") {
  const test::TemporaryFolder place;
  IncomingFolder folder = open(place.path());
  for (const char* part : {"%P", "DF-1.7 half", " of it, and more", "\nstartxref\n9\n%%E"}) {
    write(place.path() / "a.pdf", part);
    CHECK(settled(folder).empty());
    CHECK(names(folder.incomplete()) == Names{"a.pdf"});
    CHECK_FALSE(folder.is_waiting());
  }
  write(place.path() / "a.pdf", "OF\n");
  CHECK(names(settled(folder)) == Names{"a.pdf"});
  CHECK(folder.incomplete().empty());
}

TEST_CASE("an upload that has stalled for too long is put aside", "[io]") {
  const test::TemporaryFolder place;
  write(place.path() / "a.pdf", "%PDF-1.7 half");
  auto folder =
      IncomingFolder::open(place.path(), {.settles_in = kShort, .stalls_for = kShort}).value();
  CHECK(settled(folder).empty());
  CHECK_THAT(read(place.path() / "failed" / "a.pdf.txt"), Catch::Contains("its end is missing"));
  CHECK(read(place.path() / "failed" / "a.pdf") == "%PDF-1.7 half");
}

TEST_CASE("a folder has one watcher", "[io]") {
  const test::TemporaryFolder place;
  {
    IncomingFolder first = open(place.path());
    const auto second = IncomingFolder::open(place.path());
    REQUIRE_FALSE(second.ok());
    CHECK_THAT(second.error().message(), Catch::Contains("is being watched already"));
    IncomingFolder moved = std::move(first);
    CHECK_FALSE(IncomingFolder::open(place.path()).ok());
  }
  CHECK(IncomingFolder::open(place.path()).ok());
}

TEST_CASE("nothing is followed out of the folder", "[io]") {
  const test::TemporaryFolder place;
  const test::TemporaryFolder elsewhere;
  write(elsewhere / "theirs.pdf", "theirs");
  fs::create_symlink(elsewhere / "theirs.pdf", place / "a.pdf");
  {
    IncomingFolder folder = open(place.path());
    CHECK(settled(folder).empty());
  }
  fs::remove(place / ".lumvet-journal");
  for (const char* kind : {"a link", "a second name", "a pipe", "a folder"}) {
    CAPTURE(kind);
    const fs::path journal = place / ".lumvet-journal";
    if (kind == std::string("a link")) fs::create_symlink(elsewhere / "theirs.pdf", journal);
    if (kind == std::string("a second name"))
      fs::create_hard_link(elsewhere / "theirs.pdf", journal);
    if (kind == std::string("a pipe")) REQUIRE(::mkfifo(journal.c_str(), 0600) == 0);
    if (kind == std::string("a folder")) fs::create_directory(journal);
    const auto refused = IncomingFolder::open(place.path());
    REQUIRE_FALSE(refused.ok());
    CHECK_THAT(refused.error().message(), Catch::Contains("not a plain file of this folder"));
    CHECK(read(elsewhere / "theirs.pdf") == "theirs");
    fs::remove(journal);
  }
}

TEST_CASE("what is put aside replaces nothing", "[io]") {
  const test::TemporaryFolder place;
  fs::create_directory(place / "failed");
  write(place / "failed/a.pdf.txt", "somebody's notes");
  fs::create_symlink(place / "nowhere", place / "failed/a-2.pdf");
  write(place / "a.pdf", "x");
  IncomingFolder folder = open(place.path());
  const auto files = settled(folder);
  REQUIRE(files.size() == 1);
  CHECK(folder.put_aside(files[0], "it is cut off").value() == place / "failed/a-3.pdf");
  CHECK(read(place / "failed/a.pdf.txt") == "somebody's notes");
  CHECK(read(place / "failed/a-3.pdf.txt") == "it is cut off\n");
}

TEST_CASE("a line of the journal that was cut off counts for nothing", "[io]") {
  const test::TemporaryFolder place;
  write(place / "a.pdf", "x");
  {
    IncomingFolder folder = open(place.path());
    const auto files = settled(folder);
    REQUIRE(folder.begin(files.at(0)).ok());
    REQUIRE(folder.finish(files.at(0)).ok());
  }
  const std::string whole = read(place / ".lumvet-journal");
  std::ofstream(place / ".lumvet-journal", std::ios::binary) << whole.substr(0, whole.size() - 1);
  IncomingFolder folder = open(place.path());
  CHECK(names(settled(folder)) == Names{"a.pdf"});
}

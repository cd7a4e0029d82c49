// SPDX-License-Identifier: Apache-2.0
#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>

#include <array>

#include "lumvet/io/byte_sink.h"
#include "tests/support/catch.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;
using test::read_file;
using test::TemporaryFolder;

namespace {

Status write(const std::filesystem::path& path, const std::string& text, IfExists if_exists) {
  LUMVET_TRY(AtomicFile file, AtomicFile::create(path, if_exists));
  LUMVET_RETURN_IF_ERROR(file.write(as_bytes(text)));
  return file.commit();
}

}  // namespace

TEST_CASE("a file appears whole at commit, and nothing else is left", "[io]") {
  const TemporaryFolder folder;
  auto file = AtomicFile::create(folder / "book.pdf", IfExists::refuse);
  REQUIRE(file.ok());
  REQUIRE(file->write(Bytes(600'000, 'x')).ok());
  CHECK_FALSE(std::filesystem::exists(folder / "book.pdf"));
  REQUIRE(file->commit().ok());
  CHECK(std::filesystem::file_size(folder / "book.pdf") == 600'000);
  CHECK(folder.file_count() == 1);
}

TEST_CASE("a file that is not committed leaves nothing behind", "[io]") {
  const TemporaryFolder folder;
  {
    auto file = AtomicFile::create(folder / "book.pdf", IfExists::replace);
    REQUIRE(file->write(Bytes(600'000, 'x')).ok());
  }
  CHECK(folder.file_count() == 0);
}

TEST_CASE("an existing file is replaced only when that is asked for", "[io]") {
  const TemporaryFolder folder;
  test::write_file(folder / "book.pdf", "old");
  CHECK(write(folder / "book.pdf", "new", IfExists::refuse).error().code() == ErrorCode::exists);
  CHECK(read_file(folder / "book.pdf") == "old");
  CHECK(write(folder / "book.pdf", "new", IfExists::replace).ok());
  CHECK(read_file(folder / "book.pdf") == "new");
  CHECK(folder.file_count() == 1);
}

TEST_CASE("a file that somebody makes meanwhile is not replaced", "[io]") {
  const TemporaryFolder folder;
  auto file = AtomicFile::create(folder / "book.pdf", IfExists::refuse);
  REQUIRE(file->write(as_bytes("mine")).ok());
  test::write_file(folder / "book.pdf", "theirs");
  CHECK(file->commit().error().code() == ErrorCode::exists);
  CHECK(read_file(folder / "book.pdf") == "theirs");
}

TEST_CASE("replacing keeps the permissions and follows a link to the file", "[io]") {
  const TemporaryFolder folder;
  test::write_file(folder / "real.pdf", "old");
  ::chmod((folder / "real.pdf").c_str(), 0640);
  std::filesystem::create_symlink("real.pdf", folder / "link.pdf");
  REQUIRE(write(folder / "link.pdf", "new", IfExists::replace).ok());
  CHECK(std::filesystem::is_symlink(folder / "link.pdf"));
  CHECK(read_file(folder / "real.pdf") == "new");
  struct stat facts {};
  ::stat((folder / "real.pdf").c_str(), &facts);
  CHECK((facts.st_mode & 0777) == 0640);
}

TEST_CASE("times are kept when that is asked for", "[io]") {
  const TemporaryFolder folder;
  test::write_file(folder / "book.pdf", "old");
  const std::array<timespec, 2> times = {{{1'000'000'000, 5}, {1'100'000'000, 7}}};
  ::utimensat(AT_FDCWD, (folder / "book.pdf").c_str(), times.data(), 0);
  auto file = AtomicFile::create(folder / "book.pdf", IfExists::replace).value();
  file.keep_times();
  REQUIRE(file.write(as_bytes("new")).ok());
  REQUIRE(file.commit().ok());
  struct stat facts {};
  ::stat((folder / "book.pdf").c_str(), &facts);
  CHECK(facts.st_atim.tv_sec == 1'000'000'000);
  CHECK(facts.st_mtim.tv_sec == 1'100'000'000);
  CHECK(facts.st_mtim.tv_nsec == 7);
  REQUIRE(write(folder / "book.pdf", "newer", IfExists::replace).ok());
  ::stat((folder / "book.pdf").c_str(), &facts);
  CHECK(facts.st_mtim.tv_sec > 1'100'000'000);
}

TEST_CASE("what killed programs left is taken away, what living ones have is not", "[io]") {
  const TemporaryFolder folder;
  test::write_file(folder / ".book.pdf.lumvet-part0", "left");
  test::write_file(folder / ".book.pdf.lumvet-part1", "living");
  test::write_file(folder / ".other.pdf.lumvet-part0", "of another");
  const int living = ::open((folder / ".book.pdf.lumvet-part1").c_str(), O_RDWR);
  REQUIRE(::flock(living, LOCK_EX) == 0);
  REQUIRE(write(folder / "book.pdf", "new", IfExists::replace).ok());
  CHECK(read_file(folder / "book.pdf") == "new");
  CHECK_FALSE(std::filesystem::exists(folder / ".book.pdf.lumvet-part0"));
  CHECK(read_file(folder / ".book.pdf.lumvet-part1") == "living");
  ::close(living);
  test::write_file(folder / ".book.pdf.lumvet-part0", "left");
  REQUIRE(write(folder / "book.pdf", "newer", IfExists::replace).ok());
  CHECK(folder.file_count() == 2);  // and the other's
}

// A pipe of such a name was waited for without end, and any file that was called so was removed.
TEST_CASE("nothing is taken away but plain files of the library's own", "[io]") {
  const TemporaryFolder folder;
  test::write_file(folder / "kept", "somebody's");
  std::filesystem::create_symlink(folder / "kept", folder / ".book.pdf.lumvet-part0");
  REQUIRE(::mkfifo((folder / ".book.pdf.lumvet-part1").c_str(), 0600) == 0);
  test::write_file(folder / ".book.pdf.part0", "somebody's");
  test::write_file(folder / ".book.pdf.lumvet-part2", "left");
  REQUIRE(write(folder / "book.pdf", "new", IfExists::replace).ok());
  CHECK(read_file(folder / "book.pdf") == "new");
  CHECK(read_file(folder / "kept") == "somebody's");
  CHECK(read_file(folder / ".book.pdf.part0") == "somebody's");
  CHECK(std::filesystem::is_symlink(folder / ".book.pdf.lumvet-part0"));
  CHECK(std::filesystem::is_fifo(folder / ".book.pdf.lumvet-part1"));
  CHECK_FALSE(std::filesystem::exists(folder / ".book.pdf.lumvet-part2"));
}

TEST_CASE("the longest names can be replaced", "[io]") {
  const TemporaryFolder folder;
  const auto path = folder / (std::string(251, 'b') + ".pdf");
  REQUIRE(write(path, "old", IfExists::refuse).ok());
  REQUIRE(write(path, "new", IfExists::replace).ok());
  CHECK(read_file(path) == "new");
}

TEST_CASE("a folder that is missing is an error that names the path", "[io]") {
  const TemporaryFolder folder;
  const auto file = AtomicFile::create(folder / "none/book.pdf", IfExists::refuse);
  REQUIRE_FALSE(file.ok());
  CHECK(file.error().code() == ErrorCode::io);
  CHECK_THAT(file.error().message(), Catch::Contains("none/book.pdf"));
}

TEST_CASE("what was written can be read back and written over, in memory and on disk", "[io]") {
  const TemporaryFolder folder;
  BufferSink buffer;
  auto file = AtomicFile::create(folder / "table.bin", IfExists::refuse).value();
  for (PatchableSink* sink : std::initializer_list<PatchableSink*>{&buffer, &file}) {
    REQUIRE(sink->write(Bytes(300'000, 'x')).ok());
    REQUIRE(sink->write(as_bytes(std::string("tail"))).ok());
    REQUIRE(sink->overwrite(299'999, as_bytes(std::string("TA"))).ok());
    Bytes back(5);
    REQUIRE(sink->read_back(299'999, back).ok());
    CHECK(std::string(back.begin(), back.end()) == "TAail");
    CHECK(sink->size() == 300'004);
    CHECK(sink->overwrite(300'003, back).error().code() == ErrorCode::invalid_argument);
    CHECK(sink->read_back(300'004, back).error().code() == ErrorCode::invalid_argument);
    REQUIRE(sink->write(as_bytes(std::string("!"))).ok());
  }
  REQUIRE(file.commit().ok());
  CHECK((read_file(folder / "table.bin") ==
         std::string(buffer.bytes().begin(), buffer.bytes().end())));
}

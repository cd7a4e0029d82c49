// SPDX-License-Identifier: Apache-2.0
#include <sstream>

#include <fstream>
#include "lumvet/io/byte_source.h"

#include "base/attempt.h"
#include "tests/support/catch.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;

namespace {

std::string text_of(const Result<ByteSlice>& slice) {
  return std::string(as_text(slice.value().view()));
}

// A source that is no memory, to try the default slice().
class Counting final : public ByteSource {
 public:
  std::uint64_t size() const override { return 100; }
  std::string name() const override { return "counting"; }
  Status read(std::uint64_t offset, std::span<std::uint8_t> into) const override {
    for (std::size_t i = 0; i < into.size(); ++i) into[i] = static_cast<std::uint8_t>(offset + i);
    return Done{};
  }
};

}  // namespace

TEST_CASE("file, buffer and stream give the same bytes", "[io]") {
  const test::TemporaryFolder folder;
  const std::string text = "0123456789";
  test::write_file(folder / "ten", text);
  std::istringstream stream(text);
  for (const auto& source :
       {open_file_source(folder / "ten").value(),
        make_buffer_source(Bytes(text.begin(), text.end())), read_stream_source(stream).value()}) {
    CHECK(source->size() == 10);
    CHECK(text_of(source->slice(3, 4)) == "3456");
    CHECK(text_of(source->slice(8, 100)) == "89");
    CHECK(text_of(source->slice(10, 1)).empty());
    CHECK(source->slice(11, 1).error().code() == ErrorCode::malformed);
    Bytes three(3);
    CHECK(source->read(7, three).ok());
    CHECK(as_text(three) == "789");
    CHECK_FALSE(source->read(8, three).ok());
  }
}

TEST_CASE("a slice keeps its bytes alive after the source is gone", "[io]") {
  ByteSlice slice = make_buffer_source(Bytes(1000, 'k'))->slice(10, 5).value();
  CHECK(as_text(slice.view()) == "kkkkk");
}

TEST_CASE("a source that is not in memory is read through to slices", "[io]") {
  const auto source = std::make_shared<Counting>();
  const ByteSlice slice = source->slice(97, 50).value();
  CHECK(Bytes(slice.view().begin(), slice.view().end()) == Bytes{97, 98, 99});
}

TEST_CASE("what cannot be opened says which file and why", "[io]") {
  const test::TemporaryFolder folder;
  CHECK_THAT(open_file_source(folder / "none.pdf").error().to_string(),
             Catch::Contains("none.pdf") && Catch::Contains("No such file"));
  CHECK_THAT(open_file_source(folder.path()).error().to_string(),
             Catch::Contains("it is a folder"));
  test::write_file(folder / "empty", "");
  CHECK(open_file_source(folder / "empty").value()->size() == 0);
}

TEST_CASE("a file that is shortened while it is open is an io error, and no more", "[io]") {
  const test::TemporaryFolder folder;
  const std::string text(1 << 20, 'k');
  for (const FileAccess access : {FileAccess::map, FileAccess::read}) {
    test::write_file(folder / "long", text);
    const auto source = open_file_source(folder / "long", access).value();
    const auto other = open_file_source(folder / "long", access).value();
    Bytes some(100);
    CHECK(source->read(900'000, some).ok());
    std::filesystem::resize_file(folder / "long", 5000);
    const Status late = source->read(900'000, some);
    REQUIRE_FALSE(late.ok());
    CHECK(late.error().code() == ErrorCode::io);
    CHECK_THAT(late.error().message(), Catch::Contains("long was shortened"));
    // What is made of it in the meantime is no answer either.
    const Result<int> answer = attempted([&]() -> Result<int> {
      const auto slice = other->slice(500'000, 1000);
      if (!slice.ok()) return slice.error();
      return static_cast<int>(slice->view()[500]);
    });
    REQUIRE_FALSE(answer.ok());
    CHECK(answer.error().code() == ErrorCode::io);
  }
}

TEST_CASE("bytes of others are read where they lie", "[io]") {
  const auto kept = std::make_shared<const std::string>("0123456789");
  const std::weak_ptr<const std::string> watched = kept;
  auto source = make_view_source(as_bytes(*kept), kept, "ten digits");
  CHECK(source->name() == "ten digits");
  CHECK(source->path().empty());
  const ByteSlice slice = source->slice(3, 4).value();
  CHECK(static_cast<const void*>(slice.view().data()) == kept->data() + 3);
  CHECK(as_text(slice.view()) == "3456");
}

TEST_CASE("a stream that failed before is not an empty file", "[io]") {
  const test::TemporaryFolder folder;
  std::ifstream missing(folder / "none.pdf", std::ios::binary);
  const auto source = read_stream_source(missing);
  REQUIRE_FALSE(source.ok());
  CHECK(source.error().code() == ErrorCode::io);
}

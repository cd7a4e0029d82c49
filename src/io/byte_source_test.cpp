// SPDX-License-Identifier: Apache-2.0
#include <sstream>

#include "lumvet/io/byte_source.h"
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

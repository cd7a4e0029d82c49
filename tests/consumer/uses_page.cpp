// SPDX-License-Identifier: Apache-2.0
#include <lumvet/lumvet.h>

#include <algorithm>
#include <fstream>
#include <iostream>
#include <iterator>
#include <span>

namespace {

// A file that can be read no more from some moment on.
class Leaving : public lumvet::ByteSource {
 public:
  explicit Leaving(std::string bytes) : bytes_(std::move(bytes)) {}
  std::uint64_t size() const override { return bytes_.size(); }
  std::string name() const override { return "leaving"; }
  lumvet::Status read(std::uint64_t offset, std::span<std::uint8_t> into) const override {
    if (is_gone) return lumvet::Error(lumvet::ErrorCode::io, "the disk is gone");
    std::copy_n(bytes_.begin() + static_cast<std::ptrdiff_t>(offset), into.size(), into.begin());
    return lumvet::Done{};
  }
  bool is_gone = false;

 private:
  std::string bytes_;
};

}  // namespace

int main(int argc, char** argv) {
  if (argc != 2) return 2;
  const auto document = lumvet::Document::open(argv[1]);
  if (!document) return 1;
  const auto sheet = lumvet::render(document->page(0).value(), {.dpi = 20});
  if (!sheet) return 1;
  std::cout << document->page_count() << " page, " << sheet->width() << " pixels wide\n";

  // What one library meets, the other must know: a file that is gone is no empty page.
  std::ifstream file(argv[1], std::ios::binary);
  const auto leaving = std::make_shared<Leaving>(
      std::string(std::istreambuf_iterator<char>(file), std::istreambuf_iterator<char>()));
  const auto remote = lumvet::Document::open(leaving);
  if (!remote) return 1;
  const auto page = remote->page(0).value();
  leaving->is_gone = true;
  const auto blank = lumvet::render(page, {.dpi = 20});
  if (blank || blank.error().code() != lumvet::ErrorCode::io) {
    std::cerr << "a file that is gone was drawn\n";
    return 1;
  }
}

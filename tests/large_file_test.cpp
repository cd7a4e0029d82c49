// SPDX-License-Identifier: Apache-2.0
// Files over 4 GiB: every place in them takes more than 32 bits. The files are sparse; what lies
// between their beginning and their end takes no room on the disk.
#include <fstream>

#include "lumvet/lumvet.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;
using test::TemporaryFolder;

namespace {

constexpr std::uint64_t kFar = (std::uint64_t{1} << 32) + 4096;

std::string padded(std::uint64_t offset) {
  std::string digits = std::to_string(offset);
  return std::string(10 - digits.size(), '0') + digits;
}

// The bytes at the beginning of the file and those from kFar on.
struct Parts {
  std::string beginning = "%PDF-1.7\n1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj\n";
  std::string end =
      "\n2 0 obj<</Type/Pages/Kids[3 0 R]/Count 1>>endobj\n"
      "3 0 obj<</Type/Page/Parent 2 0 R/MediaBox[0 0 9 9]/Contents 4 0 R>>endobj\n"
      "4 0 obj<</Length 12>>stream\n0 0 9 9 re f\nendstream endobj\n";

  std::uint64_t place_of(int number) const {
    const std::string head = std::to_string(number) + " 0 obj";
    const std::size_t first = beginning.find(head);
    return first != std::string::npos ? first : kFar + end.find("\n" + head) + 1;
  }
};

// Ends the file with a table whose entry for object 3 is off by so many bytes.
void add_table(Parts& parts, unsigned off) {
  const std::uint64_t table = kFar + parts.end.size();
  std::string rows = "xref\n0 5\n0000000000 65535 f \n";
  for (int i = 1; i < 5; ++i)
    rows += padded(parts.place_of(i) + (i == 3 ? off : 0)) + " 00000 n \n";
  parts.end +=
      rows + "trailer<</Root 1 0 R/Size 5>>\nstartxref\n" + std::to_string(table) + "\n%%EOF\n";
}

void write(const std::filesystem::path& path, const Parts& parts) {
  std::ofstream file(path, std::ios::binary);
  file << parts.beginning;
  file.seekp(static_cast<std::streamoff>(kFar));
  file << parts.end;
  REQUIRE(file.good());
}

void check(const std::filesystem::path& path, const Parts& parts) {
  const Document document = Document::open(path).value();
  CHECK(document.file_size() > kFar);
  CHECK(document.findings().empty());
  REQUIRE(document.page_count() == 1);
  const Bytes content = document.page(0)->content().value();
  CHECK(as_text(content) == "0 0 9 9 re f\n");
  CHECK(document.place_of({4, 0}).value()->offset == parts.place_of(4));
  const auto raster = render(*document.page(0)).value();
  CHECK(raster.width() == 9);
  Assembly small;
  REQUIRE(small.add(document).ok());
  REQUIRE(small.save(path.string() + "-small.pdf").ok());
  CHECK(std::filesystem::file_size(path.string() + "-small.pdf") < 4096);
}

}  // namespace

TEST_CASE("a cross-reference table leads beyond 4 GiB", "[large]") {
  const TemporaryFolder folder;
  Parts parts;
  add_table(parts, 0);
  write(folder / "table.pdf", parts);
  check(folder / "table.pdf", parts);
}

TEST_CASE("a cross-reference stream leads beyond 4 GiB", "[large]") {
  const TemporaryFolder folder;
  Parts parts;
  const std::uint64_t place = kFar + parts.end.size();
  std::string rows;
  for (int i = 1; i < 5; ++i) {
    rows += '\1';
    for (int shift = 32; shift >= 0; shift -= 8)
      rows += static_cast<char>(parts.place_of(i) >> shift & 0xFF);
  }
  parts.end += "5 0 obj<</Type/XRef/Root 1 0 R/Size 6/W[1 5 0]/Index[1 4]/Length " +
               std::to_string(rows.size()) + ">>stream\n" + rows +
               "\nendstream endobj\nstartxref\n" + std::to_string(place) + "\n%%EOF\n";
  write(folder / "stream.pdf", parts);
  check(folder / "stream.pdf", parts);
}

TEST_CASE("an object beyond 4 GiB is found near its wrong offset", "[large]") {
  const TemporaryFolder folder;
  Parts parts;
  add_table(parts, 7);
  write(folder / "off.pdf", parts);
  const Document document = Document::open(folder / "off.pdf").value();
  CHECK(document.page(0)->content().ok());
  REQUIRE(document.findings().size() == 1);
  CHECK(document.findings()[0].object == ObjectId{3, 0});
  CHECK(document.findings()[0].offset == parts.place_of(3) + 7);
}

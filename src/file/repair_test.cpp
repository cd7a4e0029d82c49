// SPDX-License-Identifier: Apache-2.0
// Files whose cross references are wrong, as they are met: written by hand, converted on the way,
// cut off. What is in them is found all the same, and each assumption is a finding.
#include <atomic>
#include <thread>

#include "file/object_store.h"
#include "file/scan.h"
#include "filters/deflate.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/sanitized.h"

using namespace lumvet;
using file::ObjectStore;
using test::PdfBuilder;
using test::to_bytes;

namespace {

std::shared_ptr<const ObjectStore> open(const std::string& bytes) {
  return ObjectStore::open(make_buffer_source(to_bytes(bytes)), {}).value();
}

Object get(const ObjectStore& store, std::uint32_t number) {
  return store.resolve(Object(ObjectId{number, 0}));
}

std::string replaced(std::string text, const std::string& from, const std::string& to) {
  const std::size_t at = text.find(from);
  REQUIRE(at != std::string::npos);
  return text.replace(at, from.size(), to);
}

std::string all_replaced(std::string text, const std::string& from, const std::string& to) {
  for (std::size_t at = text.find(from); at != std::string::npos;
       at = text.find(from, at + to.size()))
    text.replace(at, from.size(), to);
  return text;
}

bool has_finding(const ObjectStore& store, const std::string& words,
                 std::optional<std::uint64_t> offset = {}) {
  for (const Finding& finding : store.findings().list())
    if (finding.what.find(words) != std::string::npos && (!offset || finding.offset == offset))
      return true;
  return false;
}

PdfBuilder good() {
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/V 1>>").object(2, "(two)").stream(3, "/K 1", "three");
  pdf.object(4, "(four)");
  return pdf;
}

std::string text_of(const ObjectStore& store, std::uint32_t number) {
  const Object object = get(store, number);
  return object.is_stream() ? std::string(as_text(object.as_stream()->encoded().value().view()))
                            : "no stream";
}

void check_good(const ObjectStore& store) {
  CHECK(store.cross_references().trailer()["Root"].as_reference() == ObjectId{1, 0});
  CHECK(get(store, 1).as_dict()["V"].as_integer() == 1);
  CHECK(get(store, 2).as_string() == "two");
  CHECK(text_of(store, 3) == "three");
  CHECK(get(store, 4).as_string() == "four");
}

}  // namespace

TEST_CASE("when the place of the cross references is wrong, the objects are found", "[repair]") {
  const std::string bytes = good().finish();
  const std::size_t number = bytes.rfind("startxref\n") + 10;
  for (const char* start : {"-1", "0", "99999999", "12", "(x)", ""}) {
    CAPTURE(start);
    const auto store = open(bytes.substr(0, number) + start + "\n%%EOF\n");
    check_good(*store);
    CHECK(store->cross_references().is_rebuilt());
    CHECK(has_finding(*store, "were looked for instead"));
  }
}

TEST_CASE("a file that ends in the middle keeps what came before", "[repair]") {
  PdfBuilder pdf = good();
  const std::string bytes = pdf.bytes() + "5 0 obj\n<</Type/Catalog/V 1>>\nendobj\n6 0 obj <</Le";
  const auto store = open(bytes);
  CHECK(get(*store, 4).as_string() == "four");
  CHECK(text_of(*store, 3) == "three");
  CHECK(get(*store, 5).as_dict()["V"].as_integer() == 1);
  CHECK(has_finding(*store, "no trailer names the catalog"));
}

TEST_CASE("line ends converted on the way move every offset and length", "[repair]") {
  const auto store = open(all_replaced(good().finish(), "\n", "\r\n"));
  check_good(*store);
  CHECK(store->cross_references().is_rebuilt());
}

TEST_CASE("an offset that is off by a little is put right near by, the others are left alone",
          "[repair]") {
  PdfBuilder pdf = good();
  const std::size_t two = pdf.offset(2);
  std::string bytes = pdf.finish();
  char row[16];
  char wrong[16];
  std::snprintf(row, sizeof row, "%010zu", two);
  std::snprintf(wrong, sizeof wrong, "%010zu", two + 3);
  const auto store = open(replaced(bytes, row, wrong));
  check_good(*store);
  CHECK_FALSE(store->cross_references().is_rebuilt());
  CHECK(store->findings().list().size() == 1);
  CHECK(has_finding(*store, "found at " + std::to_string(two), two + 3));
}

TEST_CASE("entries that lead to another object are not believed", "[repair]") {
  // A first number that is one too high, so that every entry leads to its neighbor.
  PdfBuilder pdf("%PDF-1.4\n");
  const std::string padding = "\n%" + std::string(1500, 'x');
  pdf.object(1, "<</Type/Catalog/V 1>>" + padding).object(2, "(two)" + padding);
  pdf.object(3, "(three)" + padding);
  std::string bytes = pdf.bytes();
  const std::size_t start = bytes.size();
  bytes += "xref\n2 3\n";
  for (int i = 1; i <= 3; ++i) {
    char row[24];
    std::snprintf(row, sizeof row, "%010zu 00000 n \n", pdf.offset(i));
    bytes += row;
  }
  bytes += "trailer\n<</Root 1 0 R/Size 5>>\nstartxref\n" + std::to_string(start) + "\n%%EOF\n";
  const auto store = open(bytes);
  CHECK(get(*store, 2).as_string() == "two");
  CHECK(get(*store, 3).as_string() == "three");
  CHECK(has_finding(*store, "looking through the whole file"));
}

TEST_CASE("a table shorter than it says, or with rows of other widths, still leads", "[repair]") {
  const auto table = [](const std::string& head, const char* row_format, bool finding) {
    PdfBuilder pdf = good();
    std::string bytes = pdf.bytes();
    const std::size_t start = bytes.size();
    bytes += "xref\n" + head + "\n0000000000 65535 f \n";
    for (int i = 1; i <= 4; ++i) {
      char row[64];
      std::snprintf(row, sizeof row, row_format, pdf.offset(i));
      bytes += row;
    }
    const auto store = open(bytes + "trailer\n<</Root 1 0 R/Size 5>>\nstartxref\n" +
                            std::to_string(start) + "\n%%EOF\n");
    check_good(*store);
    CHECK_FALSE(store->cross_references().is_rebuilt());
    CHECK(store->findings().list().empty() == !finding);
  };
  table("0 5", "%010zu 00000 n \n", false);
  table("0 5", "%010zu 00000 n\n", false);        // 19 bytes
  table("0 5", "%zu 0 n\r\n", false);             // no leading zeros
  table("0 5", "  %010zu 00000 n  \r\n", false);  // too wide
  table("0 9", "%010zu 00000 n \n", true);
  table("0 4000000000", "%010zu 00000 n \n", true);
  table("1 5", "%010zu 00000 n \n", true);  // counted from 1
}

TEST_CASE("a free entry at whose place its object stands is in use", "[repair]") {
  PdfBuilder pdf = good();
  char row[24];
  std::snprintf(row, sizeof row, "%010zu 00000 n", pdf.offset(4));
  std::string freed = row;
  freed.back() = 'f';
  const auto store = open(replaced(pdf.finish(), row, freed));
  check_good(*store);
  CHECK(has_finding(*store, "called free but is in use"));
}

TEST_CASE("an older section that cannot be read does not lose its objects", "[repair]") {
  PdfBuilder pdf = good();
  pdf.finish();
  pdf.object(2, "(new)");
  for (const char* previous : {"7", "-5", "99999999"}) {
    CAPTURE(previous);
    PdfBuilder copy = pdf;
    const auto store = open(copy.finish(std::string("/Root 1 0 R/Prev ") + previous));
    CHECK(get(*store, 2).as_string() == "new");
    CHECK(get(*store, 4).as_string() == "four");
    CHECK(text_of(*store, 3) == "three");
    CHECK_FALSE(store->findings().list().empty());
  }
}

TEST_CASE("the latest of several objects with one number is taken, packed or not", "[repair]") {
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog>>").object(5, "(plain)").object(6, "(old)");
  const std::string packed = "5 0 7 9 (packed) (seven)";
  const Bytes deflated = filters::deflate(as_bytes(packed));
  pdf.stream(9, "/Type/ObjStm/N 2/First 8/Filter/FlateDecode", std::string(as_text(deflated)));
  pdf.object(6, "(new)");
  const auto store = open(pdf.bytes());
  CHECK(get(*store, 5).as_string() == "packed");
  CHECK(get(*store, 7).as_string() == "seven");
  CHECK(get(*store, 6).as_string() == "new");
  pdf.object(5, "(plain again)");
  CHECK(get(*open(pdf.bytes()), 5).as_string() == "plain again");
}

TEST_CASE("object streams that extend others are followed, in circles too", "[repair]") {
  const auto be = [](std::uint64_t value, int width) {
    std::string out;
    for (int i = width; i-- > 0;) out += static_cast<char>(value >> (8 * i));
    return out;
  };
  PdfBuilder pdf("%PDF-1.5\n");
  pdf.object(1, "<</Type/Catalog/V 1>>");
  pdf.stream(3, "/Type/ObjStm/N 1/First 4/Extends 4 0 R", "7 0 (seven)");
  pdf.stream(4, "/Type/ObjStm/N 1/First 4/Extends 3 0 R", "8 0 (eight)");
  const std::size_t start = pdf.size();
  std::string rows;
  for (const int number : {1, 3, 4}) rows += be(1, 1) + be(pdf.offset(number), 3) + be(0, 1);
  for (int number = 7; number <= 9; ++number) rows += be(2, 1) + be(3, 3) + be(0, 1);
  pdf.stream(6, "/Type/XRef/Size 10/Root 1 0 R/W[1 3 1]/Index[1 1 3 2 7 3]", rows);
  const auto store = open(pdf.bytes() + "startxref\n" + std::to_string(start) + "\n%%EOF\n");
  CHECK(get(*store, 7).as_string() == "seven");
  CHECK(get(*store, 8).as_string() == "eight");
  CHECK(get(*store, 9).is_null());
  CHECK(has_finding(*store, "does not hold"));
}

TEST_CASE("what only looks like an object inside a stream is passed over", "[repair]") {
  const std::string inner = "7 0 obj\n(not me)\nendobj\ntrailer\n<</Root 7 0 R>>\n";
  PdfBuilder pdf;
  pdf.object(7, "(me)").object(1, "<</Type/Catalog/V 1>>").stream(2, "", inner);
  const std::string bytes = pdf.bytes() + "trailer\n<</Root 1 0 R>>\n";
  const auto store = open(bytes);
  CHECK(get(*store, 7).as_string() == "me");
  CHECK(store->cross_references().trailer()["Root"].as_reference() == ObjectId{1, 0});
  const auto wrong_length =
      open(replaced(bytes, "/Length " + std::to_string(inner.size()), "/Length 3"));
  CHECK(get(*wrong_length, 7).as_string() == "me");
}

TEST_CASE("ends that are missing are found by where the next object begins", "[repair]") {
  const std::string bytes = good().bytes() + "trailer\n<</Root 1 0 R>>\n";
  check_good(*open(all_replaced(bytes, "\nendobj", "")));
  const auto store = open(replaced(bytes, "\nendstream", ""));
  CHECK(text_of(*store, 3) == "three");
}

TEST_CASE("numbers that no limit allows are left out when looking for objects", "[repair]") {
  const auto store = open(
      "%PDF-1.4\n1 0 obj<</Type/Catalog>>endobj 4294967295 0 obj 1 endobj "
      "99999999999 0 obj 2 endobj trailer<</Root 1 0 R>>");
  CHECK(store->cross_references().size() == 2);
}

TEST_CASE("looking for objects costs in proportion to the file, whatever it holds", "[repair]") {
  // Each of these would cost the rest of the file at every object, were it read by the letter: a
  // count of steps would not see it, so the test would not end.
  constexpr std::uint32_t kCount = test::kIsSanitized ? 12'000 : 60'000;
  std::string strings = "%PDF-1.4\n";
  std::string streams = strings;
  for (std::uint32_t i = 1; i <= kCount; ++i) {
    strings += std::to_string(i) + " 0 obj (\n";
    streams += std::to_string(i) + " 0 obj <</Length 9>> stream\n";
  }
  for (const std::string& bytes : {strings, streams}) {
    const auto store = open(bytes);
    for (std::uint32_t i = 1; i <= kCount; ++i) get(*store, i);
    CHECK(store->cross_references().size() == kCount + 1);
  }
}

TEST_CASE("many threads look for lost objects and find the same", "[repair]") {
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog>>");
  for (int i = 2; i < 200; ++i) pdf.object(i, "<</N " + std::to_string(i) + ">>");
  std::string bytes = pdf.finish();
  // Every second row of the table leads to the header.
  const std::size_t table = bytes.rfind("\nxref\n");
  for (int i = 2; i < 200; i += 2) {
    char row[16];
    std::snprintf(row, sizeof row, "\n%d 1\n", i);
    bytes.replace(bytes.find(row, table) + std::string(row).size(), 10, "0000000000");
  }
  const auto store = open(bytes);
  std::atomic<int> wrong = 0;
  {
    std::vector<std::jthread> threads;
    for (unsigned t = 0; t < 4; ++t)
      threads.emplace_back([&, t] {
        for (std::uint32_t i = 0; i < 198; ++i) {
          const std::uint32_t number = 2 + (i * 5 + t * 47) % 198;
          if (get(*store, number).as_dict()["N"].as_integer() != number) ++wrong;
        }
      });
  }
  CHECK(wrong == 0);
  CHECK_FALSE(store->findings().list().empty());
}

// SPDX-License-Identifier: Apache-2.0
#include "file/object_store.h"

#include <thread>

#include "file/ledger.h"
#include "filters/deflate.h"
#include "objects/serializer.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using file::ObjectStore;
using test::PdfBuilder;
using test::to_bytes;

namespace {

Result<std::shared_ptr<const ObjectStore>> open(const std::string& bytes,
                                                const Limits& limits = {}) {
  return ObjectStore::open(make_buffer_source(to_bytes(bytes)), limits);
}

Object get(const ObjectStore& store, std::uint32_t number, std::uint16_t generation = 0) {
  return store.resolve(Object(ObjectId{number, generation}));
}

std::string be(std::uint64_t value, int width) {
  std::string out;
  for (int i = width; i-- > 0;) out += static_cast<char>(value >> (8 * i));
  return out;
}

std::string flate(const std::string& text) {
  const Bytes packed = filters::deflate(as_bytes(text));
  return std::string(as_text(packed));
}

// Objects 1 (catalog) and 5 packed into object stream 3, a stream 4, cross references in stream 6.
std::string packed_document(const std::string& extra = "") {
  PdfBuilder pdf("%PDF-1.5\n");
  const std::string body = "<</Type/Catalog/Pages 5 0 R>> (five) ";
  pdf.stream(3, "/Type/ObjStm/N 2/First 8/Filter/FlateDecode", flate("1 0 5 30" + body));
  pdf.stream(4, "", "plain");
  const std::size_t start = pdf.size();
  const std::string rows = be(0, 1) + be(0, 3) + be(255, 1) + be(2, 1) + be(3, 3) +
                           be(0, 1) +                                    // 0, 1
                           be(1, 1) + be(pdf.offset(3), 3) + be(0, 1) +  // 3
                           be(1, 1) + be(pdf.offset(4), 3) + be(0, 1) + be(2, 1) + be(3, 3) +
                           be(1, 1) + be(1, 1) + be(start, 3) + be(0, 1);  // 4, 5, 6
  pdf.stream(6, "/Type/XRef/Size 7/Root 1 0 R/W[1 3 1]/Index[0 2 3 4]/Filter/FlateDecode" + extra,
             flate(rows));
  return pdf.bytes() + "startxref\n" + std::to_string(start) + "\n%%EOF\n";
}

}  // namespace

TEST_CASE("a classic table leads to its objects", "[file]") {
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog>>").object(7, "(seven)").stream(8, "/K 1", "abc");
  const auto store = open(pdf.finish()).value();
  CHECK(get(*store, 7).as_string() == "seven");
  CHECK(as_text(get(*store, 8).as_stream()->encoded().value().view()) == "abc");
  CHECK(get(*store, 6).is_null());
  CHECK(get(*store, 7, 1).is_null());  // another generation
  CHECK(get(*store, 999'999).is_null());
  CHECK(store->header().version == "1.7");
  CHECK(store->findings().list().empty());
}

TEST_CASE("cross-reference streams lead to objects, packed ones too", "[file]") {
  const auto store = open(packed_document()).value();
  CHECK(get(*store, 1).as_dict()["Type"].is_name("Catalog"));
  CHECK(get(*store, 5).as_string() == "five");
  CHECK(as_text(get(*store, 4).as_stream()->encoded().value().view()) == "plain");
  CHECK(store->cross_references().uses_streams());
  CHECK(store->findings().list().empty());
}

TEST_CASE("an update hides what it replaces and frees, by its /Prev", "[file]") {
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/V 1>>").object(2, "(old)").object(3, "(kept)").finish();
  const std::string first = std::to_string(pdf.last_table());
  pdf.object(2, "(new)");
  std::string bytes = pdf.finish("/Root 1 0 R/Prev " + first);
  const auto store = open(bytes).value();
  CHECK(get(*store, 2).as_string() == "new");
  CHECK(get(*store, 3).as_string() == "kept");
  CHECK(store->cross_references().places().size() == 2);
}

TEST_CASE("a hybrid file shows the objects hidden in its stream", "[file]") {
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog>>");
  pdf.stream(3, "/Type/ObjStm/N 1/First 4", "9 0 (nine)");
  const std::size_t hidden = pdf.size();
  pdf.stream(4, "/Type/XRef/Size 10/W[1 3 1]/Index[9 1]", be(2, 1) + be(3, 3) + be(0, 1));
  const auto store = open(pdf.finish("/Root 1 0 R/XRefStm " + std::to_string(hidden))).value();
  CHECK(get(*store, 9).as_string() == "nine");
}

TEST_CASE("bytes in front of the header move all offsets, or none", "[file]") {
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog>>").object(2, "(two)");
  const std::string plain = pdf.finish();
  CHECK(get(*open("From: the office\n\n" + plain).value(), 2).as_string() == "two");
  PdfBuilder counted("mail header\n%PDF-1.4\n");  // offsets from the first byte
  counted.object(1, "<</Type/Catalog>>").object(2, "(two)");
  CHECK(get(*open(counted.finish()).value(), 2).as_string() == "two");
}

TEST_CASE("a wrong stream length is replaced by the distance to its end mark", "[file]") {
  for (const char* length : {"2", "4000", "-1", "(x)", "7 0 R", "2 0 R"}) {
    PdfBuilder pdf;
    pdf.object(1, "<</Type/Catalog>>");
    pdf.object(2, std::string("<</Length ") + length + ">>\nstream\nabcdef\nendstream");
    CAPTURE(length);
    const auto store = open(pdf.finish()).value();
    CHECK(as_text(get(*store, 2).as_stream()->encoded().value().view()) == "abcdef");
    const auto findings = store->findings().list();
    CHECK(std::any_of(findings.begin(), findings.end(), [](const Finding& finding) {
      return finding.object == ObjectId{2, 0} && finding.offset.has_value();
    }));
  }
}

TEST_CASE("a length that is another object is followed", "[file]") {
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog>>")
      .object(2, "<</Length 3 0 R>>\nstream\nend endstream!\nendstream")
      .object(3, "14");
  const auto store = open(pdf.finish()).value();
  CHECK(as_text(get(*store, 2).as_stream()->encoded().value().view()) == "end endstream!");
  CHECK(store->findings().list().empty());
}

TEST_CASE("of a damaged object what can be read is kept, with a finding where it broke", "[file]") {
  const auto [body, written, at] = GENERATE(table<std::string, std::string, std::size_t>({
      {"<</A [1 2>>", "<</A[1 2]>>", 5},
      {"<</A 1/B[2", "<</A 1/B[2]>>", 8},
      {"<</A (no end /B 2\n/C 3>>", "<</A(no end /B 2)/C 3>>", 5},
      {"<</A 1/B<</C 2", "<</A 1/B<</C 2>>>>", 8},
      {"<</A 1 2/B 3>>", "<</A 1/B 3>>", 7},
      {"[1 ) 2 oops 3]", "[1 2 3]", 3},
      {"<48g69>", "(Hi)", 3},
  }));
  CAPTURE(body);
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog>>").object(2, body).object(3, "(three)");
  const std::size_t broken = pdf.offset(2) + std::string("2 0 obj\n").size() + at;
  const auto store = open(pdf.finish()).value();
  std::string text;
  objects::serialize(get(*store, 2), text);
  CHECK(text == written);
  CHECK(get(*store, 3).as_string() == "three");
  const auto findings = store->findings().list();
  REQUIRE_FALSE(findings.empty());
  CHECK(findings[0].object == ObjectId{2, 0});
  CHECK(std::any_of(findings.begin(), findings.end(),
                    [&](const Finding& finding) { return finding.offset == broken; }));
}

TEST_CASE("objects that lead in a circle end as null", "[file]") {
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog>>").object(2, "3 0 R").object(3, "2 0 R");
  CHECK(get(*open(pdf.finish()).value(), 2).is_null());
}

TEST_CASE("what is no document, empty, cut off or locked says so", "[file]") {
  PdfBuilder pdf;
  const std::string whole =
      pdf.object(1, "<</Type/Catalog>>").stream(2, "", std::string(5000, 'x')).finish();
  PdfBuilder locked;
  const std::string closed = locked.object(1, "<</Type/Catalog>>")
                                 .object(2, "<</Filter/Standard>>")
                                 .finish("/Root 1 0 R/Encrypt 2 0 R");
  const auto [bytes, code, words] = GENERATE_COPY(table<std::string, ErrorCode, std::string>({
      {"", ErrorCode::malformed, "empty"},
      {"\x89PNG\r\n\x1a\nrest", ErrorCode::malformed, "looks like a PNG image"},
      {"<!doctype html><title>404</title>", ErrorCode::malformed, "looks like a web page"},
      {"plain words", ErrorCode::malformed, "not a PDF document"},
      {whole.substr(0, 12), ErrorCode::malformed, "cut off"},
      {closed, ErrorCode::unsupported, "in the way number 0"},
  }));
  const auto store = open(bytes);
  REQUIRE_FALSE(store.ok());
  CHECK(store.error().code() == code);
  CHECK_THAT(store.error().to_string(), Catch::Contains(words));
}

TEST_CASE("sections that lead back to one another are read once each", "[file]") {
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog>>").object(2, "(two)");
  const std::string probe = pdf.finish("/Root 1 0 R/Prev 0000");
  PdfBuilder again;
  again.object(1, "<</Type/Catalog>>").object(2, "(two)");
  const auto store =
      open(again.finish("/Root 1 0 R/Prev " + std::to_string(pdf.last_table()))).value();
  CHECK(get(*store, 2).as_string() == "two");
  CHECK(store->findings().list().size() == 1);
}

TEST_CASE("an object number beyond the limit is refused before memory is taken", "[file]") {
  std::string bytes =
      "%PDF-1.4\nxref\n4000000000 1\n0000000009 00000 n \ntrailer\n<</Root 1 0 "
      "R>>\nstartxref\n9\n%%EOF";
  CHECK(open(bytes).error().code() == ErrorCode::limit);
}

TEST_CASE("many threads see the same objects", "[file]") {
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog>>");
  for (int i = 2; i < 400; ++i) pdf.object(i, "<</N " + std::to_string(i) + ">>");
  const auto store = open(pdf.finish()).value();
  std::atomic<int> wrong = 0;
  {
    std::vector<std::jthread> threads;
    for (unsigned t = 0; t < 4; ++t)
      threads.emplace_back([&, t] {
        for (std::uint32_t i = 0; i < 398; ++i) {
          const std::uint32_t number = 2 + (i * 7 + t * 91) % 398;
          if (get(*store, number).as_dict()["N"].as_integer() != number) ++wrong;
        }
      });
  }
  CHECK(wrong == 0);
}

TEST_CASE("the ledger changes nothing below it, and dropping an entry undoes it", "[file]") {
  PdfBuilder pdf;
  const auto store = open(pdf.object(1, "<</Type/Catalog>>").object(2, "(two)").finish()).value();
  file::Ledger ledger(store);
  ledger.set({2, 0}, Object::string("changed"));
  const ObjectId fresh = ledger.add(Object::string("new"));
  CHECK(fresh.number == store->first_beyond());
  CHECK(ledger.resolve(Object(ObjectId{2, 0})).as_string() == "changed");
  CHECK(ledger.resolve(Object(fresh)).as_string() == "new");
  CHECK(get(*store, 2).as_string() == "two");
  ledger.drop({2, 0});
  CHECK(ledger.resolve(Object(ObjectId{2, 0})).as_string() == "two");
  CHECK(ledger.change_count() == 1);
}

TEST_CASE("a header is found wherever it stands, of whatever kind, and need not be there",
          "[file]") {
  test::PdfBuilder pdf;
  const std::string whole = pdf.page("", "/MediaBox[0 0 9 9]").finish();
  const std::string body = whole.substr(whole.find('\n') + 1);
  const auto opened = [](const std::string& bytes) {
    return Document::open(Bytes(bytes.begin(), bytes.end()));
  };
  for (const std::string& front : {std::string(1500, 'x') + "\n", std::string(90'000, ' ')}) {
    const auto far = opened(front + whole);
    REQUIRE(far.ok());
    CHECK(far->page_count() == 1);
    CHECK(far->version() == opened(whole)->version());
    CHECK_THAT(far->findings().at(0).to_string(), Catch::Contains("behind the beginning"));
  }
  const auto old = opened("%!PS-Adobe-3.0 PDF-1.4\n" + body);
  REQUIRE(old.ok());
  CHECK(old->page_count() == 1);
  CHECK(old->version() == "1.4");
  const auto none = opened(body);
  REQUIRE(none.ok());
  CHECK(none->page_count() == 1);
  CHECK_THAT(none->findings().at(0).to_string(), Catch::Contains("header is missing"));
  CHECK(opened("%!PS-Adobe-3.0\n/a 1 def 1 0 obj").error().code() == ErrorCode::malformed);
  CHECK(opened("words about an obj").error().code() == ErrorCode::malformed);
}

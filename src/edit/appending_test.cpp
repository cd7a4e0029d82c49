// SPDX-License-Identifier: Apache-2.0
// EditableDocument appended to files of every kind: what was there stays byte for byte, and what
// comes back is the document with its changes, and the one without them as its earlier revision.
#include "document/core.h"
#include "lumvet/edit/editable_document.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;

namespace {

Bytes bytes_of(const std::string& text) { return test::to_bytes(text); }

std::string simple(const std::string& before_header = "") {
  test::PdfBuilder pdf(before_header + "%PDF-1.7\n");
  pdf.page("1 w", "/MediaBox[0 0 9 9]");
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/Lang(en)>>");
  pdf.object(5, "<</Title(Day 11)/Author(Mira Holt)>>");
  return pdf.finish("/Root 1 0 R/Info 5 0 R/ID[(a)(b)]");
}

struct Kind {
  std::string name;
  Bytes bytes;
  std::string password = {};
};

std::vector<Kind> kinds() {
  std::vector<Kind> all = {{"classic", bytes_of(simple())}};
  std::string without_end = simple();
  without_end.pop_back();
  all.push_back({"without a line end", bytes_of(without_end)});
  const Document document = test::open(simple()).value();
  for (const auto& [name, layout] :
       {std::pair("compact", FileLayout::compact), std::pair("linearized", FileLayout::linearized),
        std::pair("linearized classic", FileLayout::linearized_classic)}) {
    BufferSink sink;
    REQUIRE(save(document, sink, {.layout = layout}).ok());
    all.push_back({name, sink.take()});
  }
  using Cipher = NewProtection::Cipher;
  for (const auto& [name, cipher] :
       {std::pair("AES-256", Cipher::aes_256), std::pair("AES-128", Cipher::aes_128),
        std::pair("RC4", Cipher::rc4_128)}) {
    BufferSink sink;
    REQUIRE(save(document, sink,
                 {.layout = cipher == Cipher::rc4_128 ? FileLayout::classic : FileLayout::compact,
                  .protection = NewProtection{.user_password = "ostrel", .cipher = cipher}})
                .ok());
    all.push_back({name, sink.take(), "ostrel"});
  }
  // A hybrid: a table, and a stream with what only newer readers see (7.5.8.4).
  test::PdfBuilder hybrid;
  hybrid.page("1 w", "/MediaBox[0 0 9 9]");
  hybrid.object(5, "<</Title(Day 11)/Author(Mira Holt)>>");
  hybrid.stream(6, "/Type/ObjStm/N 1/First 4", "8 0 (hidden)");
  hybrid.object(1, "<</Type/Catalog/Pages 2 0 R/Lang(en)/Own 8 0 R>>");
  const std::size_t stream_at = hybrid.size();
  hybrid.stream(7, "/Type/XRef/Size 9/W[1 1 1]/Index[8 1]", std::string("\x02\x06\x00", 3));
  all.push_back({"hybrid", bytes_of(hybrid.finish("/Root 1 0 R/Info 5 0 R/XRefStm " +
                                                  std::to_string(stream_at)))});
  return all;
}

Document opened(Bytes bytes, const std::string& password = "") {
  Document document = Document::open(std::move(bytes), {.password = password}).value();
  CHECK_FALSE(document.was_repaired());
  CHECK(document.findings().empty());
  return document;
}

Bytes with(const Bytes& before, const Bytes& more) {
  Bytes all = before;
  all.insert(all.end(), more.begin(), more.end());
  return all;
}

}  // namespace

TEST_CASE("changes are appended to files of every kind", "[edit]") {
  for (const Kind& kind : kinds()) {
    CAPTURE(kind.name);
    const Document before = opened(kind.bytes, kind.password);
    REQUIRE(before.info().value().title == "Day 11");
    const std::size_t revisions = before.revisions().value().size();
    EditableDocument changes = EditableDocument::of(before);
    REQUIRE(changes.attach({.name = "taken back.txt", .bytes = Bytes(5000, 'x')}).ok());
    changes.undo();
    REQUIRE(changes.set_properties({.title = "Day 12 – größer"}).ok());
    REQUIRE(changes.attach({.name = "readings.csv", .bytes = bytes_of("bridge;grade")}).ok());
    const Bytes update = changes.appended().value();
    CHECK(changes.appended().value().size() < 3000);  // not what was taken back
    if (kind.password.empty())
      CHECK(changes.appended().value() == update);
    else
      CHECK(as_text(update).find("bridge;grade") == std::string_view::npos);
    const Document after = opened(with(kind.bytes, update), kind.password);
    CHECK(after.info().value().title == "Day 12 – größer");
    CHECK(after.info().value().author == "Mira Holt");
    CHECK(after.language().value() == "en");
    CHECK(after.attachments().value().at(0).name == "readings.csv");
    CHECK(as_text(after.attached_bytes(after.attachments().value()[0])->bytes.view()) ==
          "bridge;grade");
    CHECK(as_text(after.page(0)->content().value()).substr(0, 3) == "1 w");
    CHECK(after.was_updated());
    CHECK_FALSE(after.is_linearized());
    CHECK(after.encryption().has_value() == before.encryption().has_value());
    CHECK(after.resolve(after.catalog()["Own"]).value().as_string() ==
          before.resolve(before.catalog()["Own"]).value().as_string());
    REQUIRE(after.revisions().value().size() == revisions + 1);
    const Document earlier = after.revision(static_cast<int>(revisions) - 1).value();
    CHECK(earlier.info().value().title == "Day 11");
    CHECK(earlier.attachments().value().empty());

    // And once more upon that.
    EditableDocument again = EditableDocument::of(after);
    REQUIRE(again.clear_properties().ok());
    REQUIRE(again.detach("readings.csv").ok());
    const Document last =
        opened(with(with(kind.bytes, update), again.appended().value()), kind.password);
    CHECK(last.info().value() == DocumentInfo{});
    CHECK(last.attachments().value().empty());
    CHECK(last.revisions().value().size() == revisions + 2);
  }
}

TEST_CASE("bytes in front of the header do not shift what is appended", "[edit]") {
  const std::string junk = "mail header\n";
  std::string shifted = junk + simple();
  const Document before = Document::open(bytes_of(shifted)).value();
  EditableDocument changes = EditableDocument::of(before);
  REQUIRE(changes.set_properties({.title = "Day 12"}).ok());
  const Bytes all = with(bytes_of(shifted), changes.appended().value());
  CHECK(Document::open(all)->info().value().title == "Day 12");
  CHECK_FALSE(Document::open(all)->was_repaired());
}

TEST_CASE("a repaired file says why it must be saved whole", "[edit]") {
  std::string bytes = simple();
  bytes.replace(bytes.rfind("startxref"), 9, "startxyzz");
  const Document document = Document::open(bytes_of(bytes)).value();
  REQUIRE(document.was_repaired());
  EditableDocument changes = EditableDocument::of(document);
  REQUIRE(changes.set_properties({.title = "x"}).ok());
  const auto update = changes.appended();
  REQUIRE_FALSE(update.ok());
  CHECK(update.error().code() == ErrorCode::unsupported);
  CHECK_THAT(update.error().to_string(),
             Catch::Contains("put together") && Catch::Contains("save it whole"));
  BufferSink whole;
  CHECK(changes.save(whole).ok());
}

TEST_CASE("an update goes into a new file, or behind the one that is there", "[edit]") {
  const test::TemporaryFolder folder;
  test::write_file(folder / "a.pdf", simple());
  const Document document = Document::open(folder / "a.pdf").value();
  EditableDocument changes = EditableDocument::of(document);
  REQUIRE(changes.set_language("de").ok());
  const SaveReport report = changes.save_appended(folder / "b.pdf").value();
  const std::string written = test::read_file(folder / "b.pdf");
  CHECK(written.starts_with(simple()));
  CHECK(written.size() == report.bytes);
  CHECK(Document::open(folder / "b.pdf")->language().value() == "de");
  CHECK(changes.save_appended(folder / "b.pdf").error().code() == ErrorCode::exists);
  BufferSink sink;
  CHECK(changes.save_appended(sink).value().bytes == report.bytes);
  CHECK(as_text(sink.bytes()) == written);

  REQUIRE(changes.append_to_file().ok());
  CHECK(test::read_file(folder / "a.pdf") == written);
  CHECK(Document::open(folder / "a.pdf")->language().value() == "de");
  REQUIRE(changes.append_to_file().ok());  // nothing was changed since
  CHECK(test::read_file(folder / "a.pdf") == written);
  changes.undo();
  REQUIRE(changes.append_to_file().ok());
  CHECK(Document::open(folder / "a.pdf")->language().value() == document.language().value());
  CHECK(changes.can_redo());

  std::ofstream(folder / "a.pdf", std::ios::app) << "%";
  REQUIRE(changes.set_language("en").ok());
  const auto late = changes.append_to_file();  // somebody else changed the file
  REQUIRE_FALSE(late.ok());
  CHECK(late.error().code() == ErrorCode::invalid_argument);
}

TEST_CASE("nothing is appended to a file that was never opened, whatever its source is called",
          "[edit]") {
  const test::TemporaryFolder folder;
  test::write_file(folder / "a.pdf", simple());
  const std::string bytes = simple();
  const Document in_memory =
      Document::open(make_buffer_source(Bytes(bytes.begin(), bytes.end()), folder / "a.pdf"))
          .value();
  EditableDocument named = EditableDocument::of(in_memory);
  REQUIRE(named.set_language("de").ok());
  const auto appended = named.append_to_file();
  REQUIRE_FALSE(appended.ok());
  CHECK(appended.error().code() == ErrorCode::invalid_argument);
  CHECK(test::read_file(folder / "a.pdf") == bytes);
}

// SPDX-License-Identifier: Apache-2.0
#include "lumvet/save/save.h"

#include <set>

#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;
using test::PdfBuilder;

namespace {

std::string document_bytes() {
  PdfBuilder pdf;
  pdf.page("0 0 50 50 re f", "/MediaBox[0 0 100 100]/Self 3 0 R/Gone 77 0 R/List[77 0 R 8 0 R]");
  pdf.object(8, "<</Deep[<</Er(x\\)\r)/N/A#20B/R -0.50>>]>>").object(9, "(nobody refers to this)");
  pdf.stream(10, "", std::string(4000, 'z')).object(11, "<</Title(Day 12)/Big 10 0 R>>");
  return pdf.finish("/Root 1 0 R/Info 11 0 R/ID[<0102><0304>]");
}

Bytes saved(const Document& document, FileLayout layout) {
  BufferSink sink;
  const auto report = save(document, sink, {.layout = layout});
  REQUIRE(report.ok());
  CHECK(report->bytes == sink.bytes().size());
  CHECK(report->pages == document.page_count());
  return sink.take();
}

}  // namespace

TEST_CASE("the version is raised only by what needs it", "[save]") {
  test::PdfBuilder pdf("%PDF-1.2\n");
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[3 0 R]/Count 1>>");
  pdf.object(3, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 9 9]>>");
  const Document document = test::open(pdf.finish("/Root 1 0 R")).value();
  const auto version = [&](const SaveOptions& options) {
    BufferSink sink;
    REQUIRE(save(document, sink, options).ok());
    return Document::open(sink.take(), {.password = "ostrel"})->version();
  };
  CHECK(version({.layout = FileLayout::classic}) == "1.2");
  CHECK(version({.layout = FileLayout::linearized_classic}) == "1.2");
  CHECK(version({.layout = FileLayout::compact}) == "1.5");
  CHECK(version({.layout = FileLayout::linearized}) == "1.5");
  const auto locked = [&](NewProtection::Cipher cipher) {
    return version({.layout = FileLayout::classic,
                    .protection = NewProtection{.user_password = "ostrel", .cipher = cipher}});
  };
  CHECK(locked(NewProtection::Cipher::rc4_128) == "1.4");
  CHECK(locked(NewProtection::Cipher::aes_128) == "1.6");
  CHECK(locked(NewProtection::Cipher::aes_256) == "2.0");
}

TEST_CASE("filters that are newer than the stated version raise it", "[save]") {
  struct Stored {
    std::string filter;
    std::string needed;
  };
  const auto [filter, needed] =
      GENERATE(Stored{"/ASCIIHexDecode", "1.2"}, Stored{"[/ASCIIHexDecode/FlateDecode]", "1.2"},
               Stored{"/JBIG2Decode", "1.4"}, Stored{"[/ASCII85Decode /JPXDecode]", "1.5"},
               Stored{"/Crypt", "1.5"}, Stored{"9 0 R", "1.5"});
  test::PdfBuilder pdf("%PDF-1.0\n");
  pdf.page("/I Do", "/MediaBox[0 0 9 9]/Resources<</XObject<</I 5 0 R>>>>");
  pdf.stream(5, "/Subtype/Image/Width 1/Height 1/Filter " + filter, "00>");
  pdf.object(9, "/JPXDecode");
  const Document document = test::open(pdf.finish()).value();
  for (const FileLayout layout : {FileLayout::classic, FileLayout::linearized_classic}) {
    BufferSink sink;
    REQUIRE(save(document, sink, {.layout = layout}).ok());
    CHECK(std::string(as_text(sink.bytes()).substr(5, 3)) == needed);
  }
}

TEST_CASE("a saved document reads back as the same, in either layout", "[save]") {
  const FileLayout layout = GENERATE(FileLayout::compact, FileLayout::classic);
  const Document before = test::open(document_bytes()).value();
  const Document after = Document::open(saved(before, layout)).value();
  CHECK(after.page_count() == 1);
  const Page page = after.page(0).value();
  CHECK(as_text(page.content().value()) == "0 0 50 50 re f\n");
  CHECK(page.dict()["Self"].as_reference() == page.id());
  CHECK_FALSE(page.dict().contains("Gone"));
  REQUIRE(page.dict()["List"].as_array().size() == 2);
  CHECK(page.dict()["List"].as_array()[0].is_null());
  const Object deep = after.resolve(page.dict()["List"].as_array()[1]).value();
  CHECK(deep == before.resolve(Object(ObjectId{8, 0})).value());
  CHECK(after.info().value().title == "Day 12");
  CHECK(after.trailer()["ID"].as_array()[0].as_string() == "\x01\x02");
  CHECK(after.trailer()["ID"].as_array()[1].as_string().size() == 16);
  CHECK(after.findings().empty());
}

TEST_CASE("only what is reachable is written, and plain streams are packed", "[save]") {
  const Document document = test::open(document_bytes()).value();
  const Bytes bytes = saved(document, FileLayout::classic);
  CHECK(as_text(bytes).find("nobody") == std::string_view::npos);
  CHECK(as_text(bytes).find("zzzz") == std::string_view::npos);
  CHECK(bytes.size() < 1500);
}

TEST_CASE("a length that was an object of its own is not left lying about", "[save]") {
  PdfBuilder pdf;
  pdf.page("", "/MediaBox[0 0 9 9]/S 5 0 R")
      .object(5, "<</Length 6 0 R>>\nstream\nabc\nendstream")
      .object(6, "3");
  const Bytes bytes = saved(test::open(pdf.finish()).value(), FileLayout::classic);
  // Catalog, page tree, page, two streams.
  CHECK_THAT(std::string(as_text(bytes)), Catch::Contains("/Size 6"));
}

TEST_CASE("saving twice gives the same bytes, and saving what was saved changes nothing more",
          "[save]") {
  const FileLayout layout = GENERATE(FileLayout::compact, FileLayout::classic);
  const Document document = test::open(document_bytes()).value();
  const Bytes once = saved(document, layout);
  CHECK(saved(document, layout) == once);
  const Bytes twice = saved(Document::open(once).value(), layout);
  CHECK(saved(Document::open(twice).value(), layout) == twice);
}

TEST_CASE("what is saved has an identifier of its content", "[save]") {
  const FileLayout layout =
      GENERATE(FileLayout::compact, FileLayout::classic, FileLayout::linearized);
  std::set<std::string> ids;
  const std::string content(300, 'q');
  // Bytes that change, change places, or are one more; and an entry that does.
  for (const std::string& other :
       {content, content + "q", "Q" + content.substr(1), content.substr(1) + "Q",
        "q" + std::string("Q") + content.substr(2)})
    for (const char* entry : {"", "/Rotate 90"}) {
      PdfBuilder pdf;
      pdf.page(other, std::string("/MediaBox[0 0 9 9]") + entry);
      const Document after =
          Document::open(saved(test::open(pdf.finish()).value(), layout)).value();
      ids.insert(std::string(after.trailer()["ID"].as_array()[1].as_string()));
    }
  CHECK(ids.size() == 10);
}

TEST_CASE("a save refuses to replace, leaves the old file alone, and reports the new one",
          "[save]") {
  const test::TemporaryFolder folder;
  const Document document = test::open(document_bytes()).value();
  const auto path = folder / "copy.pdf";
  REQUIRE(save(document, path).ok());
  const std::string first = test::read_file(path);
  const auto refused = save(document, path, {.layout = FileLayout::classic});
  CHECK(refused.error().code() == ErrorCode::exists);
  CHECK(test::read_file(path) == first);
  const auto replaced = save(document, path, {.layout = FileLayout::classic, .replace = true});
  REQUIRE(replaced.ok());
  CHECK(replaced->path == path);
  CHECK(replaced->bytes == std::filesystem::file_size(path));
  CHECK(folder.file_count() == 1);
}

TEST_CASE("a document may be replaced by its own save while it is open", "[save]") {
  const test::TemporaryFolder folder;
  test::write_file(folder / "a.pdf", document_bytes());
  const Document document = Document::open(folder / "a.pdf").value();
  REQUIRE(save(document, folder / "a.pdf", {.replace = true}).ok());
  CHECK(as_text(document.page(0)->content().value()) == "0 0 50 50 re f\n");
  CHECK(Document::open(folder / "a.pdf")->page_count() == 1);
}

TEST_CASE("a cancelled save leaves no file", "[save]") {
  const test::TemporaryFolder folder;
  const CancelToken cancel;
  cancel.cancel();
  const auto report =
      save(test::open(document_bytes()).value(), folder / "a.pdf", {.cancel = cancel});
  CHECK(report.error().code() == ErrorCode::cancelled);
  CHECK(folder.file_count() == 0);
}

TEST_CASE("a sink that fails stops the save with its error", "[save]") {
  class Full final : public ByteSink {
   public:
    Status write(ByteView) override { return Error(ErrorCode::io, "disk full"); }
  } sink;
  CHECK_THAT(save(test::open(document_bytes()).value(), sink).error().to_string(),
             Catch::Contains("disk full"));
}

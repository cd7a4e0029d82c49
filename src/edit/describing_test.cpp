// SPDX-License-Identifier: Apache-2.0
#include "lumvet/edit/editable_document.h"

#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/saved.h"

using namespace lumvet;
using test::saved;

namespace {

// A report with properties in both places, one more of its own in XMP, and an attachment.
Document report(const std::string& xmp_prefix = "dc") {
  test::PdfBuilder pdf;
  pdf.page("", "/MediaBox[0 0 9 9]");
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/Metadata 6 0 R/Lang(en)/Names 7 0 R>>");
  pdf.object(5, "<</Title(Day 11)/Author(Mira Holt)/Producer(a typesetter)>>");
  pdf.stream(
      6, "/Type/Metadata/Subtype/XML",
      "<?xpacket begin='' id='W5M0MpCehiHzreSzNTczkc9d'?><x:xmpmeta xmlns:x='adobe:ns:meta/'>"
      "<r:RDF xmlns:r='http://www.w3.org/1999/02/22-rdf-syntax-ns#'>"
      "<r:Description r:about='' xmlns:" +
          xmp_prefix +
          "='http://purl.org/dc/elements/1.1/' "
          "xmlns:o='https://ostrel.example/ns/' o:round='autumn' "
          "xmlns:p='http://ns.adobe.com/pdf/1.3/' p:Keywords='old'>"
          "<" +
          xmp_prefix + ":title><r:Alt><r:li xml:lang='x-default'>Day 11</r:li></r:Alt></" +
          xmp_prefix + ":title></r:Description></r:RDF></x:xmpmeta><?xpacket end='w'?>");
  pdf.object(7, "<</EmbeddedFiles<</Names[(sketch)8 0 R]>>>>");
  pdf.object(8, "<</Type/Filespec/F(sketch.svg)/EF<</F 9 0 R>>>>");
  pdf.stream(9, "/Type/EmbeddedFile", "<svg/>");
  return test::open(pdf.finish("/Root 1 0 R/Info 5 0 R")).value();
}

std::string xmp_of(const Document& document) {
  return std::string(as_text(document.decoded(document.catalog()["Metadata"])->view()));
}

Bytes bytes_of(std::string_view text) { return {as_bytes(text).begin(), as_bytes(text).end()}; }

}  // namespace

TEST_CASE("properties are set in both places, and the rest of XMP stays", "[edit]") {
  const std::string prefix = GENERATE("dc", "core");
  const Document before = report(prefix);
  REQUIRE(before.metadata().value().properties.title == "Day 11");
  EditableDocument changes = EditableDocument::of(before);
  REQUIRE(changes
              .set_properties({.title = "Day 12 & 13 – Größe",
                               .author = "",
                               .subject = "Piers",
                               .keywords = "bridge, round"})
              .ok());
  const Document after = saved(changes);
  const Metadata metadata = after.metadata().value();
  CHECK(metadata.disagreements.empty());
  CHECK(metadata.properties.title == "Day 12 & 13 – Größe");
  CHECK(metadata.properties.author.empty());
  CHECK(metadata.properties.subject == "Piers");
  CHECK(metadata.properties.keywords == "bridge, round");
  CHECK(metadata.properties.producer == "a typesetter");
  CHECK(after.info().value().title == metadata.properties.title);
  const std::string xmp = xmp_of(after);
  CHECK_THAT(xmp, Catch::Contains("o:round=\"autumn\"") && !Catch::Contains("Day 11") &&
                      Catch::StartsWith("<?xpacket") && Catch::EndsWith("?>"));
}

TEST_CASE("changes are taken back and done again", "[edit]") {
  EditableDocument changes = EditableDocument::of(report());
  REQUIRE(changes.set_properties({.title = "Day 12"}).ok());
  REQUIRE(changes.set_language("de-AT").ok());
  REQUIRE(changes.attach({.name = "readings.csv", .bytes = bytes_of("1;2")}).ok());
  REQUIRE(changes.clear_properties().ok());
  CHECK(changes.steps() == std::vector<std::string>{"set title", "set the language to de-AT",
                                                    "attached readings.csv",
                                                    "cleared all properties"});
  const Document all = saved(changes);
  CHECK(all.info().value() == DocumentInfo{});
  CHECK_FALSE(all.catalog().contains("Metadata"));
  changes.undo();
  changes.undo();
  const Document some = saved(changes);
  CHECK(some.info().value().title == "Day 12");
  CHECK(some.language().value() == "de-AT");
  CHECK(some.attachments().value().size() == 1);
  while (changes.can_undo()) changes.undo();
  const Document none = saved(changes);
  CHECK(none.info().value().title == "Day 11");
  CHECK(none.language().value() == "en");
  changes.redo();
  REQUIRE(changes.set_language("").ok());
  CHECK_FALSE(changes.can_redo());
  CHECK(saved(changes).language().value().empty());
}

TEST_CASE("files are attached with their checksums, and removed", "[edit]") {
  EditableDocument changes = EditableDocument::of(report());
  REQUIRE(changes
              .attach({.name = "Übersicht.csv",
                       .bytes = bytes_of("bridge;grade"),
                       .description = "Readings",
                       .media_type = "text/csv"})
              .ok());
  CHECK(changes.attachment_names().value() ==
        std::vector<std::string>{"sketch.svg", "Übersicht.csv"});
  const Document document = saved(changes);
  const auto attachments = document.attachments().value();
  REQUIRE(attachments.size() == 2);
  const Attachment& added = attachments[1];
  CHECK(added.name == "Übersicht.csv");
  CHECK(added.description == "Readings");
  CHECK(added.media_type == "text/csv");
  CHECK(added.size == 12u);
  const AttachedBytes bytes = document.attached_bytes(added).value();
  CHECK(as_text(bytes.bytes.view()) == "bridge;grade");
  CHECK(bytes.checksum_fits == true);
  REQUIRE(changes.detach("sketch.svg").ok());
  REQUIRE(changes.detach("Übersicht.csv").ok());
  const Document bare = saved(changes);
  CHECK(bare.attachments().value().empty());
  CHECK_FALSE(bare.catalog().contains("Names"));
}

TEST_CASE("changes that make no sense are refused", "[edit]") {
  EditableDocument changes = EditableDocument::of(report());
  CHECK(changes.attach({.name = "sketch.svg", .bytes = {}}).error().code() == ErrorCode::exists);
  for (const char* name : {"", "a/b", "a\\b"})
    CHECK(changes.attach({.name = name, .bytes = {}}).error().code() ==
          ErrorCode::invalid_argument);
  CHECK_THAT(changes.detach("none").error().message(), Catch::Contains("there are: sketch.svg"));
  CHECK(changes.set_properties({}).error().code() == ErrorCode::invalid_argument);
  CHECK(changes.steps().empty());
  test::PdfBuilder pdf;
  pdf.page("", "/MediaBox[0 0 9 9]");
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/Metadata 6 0 R>>");
  pdf.stream(6, "/Type/Metadata/Subtype/XML", "no XMP");
  EditableDocument broken = EditableDocument::of(test::open(pdf.finish()).value());
  CHECK(broken.set_properties({.title = "x"}).error().code() == ErrorCode::malformed);
}

// SPDX-License-Identifier: Apache-2.0
// Properties out of the information dictionary and out of XMP, and where they disagree.
#include "document/metadata.h"

#include "lumvet/document/document.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using test::PdfBuilder;

namespace {

std::string packet(const std::string& inside, const std::string& attributes = "") {
  return "<?xpacket begin='' id='W5M0MpCehiHzreSzNTczkc9d'?><x:xmpmeta xmlns:x='adobe:ns:meta/'>"
         "<r:RDF xmlns:r='http://www.w3.org/1999/02/22-rdf-syntax-ns#'><r:Description r:about='' "
         "xmlns:dc='http://purl.org/dc/elements/1.1/' xmlns:xmp='http://ns.adobe.com/xap/1.0/' "
         "xmlns:pdf='http://ns.adobe.com/pdf/1.3/' "
         "xmlns:pdfaid='http://www.aiim.org/pdfa/ns/id/' " +
         attributes + ">" + inside + "</r:Description></r:RDF></x:xmpmeta><?xpacket end='w'?>";
}

Document with(const std::string& info, const std::string& xmp) {
  PdfBuilder pdf;
  pdf.page("").object(1, "<</Type/Catalog/Pages 2 0 R/Metadata 9 0 R>>").object(8, info);
  pdf.stream(9, "/Type/Metadata/Subtype/XML", xmp);
  return test::open(pdf.finish("/Root 1 0 R/Info 8 0 R")).value();
}

}  // namespace

TEST_CASE("XMP is read as elements, attributes and lists, whatever its prefixes", "[metadata]") {
  const auto xmp = document::parse_xmp(as_bytes(
      packet("<dc:title><r:Alt><r:li xml:lang='de'>Tag 12</r:li><r:li xml:lang='x-default'>Day "
             "12</r:li></r:Alt></dc:title><dc:creator><r:Seq><r:li>Ida Verlan</r:li><r:li>Oto "
             "Brenn</r:li></r:Seq></dc:creator><dc:subject><r:Bag><r:li>bridge</r:li><r:li>weir"
             "</r:li></r:Bag></dc:subject><xmp:CreateDate>2026-10-14T07:40:00+02:00"
             "</xmp:CreateDate><xmp:ModifyDate>2026-10-15T07:40Z</xmp:ModifyDate>"
             "<pdfaid:part>2</pdfaid:part>",
             "pdf:Producer='Printer &amp; Co' pdfaid:conformance='B'")));
  REQUIRE(xmp.ok());
  CHECK(xmp->info == DocumentInfo{.title = "Day 12",
                                  .author = "Ida Verlan, Oto Brenn",
                                  .subject = "",
                                  .keywords = "bridge, weir",
                                  .creator = "",
                                  .producer = "Printer & Co",
                                  .created = "2026-10-14 07:40:00 +02:00",
                                  .modified = "2026-10-15 07:40:00 UTC"});
  CHECK(xmp->conformance == "PDF/A-2B");
  CHECK(document::parse_xmp(as_bytes("no xml <")).error().code() == ErrorCode::malformed);
}

TEST_CASE("where the two places disagree XMP counts, and it is told", "[metadata]") {
  const Document document = with(
      "<</Title(Day 11)/Author(Ida Verlan)/CreationDate(D:20261014074000+02'00')"
      "/Bridge(Alder Weir)/Trapped/False>>",
      packet("<dc:title><r:Alt><r:li xml:lang='x-default'>Day 12</r:li></r:Alt></dc:title>"
             "<xmp:CreateDate>2026-10-14T07:40:00+02:00</xmp:CreateDate>"));
  const Metadata metadata = document.metadata().value();
  CHECK(metadata.has_xmp);
  CHECK(metadata.properties.title == "Day 12");
  CHECK(metadata.properties.author == "Ida Verlan");
  CHECK(metadata.disagreements ==
        std::vector<std::string>{"title: 'Day 11' in the information, 'Day 12' in XMP"});
  CHECK(metadata.custom ==
        std::vector<std::pair<std::string, std::string>>{{"Bridge", "Alder Weir"}});
  CHECK(metadata.trapped == "False");
  CHECK(document.info().value().title == "Day 11");
}

TEST_CASE("XMP that is no XML is a finding, and the dictionary remains", "[metadata]") {
  const Document document = with("<</Title(Day 11)>>", "garbage <<");
  CHECK(document.metadata().value().properties.title == "Day 11");
  CHECK_FALSE(document.metadata().value().has_xmp);
  REQUIRE(document.findings().size() == 1);
  CHECK_THAT(document.findings()[0].what, Catch::Contains("no XML"));
  CHECK(document.findings()[0].object == ObjectId{9, 0});
}

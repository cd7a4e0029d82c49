// SPDX-License-Identifier: Apache-2.0
// Page labels, outlines, destinations and actions.
#include "document/page_labels.h"
#include "lumvet/document/document.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using test::open;
using test::PdfBuilder;

namespace {

// Pages 11, 12, … under object 2.
PdfBuilder pages(int count, const std::string& catalog) {
  PdfBuilder pdf;
  std::string kids;
  for (int i = 1; i <= count; ++i) {
    kids += std::to_string(10 + i) + " 0 R ";
    pdf.object(10 + i, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 9 9]>>");
  }
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R" + catalog + ">>");
  return pdf.object(2, "<</Type/Pages/Kids[" + kids + "]/Count " + std::to_string(count) + ">>");
}

}  // namespace

TEST_CASE("page labels follow their ranges, styles, prefixes and starts", "[document]") {
  // ISO 32000-2, 12.4.2, example: i to iv, 1 to 3, A-8 and A-9.
  const Document document =
      open(pages(9, "/PageLabels<</Nums[0<</S/r>>4<</S/D>>7<</S/D/P(A-)/St 8>>]>>").finish())
          .value();
  std::string labels;
  for (int i = 0; i < 9; ++i) labels += document.page_label(i).value() + " ";
  CHECK(labels == "i ii iii iv 1 2 3 A-8 A-9 ");
  CHECK(document.page_label(9).error().code() == ErrorCode::invalid_argument);
  CHECK(open(pages(2, "").finish())->page_label(1).value() == "2");
  const Document odd =
      open(pages(3, "/PageLabels<</Kids[<</Limits[1 2]/Nums[1<</P<FEFF00DC>>>2<</S/A/St 28>>]>>]>>")
               .finish())
          .value();
  CHECK(odd.page_label(0).value() == "1");
  CHECK(odd.page_label(1).value() == "Ü");
  CHECK(odd.page_label(2).value() == "BB");
  CHECK(odd.findings().size() == 1);
}

TEST_CASE("numerals are those of books", "[document]") {
  using document::numeral;
  CHECK(numeral(1994, "R") == "MCMXCIV");
  CHECK(numeral(49, "r") == "xlix");
  CHECK(numeral(26, "A") == "Z");
  CHECK(numeral(27, "a") == "aa");
  CHECK(numeral(7, "D") == "7");
  CHECK(numeral(0, "R") == "0");
  CHECK(numeral(2'000'000'000, "A") == "2000000000");  // not that many letters
}

TEST_CASE("destinations of every view keep their numbers", "[document]") {
  using View = Destination::View;
  const auto [array, expected] = GENERATE(table<std::string, Destination>({
      {"[12 0 R/XYZ 1 2 1.5]", {1, View::xyz, 1, 2, {}, {}, 1.5, ""}},
      {"[12 0 R/XYZ null 2 0]", {1, View::xyz, {}, 2, {}, {}, {}, ""}},
      {"[11 0 R/Fit]", {0, View::fit, {}, {}, {}, {}, {}, ""}},
      {"[11 0 R/FitH 700]", {0, View::fit_h, {}, 700, {}, {}, {}, ""}},
      {"[11 0 R/FitV 70]", {0, View::fit_v, 70, {}, {}, {}, {}, ""}},
      {"[11 0 R/FitR 1 2 3 4]", {0, View::fit_r, 1, 4, 3, 2, {}, ""}},
      {"[11 0 R/FitBH 5]", {0, View::fit_bh, {}, 5, {}, {}, {}, ""}},
      {"[1/FitB]", {1, View::fit_b, {}, {}, {}, {}, {}, ""}},  // a number, seen in real files
      {"[99 0 R/Fit]", {{}, View::fit, {}, {}, {}, {}, {}, ""}},
      {"<</D[12 0 R/Fit]>>", {1, View::fit, {}, {}, {}, {}, {}, ""}},
      {"(plan)", {1, View::fit_h, {}, 6, {}, {}, {}, "plan"}},
      {"/old", {0, View::fit, {}, {}, {}, {}, {}, "old"}},
  }));
  CAPTURE(array);
  const Document document =
      open(pages(2,
                 "/Outlines 20 0 R/Dests<</old[11 0 R/Fit]>>/Names<</Dests<</Names[(plan)[12 0 "
                 "R/FitH 6]]>>>>")
               .object(20, "<</First 21 0 R>>")
               .object(21, "<</Title(x)/Dest " + array + ">>")
               .finish())
          .value();
  REQUIRE(document.outline().value().size() == 1);
  CHECK(document.outline().value()[0].destination == expected);
  CHECK(document.outline().value()[0].page == expected.page);
  const auto named = document.named_destinations().value();
  REQUIRE(named.size() == 2);
  CHECK(named[0].name == "old");
  CHECK(named[1] == Destination{1, View::fit_h, {}, 6, {}, {}, {}, "plan"});
}

TEST_CASE("outline entries tell how they look and whether they are open", "[document]") {
  const Document document =
      open(pages(1, "/Outlines 20 0 R")
               .object(20, "<</First 21 0 R>>")
               .object(21, "<</Title(One)/Next 22 0 R/First 23 0 R/Count 1/F 3/C[1 .5 0]>>")
               .object(22, "<</Title(Two)/First 24 0 R/Count -1/Dest(gone)>>")
               .object(23, "<</Title(Below one)>>")
               .object(24, "<</Title(Below two)/Next 21 0 R>>")
               .finish())
          .value();
  const auto outline = document.outline().value();
  REQUIRE(outline.size() == 4);
  const auto first = document.outline(3).value();
  REQUIRE(first.size() == 3);
  CHECK(first[2].object == outline[2].object);
  CHECK(document.outline(0).value().empty());
  CHECK(outline[0].is_open);
  CHECK(outline[0].bold);
  CHECK(outline[0].italic);
  CHECK(outline[0].color == std::array<double, 3>{1, 0.5, 0});
  CHECK(outline[1].depth == 1);
  CHECK_FALSE(outline[2].is_open);
  CHECK_FALSE(outline[2].destination);
  CHECK(document.findings().size() == 1);  // the circle
}

TEST_CASE("actions are read as data, with all that follow", "[document]") {
  using Kind = Action::Kind;
  const auto [dict, kind, target] = GENERATE(table<std::string, Kind, std::string>({
      {"/S/GoTo/D[12 0 R/Fit]", Kind::go_to, ""},
      {"/S/GoToR/F<</UF(plan.pdf)/F(old.pdf)>>/D[3/Fit]", Kind::go_to_remote, "plan.pdf"},
      {"/S/GoToE/F(book.pdf)/D(x)", Kind::go_to_embedded, "book.pdf"},
      {"/S/Launch/Win<</F(calc.exe)>>", Kind::launch, "calc.exe"},
      {"/S/URI/URI(https://example.org/)", Kind::uri, "https://example.org/"},
      {"/S/Named/N/NextPage", Kind::named, "NextPage"},
      {"/S/SubmitForm/F<</FS/URL/F(https://example.org/form)>>/Fields[(a)30 0 R]/Flags 4",
       Kind::submit_form, "https://example.org/form"},
      {"/S/ResetForm/Fields[30 0 R]", Kind::reset_form, ""},
      {"/S/ImportData/F(data.fdf)", Kind::import_data, "data.fdf"},
      {"/S/JavaScript/JS(app.alert\\(1\\))", Kind::script, "app.alert(1)"},
      {"/S/JavaScript/JS 32 0 R", Kind::script, "long script"},
      {"/S/Hide/T(a)", Kind::hide, ""},
      {"/S/SetOCGState/State[/ON]", Kind::set_layers, ""},
      {"/S/Trans", Kind::other, ""},
  }));
  CAPTURE(dict);
  const Document document =
      open(pages(2, "/Outlines 20 0 R")
               .object(20, "<</First 21 0 R>>")
               .object(21, "<</Title(x)/A 22 0 R>>")
               .object(22, "<<" + dict + "/Next[23 0 R<</S/Named/N/Print>>]>>")
               .object(23, "<</S/URI/URI(second)/Next 22 0 R>>")
               .object(30, "<</T(name)/Parent 31 0 R>>")
               .object(31, "<</T(inspector)>>")
               .stream(32, "", "long script")
               .finish())
          .value();
  const auto outline = document.outline().value();
  const std::vector<Action>& actions = outline.at(0).actions;
  REQUIRE(actions.size() == 3);
  CHECK(actions[0].kind == kind);
  CHECK(actions[0].target == target);
  CHECK(actions[1].target == "second");
  CHECK(actions[2].target == "Print");
  CHECK(document.findings().size() == 1);  // the chain leads back to its first action
  if (kind == Kind::go_to) CHECK(outline[0].page == 1);
  if (kind == Kind::go_to_remote) CHECK(actions[0].destination->page == 3);
  if (kind == Kind::submit_form) {
    CHECK(actions[0].fields == std::vector<std::string>{"a", "inspector.name"});
    CHECK(actions[0].flags == 4);
  }
}

TEST_CASE("two attached files may have the same bytes", "[document]") {
  PdfBuilder pdf = pages(1, "/Names<</EmbeddedFiles<</Names[(a)20 0 R(b)22 0 R]>>>>");
  pdf.object(20, "<</F(a.csv)/EF<</F 21 0 R>>>>").stream(21, "", "1,2");
  pdf.object(22, "<</F(b.csv)/EF<</F 21 0 R>>>>");
  const auto attachments = open(pdf.finish()).value().attachments().value();
  REQUIRE(attachments.size() == 2);
  CHECK(attachments[0].name == "a.csv");
  CHECK(attachments[1].name == "b.csv");
}

TEST_CASE("attachments of the document, its pages and annotations are found once each",
          "[document]") {
  PdfBuilder pdf = pages(2,
                         "/AF[20 0 R]/Names<</EmbeddedFiles<</Kids[<</Limits[(a)(a)]/Names[(a)20 0 "
                         "R]>>]>>>>");
  pdf.object(12, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 9 9]/Annots[22 0 R]/AF[25 0 R]>>");
  pdf.object(20, "<</F(a.csv)/EF<</F 21 0 R>>/AFRelationship/Data>>");
  // MD5 of "1,2", as the command md5sum gives it.
  pdf.stream(21,
             "/Type/EmbeddedFile/Subtype/text#2Fcsv/Params<</Size "
             "3/CheckSum<05CF281C050BE3DA4EECF3BC6E8AAC1B>/ModDate(D:20261014)>>",
             "1,2");
  pdf.object(22, "<</Subtype/FileAttachment/FS 23 0 R>>");
  pdf.object(23, "<</F(photo.jpg)/EF<</F 24 0 R>>>>")
      .stream(24, "/Params<</CheckSum(wrong)>>", "x");
  pdf.object(25, "<</UF(page.txt)/EF<</UF 26 0 R>>>>").stream(26, "", "page");
  const Document document = open(pdf.finish()).value();
  const auto attachments = document.attachments().value();
  REQUIRE(attachments.size() == 3);
  CHECK(attachments[0].name == "a.csv");
  CHECK(attachments[0].media_type == "text/csv");
  CHECK(attachments[0].relationship == "Data");
  CHECK(attachments[0].modified == "2026-10-14");
  CHECK(attachments[0].from == Attachment::From::document);
  CHECK(attachments[1].from == Attachment::From::associated);
  CHECK(attachments[1].page == 1);
  CHECK(attachments[2].from == Attachment::From::annotation);
  const auto bytes = document.attached_bytes(attachments[0]).value();
  CHECK(as_text(bytes.bytes.view()) == "1,2");
  CHECK(bytes.checksum_fits == true);
  CHECK_FALSE(document.attached_bytes(attachments[1])->checksum_fits);
  CHECK(document.attached_bytes(attachments[2])->checksum_fits == false);
}

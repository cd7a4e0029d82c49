// SPDX-License-Identifier: Apache-2.0
#include <atomic>
#include <thread>

#include "base/findings_list.h"
#include "lumvet/document/document.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using test::PdfBuilder;

namespace {

// Page 0 is object 3; the root of the tree is object 10.
PdfBuilder tagged(const std::string& root, const std::string& catalog = "") {
  PdfBuilder pdf;
  pdf.page("").object(1, "<</Type/Catalog/Pages 2 0 R/StructTreeRoot 10 0 R" + catalog + ">>");
  return pdf.object(10, "<</Type/StructTreeRoot" + root + ">>");
}

// "Document(P[0] Link(L:4))": types by depth, with what they hold.
std::string shape(const Structure& structure, int element) {
  const StructureElement& at = structure.elements[static_cast<std::size_t>(element)];
  std::string text = at.role + "(";
  for (const StructurePart& part : at.parts) {
    if (text.back() != '(') text += ' ';
    switch (part.kind) {
      case StructurePart::Kind::element: text += shape(structure, part.element); break;
      case StructurePart::Kind::marked_content:
        text += std::to_string(part.mark) + "@" + (part.page ? std::to_string(*part.page) : "?");
        if (part.object.number != 0) text += "/" + std::to_string(part.object.number);
        break;
      case StructurePart::Kind::object: text += "#" + std::to_string(part.object.number); break;
    }
  }
  return text + ")";
}

}  // namespace

TEST_CASE("the structure keeps elements and contents in reading order", "[document]") {
  const Document document =
      test::open(tagged("/K 11 0 R", "/MarkInfo<</Marked true/Suspects true/UserProperties true>>")
                     .object(11, "<</S/Document/P 10 0 R/Pg 3 0 R/K[12 0 R 13 0 R]>>")
                     .object(12, "<</S/P/P 11 0 R/K[0<</Type/MCR/MCID 7/Stm 9 0 R>>14 0 R 1]>>")
                     .object(13, "<</S/Figure/P 11 0 R/Alt(A crack)/K 2>>")
                     .object(14, "<</S/Link/P 12 0 R/K[<</Type/OBJR/Obj 8 0 R>>3]>>")
                     .finish())
          .value();
  const Structure structure = document.structure().value();
  CHECK((structure.is_marked && structure.is_suspect && structure.has_user_properties));
  REQUIRE(structure.elements.size() == 4);
  CHECK(shape(structure, 0) == "Document(P(0@0 7@0/9 Link(#8 3@0) 1@0) Figure(2@0))");
  CHECK(structure.elements[2].type == "Link");
  CHECK(structure.elements[2].parent == 1);
  CHECK(structure.elements[2].depth == 2);
  CHECK(structure.elements[3].alternate == "A crack");
  CHECK(document.findings().empty());
}

TEST_CASE("what elements say in words is read, and language passed down", "[document]") {
  const Structure structure =
      test::open(tagged("/K[11 0 R]", "/Lang(en)")
                     .object(11, "<</S/Sect/K[12 0 R 13 0 R]/T(Findings)>>")
                     .object(12, "<</S/P/Lang(de)/K 14 0 R/E(reinforced concrete)>>")
                     .object(13, "<</S/P/ActualText<FEFF00C4>>>")
                     .object(14, "<</S/Span>>")
                     .finish())
          ->structure()
          .value();
  REQUIRE(structure.elements.size() == 4);
  CHECK_FALSE(structure.is_marked);
  CHECK(structure.elements[0].title == "Findings");
  CHECK(structure.elements[0].language == "en");
  CHECK(structure.elements[1].language == "de");
  CHECK(structure.elements[1].expansion == "reinforced concrete");
  CHECK(structure.elements[2].language == "de");
  CHECK(structure.elements[3].language == "en");
  CHECK(structure.elements[3].actual_text == "Ä");
}

TEST_CASE("attributes are those of an element's classes, then its own", "[document]") {
  const Document document =
      test::open(tagged("/K 11 0 R/ClassMap<</wide<</O/Layout/Width 200/Height 40>>"
                        "/both[<</O/Table/ColSpan 2>><</O/NSO/NS 20 0 R/Pier(3)>>]>>")
                     .object(11,
                             "<</S/TD/P 10 0 R/C[/wide 0/both/none]/A[<</O/Layout/Width 12 0 R>>1"
                             "<</O/List/ListNumbering/Decimal>>]>>")
                     .object(12, "300")
                     .object(20, "<</Type/Namespace/NS(https://ostrel.example/piers)>>")
                     .finish())
          .value();
  const StructureElement cell = document.structure().value().elements.at(0);
  CHECK(cell.classes == std::vector<std::string>{"wide", "both", "none"});
  std::string told;
  for (const StructureAttribute& one : cell.attributes)
    told += one.owner + "." + one.name + "=" + to_text(one.value) + "(" + one.of_class + ") ";
  CHECK(told ==
        "Layout.Height=40(wide) Layout.Width=200(wide) Table.ColSpan=2(both) "
        "https://ostrel.example/piers.Pier=(3)(both) Layout.Width=300() "
        "List.ListNumbering=/Decimal() ");
}

TEST_CASE("roles lead to the standard's types", "[document]") {
  const auto [roles, type, expected] = GENERATE(table<std::string, std::string, std::string>({
      {"/RoleMap<</Kapitel/Sect>>", "/S/Kapitel", "Sect"},
      {"/RoleMap<</A/B/B/C/C/H2>>", "/S/A", "H2"},
      {"/RoleMap<</A/B/B/A>>", "/S/A", "A"},  // round in a circle: as it is
      {"/RoleMap<</A/Nonsense>>", "/S/A", "Nonsense"},
      {"/RoleMap<</P/H1>>", "/S/P", "P"},  // the standard's own stay
      {"", "/S/H9", "H9"},
      {"", "/S/Note/NS<</NS(http://a)/RoleMapNS<</Note[/FENote 5 0 R]>>>>", "FENote"},
      {"", "/S/Note/NS<</NS(http://a)/RoleMapNS<</Note/Aside>>>>", "Aside"},
  }));
  CAPTURE(roles, type);
  const Structure structure =
      test::open(tagged(roles + "/K 11 0 R").object(11, "<<" + type + ">>").finish())
          ->structure()
          .value();
  REQUIRE(structure.elements.size() == 1);
  CHECK(structure.elements[0].role == expected);
}

TEST_CASE("a structure that leads back into itself ends", "[document]") {
  const Document document =
      test::open(tagged("/K[11 0 R 11 0 R]").object(11, "<</S/P/K[11 0 R 0]/Pg 99 0 R>>").finish())
          .value();
  const Structure structure = document.structure().value();
  REQUIRE(structure.elements.size() == 1);
  CHECK(shape(structure, 0) == "P(0@?)");
  REQUIRE_FALSE(document.findings().empty());
  CHECK(document.findings()[0].object == ObjectId{11, 0});
}

TEST_CASE("a structure of many levels meets the limit", "[document]") {
  PdfBuilder pdf = tagged("/K 11 0 R");
  for (int i = 11; i < 500; ++i) pdf.object(i, "<</S/Div/K " + std::to_string(i + 1) + " 0 R>>");
  const Document document = test::open(pdf.finish()).value();
  const Result<Structure> structure = document.structure();
  REQUIRE_FALSE(structure.ok());
  CHECK(structure.error().code() == ErrorCode::limit);
  CHECK_THAT(structure.error().message(), Catch::Contains("Limits::nesting"));
}

TEST_CASE("many threads read one document and see the same, however little is kept", "[document]") {
  PdfBuilder pdf;
  pdf.object(1,
             "<</Type/Catalog/Pages 2 0 R/StructTreeRoot 4 0 R/AcroForm<</Fields[5 0 R]>>"
             "/OCProperties<</OCGs[6 0 R]/D<</OFF[6 0 R]>>>>>>")
      .object(4, "<</K[10 0 R]>>")
      .object(5, "<</T(a)/FT/Tx/V(b)/Subtype/Widget/Rect[0 0 1 1]>>")
      .object(6, "<</Type/OCG/Name(c)>>");
  std::string kids;
  for (int i = 100; i < 200; ++i) {
    kids += std::to_string(i) + " 0 R ";
    pdf.object(i, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 9 9]/Annots[5 0 R]>>");
  }
  pdf.object(2, "<</Type/Pages/Count 100/Kids[" + kids + "]>>");
  for (int i = 10; i < 90; ++i)
    pdf.object(
        i, "<</S/Div/Pg " + std::to_string(i + 100) + " 0 R/K " + std::to_string(i + 1) + " 0 R>>");
  const std::string bytes = pdf.finish();
  const Document document =
      Document::open(test::to_bytes(bytes), {.limits = {.kept_bytes = 4096}}).value();
  std::atomic<int> right = 0;
  {
    std::vector<std::jthread> threads;
    for (int t = 0; t < 4; ++t)
      threads.emplace_back([&] {
        for (int round = 0; round < 3; ++round) {
          const Structure structure = document.structure().value();
          right += structure.elements.size() == 80 && structure.elements[79].page == 89;
          right += document.form().value().fields[0].widgets[0].page == 0;
          right += document.layers().value().initial.visible == std::vector<bool>{false};
          right += document.page(99 - round)->annotations().value().size() == 1;
        }
      });
  }
  CHECK(right == 4 * 3 * 4);
  CHECK(document.findings().empty());
}

TEST_CASE("without a tree there is no structure", "[document]") {
  CHECK(test::open(PdfBuilder().page("").finish())->structure().value().elements.empty());
  CHECK(test::open(tagged("/K[null 5 (x)]").finish())->structure().value().elements.empty());
}

// SPDX-License-Identifier: Apache-2.0
// lumvet inspect, as a person or a script runs it.
#include <functional>
#include <nlohmann/json.hpp>

#include "base/findings_list.h"
#include "lumvet/lumvet.h"
#include "tests/support/catch.h"
#include "tests/support/office.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/run_tool.h"

using namespace lumvet;
using Json = nlohmann::json;
using test::lay_out_office;
using test::PdfBuilder;
using test::Ran;
using test::run;
using test::TemporaryFolder;

namespace {

// Three pages, a title, and whatever else the catalog is given.
PdfBuilder three_pages(const std::string& catalog = "") {
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R" + catalog + ">>")
      .object(2, "<</Type/Pages/Kids[4 0 R 5 0 R 6 0 R]/Count 3/MediaBox[0 0 72 144]>>")
      .object(3, "<</Title(Day 12)>>");
  for (int i = 4; i < 7; ++i)
    pdf.object(i, "<</Type/Page/Parent 2 0 R/Contents 7 0 R/Annots[8 0 R]>>");
  return pdf.stream(7, "", "1 0 0 RG\n0 0 9 9 re S")
      .object(8, "<</Type/Annot/Subtype/Link/Rect[0 0 9 9]/Dest[5 0 R/Fit]>>");
}

void write(const TemporaryFolder& folder, PdfBuilder pdf) {
  test::write_file(folder / "a.pdf", pdf.finish("/Root 1 0 R/Info 3 0 R"));
}

Json facts(const TemporaryFolder& folder, const std::string& arguments) {
  return Json::parse(run(folder, "inspect a.pdf --json " + arguments).out);
}

}  // namespace

TEST_CASE("inspect tells a person and a program the same", "[tool]") {
  const TemporaryFolder folder;
  write(folder, three_pages());
  const Ran plain = run(folder, "inspect a.pdf");
  CHECK(plain.code == 0);
  CHECK_THAT(plain.out,
             Catch::Contains("Day 12") && Catch::Contains("25.4 × 50.8 mm (72 × 144 points)") &&
                 Catch::Contains("not linearized, not encrypted") && Catch::Contains("1.7") &&
                 Catch::Contains("3 pages, 25.4") && Catch::Contains("Annotations   3: 3 Link"));
  const Json json = facts(folder, "");
  CHECK(json["overview"]["page_count"] == 3);
  CHECK(json["properties"]["title"] == "Day 12");
  CHECK(json["overview"]["sizes"][0]["points"] == Json::array({72, 144}));
  CHECK(json["overview"]["linearized"] == false);
  CHECK(json["annotations"][2]["destination"]["page"] == 2);
  CHECK(json["protection"].is_null());
  const Ran piped = run(folder, "inspect - --json < a.pdf");
  CHECK(Json::parse(piped.out)["overview"]["page_count"] == 3);
  CHECK(Json::parse(run(folder, "inspect a.pdf a.pdf --json").out).size() == 2);
}

TEST_CASE("sections that a person chooses are told in full, and no others", "[tool]") {
  const TemporaryFolder folder;
  std::string outline = "/Outlines 20 0 R";
  PdfBuilder pdf = three_pages(outline + "/AcroForm<</Fields[30 0 R]>>/Lang(de)");
  pdf.object(20, "<</First 21 0 R>>").object(30, "<</T(bridge)/FT/Tx/V(Quarry)/Ff 2>>");
  for (int i = 21; i < 41; ++i)
    if (i != 30)
      pdf.object(i, "<</Title(Chapter " + std::to_string(i) + ")/Dest[6 0 R/Fit]/Next " +
                        std::to_string(i == 29 ? 31 : i + 1) + " 0 R>>");
  write(folder, pdf);
  const Ran chosen = run(folder, "inspect a.pdf --show outline,form");
  CHECK(chosen.code == 0);
  CHECK_THAT(chosen.out,
             Catch::Contains("Outline: 19") && Catch::Contains("Chapter 40  (page 3)") &&
                 Catch::Contains("bridge, text, required: Quarry") && !Catch::Contains("Day 12"));
  // Without a choice a long list is cut short, and says how to see the rest.
  CHECK_THAT(run(folder, "inspect a.pdf").out,
             Catch::Contains("--show outline") && !Catch::Contains("Chapter 40"));
  const Json some = facts(folder, "--show form --show pages");
  CHECK(some.size() == 3);
  CHECK(some["file"] == "a.pdf");
  CHECK(some["form"]["fields"][0]["values"][0] == "Quarry");
  CHECK(some["pages"][1]["object"] == "5 0");
  CHECK(facts(folder, "--show all") == facts(folder, ""));
  const Ran wrong = run(folder, "inspect a.pdf --show bolts");
  CHECK(wrong.code == 2);
  CHECK_THAT(wrong.err, Catch::Contains("there is no section 'bolts'"));
}

TEST_CASE("the shape of the JSON is the one that is documented", "[tool]") {
  const TemporaryFolder folder;
  lay_out_office(folder);
  std::filesystem::copy_file(folder / "demo" / "inspection.pdf", folder / "a.pdf");
  const std::string guide =
      test::read_file(std::filesystem::path(LUMVET_SOURCE_DIR) / "docs/inspect.md");
  const Json json = facts(folder, "");
  std::size_t checked = 0;
  // Every key that is told, of every section and of the first item of every list, is explained.
  const std::function<void(const Json&)> check = [&](const Json& value) {
    if (value.is_array() && !value.empty()) check(value[0]);
    if (!value.is_object()) return;
    for (const auto& [key, item] : value.items()) {
      CAPTURE(key);
      CHECK_THAT(guide, Catch::Contains("`" + key + "`"));
      ++checked;
      check(item);
    }
  };
  check(json);
  CHECK(checked > 150);
}

TEST_CASE("one object is shown with its place and its stream", "[tool]") {
  const TemporaryFolder folder;
  PdfBuilder pdf = three_pages();
  pdf.object(9,
             "<</Odd<00FF00FF>/Long[" + std::string(60, '1') + " " + std::string(60, '2') + "]>>");
  write(folder, pdf);
  const std::string offset = std::to_string(pdf.offset(7));
  const Ran stream = run(folder, "inspect a.pdf --object 7");
  CHECK(stream.code == 0);
  CHECK_THAT(stream.out, Catch::Contains("7 0 at " + offset) && Catch::Contains("/Length 21") &&
                             Catch::Contains("stream, 21 bytes\n  | 1 0 0 RG\n  | 0 0 9 9 re S\n"));
  CHECK_THAT(run(folder, "inspect a.pdf --object '9 0'").out, Catch::Contains("/Odd <00FF00FF>"));
  const Json json = facts(folder, "--object 7");
  CHECK(json["offset"] == pdf.offset(7));
  CHECK(json["stream"]["text"] == "1 0 0 RG\n0 0 9 9 re S");
  const Ran missing = run(folder, "inspect a.pdf --object 44");
  CHECK(missing.code == 1);
  CHECK_THAT(missing.err, Catch::Contains("there is no object 44 0"));
  for (const char* wrong : {"x", "0", "7 x", "-3", "7 0 R"})
    CHECK(run(folder, "inspect a.pdf --object '" + std::string(wrong) + "'").code == 2);
  CHECK(run(folder, "inspect a.pdf --object 7 --tree").code == 2);
}

TEST_CASE("the structure is a tree with every object once", "[tool]") {
  const TemporaryFolder folder;
  PdfBuilder pdf = three_pages("/Outlines 20 0 R");
  pdf.object(20, "<</First 21 0 R>>").object(21, "<</Title(To)/Dest[5 0 R/Fit]/Prev 21 0 R>>");
  pdf.object(9, "(forgotten)");
  write(folder, pdf);
  const Ran ran = run(folder, "inspect a.pdf --tree");
  CHECK(ran.code == 0);
  for (int i = 1; i < 10; ++i) {
    CAPTURE(i);
    const std::string shown = "→ " + std::to_string(i) + " 0";
    const std::string place = " at " + std::to_string(pdf.offset(i));
    const std::size_t first = ran.out.find(place);
    REQUIRE(first != std::string::npos);
    CHECK(ran.out.find(place + "\n", first + 1) == std::string::npos);
  }
  CHECK_THAT(ran.out, Catch::Contains("→ 5 0, page 2\n") &&  // from the outline
                          Catch::Contains("→ 5 0, page 2 at ") &&
                          Catch::Contains("→ 21 0, shown above") && Catch::Contains("| 1 0 0 RG") &&
                          Catch::Contains("does not lead to") && Catch::Contains("(forgotten)"));
  const Json json = facts(folder, "--tree");
  CHECK(json["objects"].size() == 11);
  CHECK(json["objects"][6]["stream"]["decoded_bytes"] == 21);
}

TEST_CASE("a tree of endless depth is printed without harm", "[tool]") {
  const TemporaryFolder folder;
  PdfBuilder pdf = three_pages("/Outlines 1000 0 R");
  for (int i = 1000; i < 9000; ++i) pdf.object(i, "<</First " + std::to_string(i + 1) + " 0 R>>");
  pdf.object(9000, "<</First 1000 0 R>>");
  write(folder, pdf);
  CHECK(run(folder, "inspect a.pdf --tree").code == 0);
}

TEST_CASE("of a long outline inspect counts the first entries, and says so", "[tool]") {
  const TemporaryFolder folder;
  const auto told = [&](int entries) {
    PdfBuilder pdf;
    pdf.object(1, "<</Type/Catalog/Pages 2 0 R/Outlines 4 0 R>>")
        .object(2, "<</Type/Pages/Kids[3 0 R]/Count 1>>")
        .object(3, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 100 100]>>")
        .object(4, "<</First 5 0 R/Last " + std::to_string(entries + 4) + " 0 R>>");
    for (int i = 5; i < entries + 5; ++i)
      pdf.object(i, "<</Title(a)/Parent 4 0 R" +
                        (i < entries + 4 ? "/Next " + std::to_string(i + 1) + " 0 R>>" : ">>"));
    test::write_file(folder / "a.pdf", pdf.finish());
    return run(folder, "inspect a.pdf").out;
  };
  CHECK_THAT(told(5000), Catch::Contains("5000 entries") && !Catch::Contains("more than"));
  CHECK_THAT(told(5001), Catch::Contains("more than 5000 entries"));
}

TEST_CASE("of a long document inspect looks at the first pages, and says so", "[tool]") {
  const TemporaryFolder folder;
  const auto told = [&](int pages) {
    PdfBuilder pdf;
    pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
    std::string kids;
    for (int i = 0; i < pages; ++i) {
      kids += std::to_string(i + 10) + " 0 R ";
      const bool is_last = i == pages - 1;
      pdf.object(i + 10, "<</Type/Page/Parent 2 0 R/Resources<</Font<</F " +
                             std::string(is_last ? "4" : "3") + " 0 R>>>>/Annots[<</Subtype/" +
                             (is_last ? "Stamp" : "Text") + "/Rect[0 0 9 9]>>]>>");
    }
    pdf.object(2, "<</Type/Pages/MediaBox[0 0 100 100]/Count " + std::to_string(pages) + "/Kids[" +
                      kids + "]>>");
    pdf.object(3, "<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>");
    pdf.object(4, "<</Type/Font/Subtype/Type1/BaseFont/Courier>>");
    test::write_file(folder / "a.pdf", pdf.finish());
    return run(folder, "inspect a.pdf").out;
  };
  const std::string all = told(32);
  CHECK_THAT(
      all, Catch::Contains("31 Text") && Catch::Contains("1 Stamp") && Catch::Contains("Courier"));
  CHECK_THAT(all, !Catch::Contains("Looked at"));
  const std::string first = told(33);
  CHECK_THAT(first, Catch::Contains("33 pages") && Catch::Contains("32 Text"));
  CHECK_THAT(first, !Catch::Contains("Stamp") && !Catch::Contains("Courier"));
  CHECK_THAT(first, Catch::Contains("Looked at     the first 32 pages; --show annotations,"));
  CHECK_THAT(run(folder, "inspect a.pdf --show fonts").out, Catch::Contains("Courier"));
  CHECK(facts(folder, "")["annotations"].size() == 33);
}

TEST_CASE("inspect notes what there is to note, and fails only when asked to be strict", "[tool]") {
  const TemporaryFolder folder;
  PdfBuilder pdf = three_pages();
  std::string bytes = pdf.finish("/Root 1 0 R/Info 3 0 R");
  const std::size_t box = bytes.find("/MediaBox[0 0 72 144]");
  bytes.replace(box, 21, "/MediaBox[0 0 00 000]");
  test::write_file(folder / "a.pdf", bytes);
  const Ran ran = run(folder, "inspect a.pdf");
  CHECK(ran.code == 0);
  CHECK_THAT(ran.err, Catch::Contains("note: page 1 has no usable media box"));
  CHECK(run(folder, "inspect a.pdf --strict").code == 1);
  const Ran chosen = run(folder, "inspect a.pdf --show overview,findings");
  CHECK(chosen.code == 0);
  CHECK_THAT(chosen.out, Catch::Contains("Findings: 3"));
  const Json json = facts(folder, "");
  CHECK(json["findings"][0]["object"] == "4 0");
}

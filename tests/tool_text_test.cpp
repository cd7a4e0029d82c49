// SPDX-License-Identifier: Apache-2.0
// What the real tool reads and finds.
#include <nlohmann/json.hpp>

#include "tests/support/catch.h"
#include "tests/support/office.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/run_tool.h"

using Json = nlohmann::json;
using test::lay_out_office;
using test::Ran;
using test::run;
using test::TemporaryFolder;

namespace {

const std::string kProducers = std::string("'") + LUMVET_SOURCE_DIR + "/demo/producers/";

}  // namespace

TEST_CASE("text prints what pages say, for people and for programs", "[tool]") {
  const TemporaryFolder folder;
  lay_out_office(folder);
  const Ran plain = run(folder, "text demo/report.pdf --pages 2,3");
  CHECK(plain.code == 0);
  CHECK(std::count(plain.out.begin(), plain.out.end(), '\f') == 1);
  CHECK_THAT(plain.out, Catch::Contains("Quarry suspension bridge\t8\n"));
  CHECK_THAT(plain.out, Catch::Contains("Six footbridges over the Ostrel"));
  CHECK_THAT(run(folder, "text demo/report.pdf --pages 2 --keep-layout").out,
             Catch::Contains("   Quarry suspension bridge           "));
  CHECK_THAT(run(folder, "text demo/report.pdf --pages 3 --join-lines").out,
             Catch::Contains("inspected on one day. Two are in very good condition"));
  const Json told = Json::parse(run(folder, "text " + kProducers + "tariff.pdf' --json").out);
  CHECK(told["pages"][0]["blocks"][0]["lines"][0]["words"][0]["text"] == "Tolls");
  CHECK(told["pages"][0]["blocks"][0]["lines"][0]["words"][0]["box"].size() == 4);
  CHECK(told["without_text"].empty());
  CHECK(run(folder, "text " + kProducers + "tariff.pdf' --csv").out ==
        "Who,Crowns\r\nGrown-up,2.00\r\n\"Child, up to 12\",0.50\r\nCow or horse,3.50\r\n"
        "Handcart,1.00\r\n");
  const Ran html = run(folder, "text " + kProducers + "tariff.pdf' --html -o t.html");
  CHECK(html.code == 0);
  CHECK_THAT(test::read_file(folder / "t.html"), Catch::Contains("<td>Cow or horse</td>"));
  CHECK(run(folder, "text " + kProducers + "tariff.pdf' --html -o t.html").code == 1);
  CHECK(run(folder, "text demo/report.pdf --json --csv").code == 2);
}

TEST_CASE("text follows the tags where that is asked for", "[tool]") {
  const TemporaryFolder folder;
  lay_out_office(folder);
  const Json told = Json::parse(run(folder, "text demo/inspection.pdf --by-tags --json").out);
  REQUIRE(told["tags"].size() > 5);
  CHECK(told["tags"][0]["role"] == "H1");
  CHECK(told["tags"][0]["page"] == 1);
  const std::string title = told["tags"][0]["text"];
  CHECK_THAT(run(folder, "text demo/inspection.pdf --by-tags").out,
             Catch::StartsWith(title + "\n\n"));
  const Ran untagged = run(folder, "text " + kProducers + "notice.pdf' --by-tags");
  CHECK(untagged.code == 1);
  CHECK_THAT(untagged.err, Catch::Contains("without --by-tags"));
}

TEST_CASE("text says which pages have none", "[tool]") {
  const TemporaryFolder folder;
  test::PdfBuilder pdf;
  pdf.page("0 0 10 10 re f");
  test::write_file(folder / "scan.pdf", pdf.finish());
  const Ran ran = run(folder, "text scan.pdf");
  CHECK(ran.code == 0);
  CHECK_THAT(ran.err, Catch::Contains("no text on page 1"));
  CHECK(Json::parse(run(folder, "text scan.pdf --json").out)["without_text"] == Json::array({1}));
}

TEST_CASE("find tells where something is, and by its exit code whether", "[tool]") {
  const TemporaryFolder folder;
  lay_out_office(folder);
  const Ran found = run(folder, "find 'QUARRY suspension' demo/report.pdf");
  CHECK(found.code == 0);
  CHECK_THAT(found.out, Catch::StartsWith("demo/report.pdf, page 2: "));
  CHECK_THAT(found.out, Catch::Contains("page 3: "));
  CHECK_THAT(found.out, !Catch::Contains("\x1B"));
  const Ran nothing = run(folder, "find 'submarine' demo/report.pdf");
  CHECK(nothing.code == 1);
  CHECK(nothing.out.empty());
  CHECK(run(folder, "find 'QUARRY suspension' demo/report.pdf --match-case").code == 1);
  CHECK(run(folder, "find 'quar' demo/report.pdf --whole-words").code == 1);
  CHECK(run(folder, "find '' demo/report.pdf").code == 2);
  CHECK(run(folder, "find '(a' demo/report.pdf --pattern").code == 2);
  std::istringstream lines(run(folder, "find 'October 2026' demo --json").out);
  std::string line;
  std::size_t hits = 0;
  while (std::getline(lines, line)) {
    const Json hit = Json::parse(line);
    CHECK(hit["hit"] == "October 2026");
    CHECK(hit["quads"].size() >= 1);
    CHECK(hit["quads"][0].size() == 4);
    ++hits;
  }
  CHECK(hits > 1);
}

TEST_CASE("what fields and marks show is found, and is read when it is asked for", "[tool]") {
  const TemporaryFolder folder;
  lay_out_office(folder);
  REQUIRE(
      run(folder, "fill demo/inspection.pdf --set 'inspector=Ilse Marren' -o filled.pdf").code ==
      0);
  CHECK_THAT(run(folder, "find 'ilse marren' filled.pdf").out,
             Catch::StartsWith("filled.pdf, page 1: "));
  CHECK(run(folder, "find 'ilse marren' filled.pdf --without annotations").code == 1);
  CHECK_THAT(run(folder, "text filled.pdf").out, !Catch::Contains("Ilse Marren"));
  CHECK_THAT(run(folder, "text filled.pdf --annotations").out, Catch::Contains("Ilse Marren"));
  const Json told = Json::parse(run(folder, "text filled.pdf --annotations --json").out);
  CHECK(told["pages"][0]["blocks"].back()["annotations"] == true);
  CHECK_FALSE(told["pages"][0]["blocks"].front().contains("annotations"));
}

TEST_CASE("inspect tells which fonts cannot be read", "[tool]") {
  const TemporaryFolder folder;
  test::PdfBuilder pdf;
  pdf.page("BT /F 9 Tf 9 50 Td (ABB) Tj ET",
           "/MediaBox[0 0 100 100]/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont/Courier"
           "/Encoding<</Differences[66/nothing.known]>>>>>>>>");
  test::write_file(folder / "a.pdf", pdf.finish());
  CHECK_THAT(run(folder, "inspect a.pdf --show fonts").out,
             Catch::Contains("1 of its 3 characters can be read as text"));
  const Json told = Json::parse(run(folder, "inspect a.pdf --show fonts --json").out);
  CHECK(told["fonts"][0]["unknown"] == 2);
}

TEST_CASE("on a terminal what is found is marked", "[tool]") {
  const TemporaryFolder folder;
  test::PdfBuilder pdf;
  pdf.page("BT /F 9 Tf 9 50 Td (a swing bridge) Tj ET",
           "/MediaBox[0 0 100 100]/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont/Courier"
           ">>>>>>");
  test::write_file(folder / "a.pdf", pdf.finish());
  const std::string command = std::string("'") + LUMVET_TOOL + "' find swing a.pdf";
  CHECK_THAT(run(folder, "-qec \"" + command + "\" /dev/null", "script").out,
             Catch::Contains("a \x1B[1;7mswing\x1B[0m bridge"));
  const Ran drawn = run(folder, "find swing a.pdf --pictures found");
  CHECK(drawn.code == 0);
  CHECK(std::filesystem::exists(folder / "found/a-1.png"));
}

TEST_CASE("what cannot be read is told, and the rest is looked through", "[tool]") {
  const TemporaryFolder folder;
  test::PdfBuilder pdf;
  pdf.page("BT /F 9 Tf 9 50 Td (a swing bridge) Tj ET",
           "/MediaBox[0 0 100 100]/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont/Courier"
           ">>>>>>");
  std::filesystem::create_directory(folder / "all");
  test::write_file(folder / "all/good.pdf", pdf.finish());
  test::write_file(folder / "all/bad.pdf", "%PDF-1.7\nnothing");
  CHECK(run(folder, "find submarine all").code == 1);
  const Ran ran = run(folder, "find swing all");
  CHECK(ran.code == 0);
  CHECK_THAT(ran.out, Catch::Contains("good.pdf, page 1: a swing bridge"));
  CHECK_THAT(ran.err, Catch::Contains("bad.pdf"));
}

TEST_CASE("text leaves running heads out, writes abbreviations out and tells how words look",
          "[tool]") {
  const TemporaryFolder folder;
  lay_out_office(folder);
  const std::string with = run(folder, "text demo/report.pdf --pages 3-5").out;
  const std::string without =
      run(folder, "text demo/report.pdf --pages 3-5 --without-running-heads").out;
  CHECK_THAT(with, Catch::Contains("Ostrel Valley bridge office\tSummary"));
  CHECK_THAT(without, !Catch::Contains("Ostrel Valley bridge office\t"));
  CHECK_THAT(without, Catch::StartsWith("Summary\n"));
  const Json told =
      Json::parse(run(folder, "text " + kProducers + "tariff.pdf' --json").out)["pages"][0];
  const Json& word = told["blocks"][0]["lines"][0]["words"][0];
  const Json& style = told["styles"][word["style"].get<std::size_t>()];
  CHECK(style["bold"] == true);
  CHECK(style["color"].size() == 3);
  CHECK_FALSE(word.contains("hidden"));

  test::PdfBuilder pdf;
  pdf.page(
      "BT /F 10 Tf 1 g 10 50 Td /S<</E(Saint)>>BDC (St) Tj EMC ( Orrin) Tj ET",
      "/MediaBox[0 0 100 100]/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont/Helvetica"
      ">>>>>>");
  test::write_file(folder / "saint.pdf", pdf.finish());
  CHECK(run(folder, "text saint.pdf").out == "St Orrin\n");
  CHECK(run(folder, "text saint.pdf --expand").out == "Saint Orrin\n");
  const Json white = Json::parse(run(folder, "text saint.pdf --json").out)["pages"][0];
  CHECK(white["blocks"][0]["lines"][0]["words"][0]["hidden"] == "as_ground");
}

TEST_CASE("HTML of a page has its pictures in it", "[tool]") {
  const TemporaryFolder folder;
  lay_out_office(folder);
  const std::string html = run(folder, "text demo/report.pdf --pages 5 --html").out;
  const std::size_t picture = html.find("<img src=\"data:image/jpeg;base64,");
  REQUIRE(picture != std::string::npos);
  CHECK(html.find("Grade 2") < picture);
  CHECK(picture < html.find("View from downstream"));
}

TEST_CASE("the images that pages show are written as they are stored", "[tool]") {
  const TemporaryFolder folder;
  lay_out_office(folder);
  const Ran ran = run(folder, "render demo/report.pdf --pages 5,6 --stored-images -o kept --json");
  CHECK(ran.code == 0);
  const Json told = Json::parse(ran.out);
  REQUIRE(told["images"].size() == 2);
  CHECK(told["images"][0]["file"] == "kept/report-5-1.jpg");
  CHECK(told["images"][0]["quad"].size() == 4);
  CHECK_THAT(test::read_file(folder / "kept/report-5-1.jpg"), Catch::StartsWith("\xFF\xD8\xFF"));
  // The file lies in the document byte for byte.
  CHECK(test::read_file(folder / "demo/report.pdf")
            .find(test::read_file(folder / "kept/report-5-1.jpg")) != std::string::npos);
  CHECK(run(folder, "render demo/report.pdf --pages 5 --stored-images -o kept").code == 1);
  CHECK(run(folder, "render demo/report.pdf --pages 5 --stored-images -o kept --replace").code ==
        0);
  CHECK_THAT(run(folder, "render demo/report.pdf --pages 3 --stored-images -o kept").out,
             Catch::Contains("no images"));
}

TEST_CASE("what goes on onto the next page is one hit, marked on both", "[tool]") {
  const TemporaryFolder folder;
  test::PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  pdf.object(2,
             "<</Type/Pages/Kids[3 0 R 5 0 R]/Count 2/MediaBox[0 0 300 200]/Resources<</Font<</F"
             "<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>>>>>>>");
  pdf.object(3, "<</Type/Page/Parent 2 0 R/Contents 4 0 R>>");
  pdf.stream(4, "", "BT /F 10 Tf 20 100 Td (Paint the old swing) Tj ET");
  pdf.object(5, "<</Type/Page/Parent 2 0 R/Contents 6 0 R>>");
  pdf.stream(6, "", "BT /F 10 Tf 20 120 Td (bridge in a dry May.) Tj ET");
  test::write_file(folder / "a.pdf", pdf.finish());
  const Ran found = run(folder, "find 'swing bridge' a.pdf --pictures hits");
  CHECK(found.code == 0);
  CHECK(found.out == "a.pdf, pages 1 and 2: Paint the old swing bridge in a dry May.\n");
  CHECK(std::filesystem::exists(folder / "hits/a-1.png"));
  CHECK(std::filesystem::exists(folder / "hits/a-2.png"));
  const Json hit = Json::parse(run(folder, "find 'swing bridge' a.pdf --json").out);
  CHECK(hit["page"] == 1);
  CHECK(hit["hit"] == "swing bridge");
  CHECK(hit["quads"].size() == 1);
  CHECK(hit["next"]["page"] == 2);
  CHECK(hit["next"]["quads"].size() == 1);
}

TEST_CASE("pictures of hits in documents of one name do not take each other's place", "[tool]") {
  const TemporaryFolder folder;
  test::PdfBuilder pdf;
  pdf.page("BT /F 10 Tf 10 50 Td (rust) Tj ET",
           "/MediaBox[0 0 100 100]/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont"
           "/Helvetica>>>>>>");
  std::filesystem::create_directories(folder / "a");
  std::filesystem::create_directories(folder / "b");
  const std::string bytes = pdf.finish();
  test::write_file(folder / "a/day.pdf", bytes);
  test::write_file(folder / "b/day.pdf", bytes);
  CHECK(run(folder, "find rust a/day.pdf b/day.pdf --pictures hits").code == 0);
  CHECK(std::filesystem::exists(folder / "hits/day-1.png"));
  CHECK(std::filesystem::exists(folder / "hits/day (2)-1.png"));
}

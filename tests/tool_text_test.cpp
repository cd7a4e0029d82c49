// SPDX-License-Identifier: Apache-2.0
// What the real tool reads and finds.
#include <nlohmann/json.hpp>

#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/run_tool.h"

using Json = nlohmann::json;
using test::Ran;
using test::run;
using test::TemporaryFolder;

namespace {

const std::string kProducers = std::string("'") + LUMVET_SOURCE_DIR + "/demo/producers/";

}  // namespace

TEST_CASE("text prints what pages say, for people and for programs", "[tool]") {
  const TemporaryFolder folder;
  REQUIRE(run(folder, "demo", LUMVET_MAKE_DEMO).code == 0);
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
  REQUIRE(run(folder, "demo", LUMVET_MAKE_DEMO).code == 0);
  const Json told = Json::parse(run(folder, "text demo/inspection.pdf --by-tags --json").out);
  REQUIRE(told["tags"].size() > 5);
  CHECK(told["tags"][0]["role"] == "Title");
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
  REQUIRE(run(folder, "demo", LUMVET_MAKE_DEMO).code == 0);
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

// SPDX-License-Identifier: Apache-2.0
// What the real tool sets out of briefs and texts.
#include <nlohmann/json.hpp>

#include "lumvet/document/document.h"
#include "tests/support/catch.h"
#include "tests/support/run_tool.h"

using Json = nlohmann::json;
using test::Ran;
using test::run;
using test::TemporaryFolder;

namespace {

const std::string kBriefs = std::string("'") + LUMVET_SOURCE_DIR + "/demo/briefs/";

}  // namespace

TEST_CASE("compose sets a brief with its data, and draws a preview", "[tool]") {
  const TemporaryFolder folder;
  const Ran made = run(folder, "compose " + kBriefs + "costs.json' --data " + kBriefs +
                                   "costs-data.json' -o costs.pdf --preview costs.png --json");
  CHECK(made.code == 0);
  const Json told = Json::parse(made.out);
  CHECK(told["file"] == "costs.pdf");
  CHECK(told["pages"] == 4);
  CHECK(told["findings"].empty());
  CHECK(test::read_file(folder / "costs.png").substr(1, 3) == "PNG");
  const auto document = lumvet::Document::open(folder / "costs.pdf").value();
  CHECK(document.page_count() == 4);
  CHECK(document.findings().empty());
  // Nothing is replaced, and the same brief gives the same bytes.
  const Ran again = run(folder, "compose " + kBriefs + "costs.json' --data " + kBriefs +
                                    "costs-data.json' -o costs.pdf");
  CHECK(again.code == 1);
  CHECK_THAT(again.err, Catch::Contains("already there"));
  CHECK(run(folder, "compose " + kBriefs + "costs.json' --data " + kBriefs +
                        "costs-data.json' -o other.pdf --preview costs.png")
            .code == 1);
  CHECK_FALSE(std::filesystem::exists(folder / "other.pdf"));
  CHECK(run(folder, "compose " + kBriefs + "costs.json' --data " + kBriefs +
                        "costs-data.json' -o other.pdf --preview costs.png --replace")
            .code == 0);
  CHECK(test::read_file(folder / "costs.pdf") == test::read_file(folder / "other.pdf"));
  const Ran piped =
      run(folder, "compose " + kBriefs + "letter.md' --style " + kBriefs + "office.json' -o -");
  CHECK(piped.code == 0);
  CHECK(piped.out.starts_with("%PDF-"));
}

TEST_CASE("compose takes rows of CSV, and tells what is wrong where", "[tool]") {
  const TemporaryFolder folder;
  test::write_file(folder / "bill.json",
                   R"({"blocks": [{"table": {"each": "rows", "row": ["{what}", "{crowns}"]}},
                      {"chart": {"series": [{"values": {"each": "rows", "value": "{crowns}"}}]}}]})");
  test::write_file(folder / "rows.csv", "what,crowns\nLamps,900\nDivers,none yet\n");
  const Ran made = run(folder, "compose bill.json --data rows.csv -o bill.pdf");
  CHECK(made.code == 0);
  CHECK_THAT(made.err, Catch::Contains("no number"));
  CHECK(run(folder, "text bill.pdf").out.find("Divers\tnone yet") != std::string::npos);
  const Ran strict = run(folder, "compose bill.json --data rows.csv -o strict.pdf --strict");
  CHECK(strict.code == 1);
  CHECK_FALSE(std::filesystem::exists(folder / "strict.pdf"));
  test::write_file(folder / "wrong.json", "{\"blocks\": [\n {\"paragraf\": \"x\"}]}");
  const Ran wrong = run(folder, "compose wrong.json -o wrong.pdf");
  CHECK(wrong.code == 1);
  CHECK_THAT(wrong.err, Catch::Contains("wrong.json") && Catch::Contains("line 2") &&
                            Catch::Contains("'paragraph'"));
  CHECK_FALSE(std::filesystem::exists(folder / "wrong.pdf"));
  CHECK(run(folder, "compose none.json -o none.pdf").code == 1);
  CHECK(run(folder, "compose bill.json").code == 2);
  CHECK(run(folder, "compose bill.json --style wrong.json -o x.pdf").code != 0);
  CHECK(Json::parse(run(folder, "compose --schema").out)["type"] == "object");
}

// SPDX-License-Identifier: Apache-2.0
// lumvet redact: text and areas taken out, with the proof printed.
#include <fstream>

#include "tests/support/catch.h"
#include "tests/support/office.h"
#include "tests/support/redacted.h"
#include "tests/support/run_tool.h"

using namespace lumvet;
using Catch::Contains;
using test::office;
using test::run;

TEST_CASE("text is taken out of pages and properties, and the proof says so", "[tool]") {
  const test::TemporaryFolder folder;
  std::filesystem::copy_file(office("report.pdf"), folder / "report.pdf");
  const auto kept = run(folder, "redact report.pdf --text 'Alder Weir' -o public.pdf");
  CHECK(kept.code == 1);
  CHECK_THAT(kept.err, Contains("an attached file has words that were searched for") &&
                           Contains("the proof does not hold"));
  CHECK_FALSE(std::filesystem::exists(folder / "public.pdf"));
  CHECK_THAT(kept.out, !Contains("public.pdf"));

  const auto done = run(folder,
                        "redact report.pdf --text 'Alder Weir' --overlay withheld --no-attachments "
                        "-o public.pdf");
  CAPTURE(done.err);
  CHECK(done.code == 0);
  CHECK_THAT(done.out, Contains("places redacted: ") &&
                           Contains("proof: nothing of it is left in the text of 16 pages"));
  const std::string bytes = test::read_file(folder / "public.pdf");
  CHECK_FALSE(test::says(bytes, "Alder Weir"));
  CHECK(run(folder, "find 'Alder Weir' public.pdf").code == 1);
  CHECK(run(folder, "find 'withheld' public.pdf").code == 0);
}

TEST_CASE("what is locked stays locked as it was, and is proved all the same", "[tool]") {
  const test::TemporaryFolder folder;
  std::ofstream(folder / "word.txt") << "owl-1\n";
  const std::string word = " --password-file word.txt";
  CHECK(run(folder, "protect '" + office("annex.pdf").string() +
                        "' -o locked.pdf --user-password-file word.txt")
            .code == 0);
  const auto done = run(folder, "redact locked.pdf --text valley -o public.pdf" + word);
  CAPTURE(done.err);
  REQUIRE(done.code == 0);
  CHECK_THAT(done.out, Contains("proof: nothing of it is left"));
  CHECK(run(folder, "inspect public.pdf").code != 0);
  CHECK(run(folder, "find valley public.pdf" + word).code == 1);
}

TEST_CASE("areas, patterns and marks are taken out", "[tool]") {
  const test::TemporaryFolder folder;
  std::filesystem::copy_file(office("annex.pdf"), folder / "annex.pdf");
  const auto area =
      run(folder, "redact annex.pdf --area 1:200,200,300,200 --fill none -o area.pdf");
  CHECK(area.code == 0);
  CHECK_THAT(area.out, Contains("1 place redacted: 0 letters, 15 paths"));
  const auto json = run(folder, "redact annex.pdf --pattern 'Q-[0-9]+' --json -o pattern.pdf");
  CHECK(json.code == 0);
  CHECK_THAT(json.out, Contains("\"holds\": true"));
  CHECK(run(folder, "find --pattern 'Q-[0-9]+' pattern.pdf").code == 1);
  // Options take one value each time, brackets and all.
  CHECK(run(folder, "redact --text Section --text Elevation --pattern '[Q]' annex.pdf -o more.pdf")
            .code == 0);
  CHECK(run(folder, "find Section more.pdf").code == 1);
  CHECK(run(folder, "find Q more.pdf").code == 1);
  CHECK(run(folder, "annotate annex.pdf --highlight Section --as redaction -o marked.pdf").code ==
        0);
  CHECK(run(folder, "redact marked.pdf --marked -o applied.pdf").code == 0);
  CHECK(run(folder, "find Section applied.pdf").code == 1);
}

TEST_CASE("redactions that make no sense are refused in words, and nothing is written", "[tool]") {
  const test::TemporaryFolder folder;
  std::filesystem::copy_file(office("annex.pdf"), folder / "annex.pdf");
  const auto refused = [&](const std::string& arguments, const std::string& why) {
    const auto done = run(folder, "redact annex.pdf " + arguments);
    CAPTURE(arguments, done.err);
    CHECK(done.code == 2);
    CHECK_THAT(done.err, Contains(why));
    CHECK_FALSE(std::filesystem::exists(folder / "a.pdf"));
  };
  refused("-o a.pdf", "nothing is said of what to redact");
  refused("--text 'no such words' -o a.pdf", "neither on the pages nor said elsewhere");
  refused("--area 9:1,1,10,10 -o a.pdf", "page 9");
  refused("--area 1:1,1,10 -o a.pdf", "PAGE:left,top,width,height");
  refused("--area 1:1,1,10,-4 -o a.pdf", "PAGE:left,top,width,height");
  refused("--area x -o a.pdf", "PAGE:left,top,width,height");
  refused("--marked -o a.pdf", "no redaction mark");
  refused("--pattern '[' -o a.pdf", "is not a regular expression");
  refused("--text Section -o annex.pdf", "is the input");
  refused("--text Section --json -o -", "not both");
  CHECK(run(folder, "redact annex.pdf --text Section -o - >piped.pdf").code == 0);
  CHECK(run(folder, "find Section piped.pdf").code == 1);
}

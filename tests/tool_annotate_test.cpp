// SPDX-License-Identifier: Apache-2.0
// lumvet annotate: marks listed, added, removed and drawn into the pages.
#include <fstream>

#include "lumvet/document/document.h"
#include "lumvet/text/page_words.h"
#include "tests/support/blank.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/run_tool.h"

using namespace lumvet;
using Catch::Contains;
using test::run;
using test::TemporaryFolder;

namespace {

void write(const TemporaryFolder& folder, const std::string& name, const std::string& bytes) {
  std::ofstream(folder / name) << bytes;
}

std::string page_of_words() {
  test::PdfBuilder pdf;
  pdf.page("BT /F 12 Tf 20 150 Td (one crack, two cracks) Tj ET",
           "/MediaBox[0 0 200 "
           "200]/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>>>>>");
  return pdf.finish();
}

const char* kList = R"([
  {"page": 1, "kind": "circle", "name": "a", "area": [20, 20, 50, 40], "author": "Ilse Marren",
   "created": "2026-10-14 09:40", "contents": "A crack?"},
  {"page": 1, "kind": "note", "area": [80, 20, 20, 20], "reply_to": "a", "author": "Tobin Achterhuis",
   "contents": "4 mm wide"},
  {"page": 3, "kind": "note", "area": [80, 20, 20, 20]}])";

}  // namespace

TEST_CASE("marks of a list are added, listed with their answers, and exported", "[tool]") {
  const TemporaryFolder folder;
  write(folder, "page.pdf", page_of_words());
  write(folder, "marks.json", kList);
  const auto added = run(folder, "annotate page.pdf --add marks.json -o marked.pdf");
  CAPTURE(added.err);
  CHECK(added.code == 0);
  CHECK_THAT(added.out, Contains("added 2 annotations"));
  CHECK_THAT(added.err, Contains("mark 3 is of page 3, a page that the document does not have"));
  const auto listed = run(folder, "annotate marked.pdf --list");
  CHECK(listed.out ==
        "  page 1  circle  Ilse Marren, 2026-10-14 09:40: A crack?\n"
        "    Tobin Achterhuis: 4 mm wide\n"
        "2 marks\n");
  CHECK_THAT(run(folder, "annotate marked.pdf --csv").out,
             Contains("1,circle,Ilse Marren,2026-10-14 09:40:00,,A crack?\r\n"));
  CHECK(run(folder, "annotate marked.pdf --export again.json").code == 0);
  CHECK(test::read_file(folder / "again.json") == run(folder, "annotate marked.pdf --json").out);
  CHECK(run(folder, "annotate marked.pdf --export again.json").code == 1);  // it is there
  CHECK(run(folder, "annotate page.pdf --add again.json -o twice.pdf").code == 0);
  CHECK(run(folder, "annotate twice.pdf --json").out == test::read_file(folder / "again.json"));
}

TEST_CASE("text is marked wherever it is found", "[tool]") {
  const TemporaryFolder folder;
  write(folder, "page.pdf", page_of_words());
  CHECK(run(folder, "annotate page.pdf --highlight 'crack' --author Ilse --contents look -o a.pdf")
            .code == 0);
  CHECK_THAT(run(folder, "annotate a.pdf").out,
             Contains("highlight  Ilse: look") && Contains("2 marks"));
  CHECK(run(folder,
            "annotate page.pdf --highlight 'cracks?' --pattern --as underline -o b.pdf --append")
            .code == 0);
  const auto marks = Document::open(folder / "b.pdf")->page(0)->annotations().value();
  REQUIRE(marks.size() == 2);
  CHECK(marks[0].kind == Annotation::Kind::underline);
  CHECK(marks[0].rect.bottom > 140);
  CHECK(marks[0].rect.top < 170);
  CHECK(test::read_file(folder / "b.pdf").starts_with(page_of_words()));
  const auto none = run(folder, "annotate page.pdf --highlight bridge -o c.pdf");
  CHECK(none.code != 0);
  CHECK_THAT(none.err, Contains("'bridge' is not found"));
}

TEST_CASE("marks are removed by kind, and flattened", "[tool]") {
  const TemporaryFolder folder;
  write(folder, "page.pdf", page_of_words());
  write(folder, "marks.json", kList);
  REQUIRE(run(folder, "annotate page.pdf --add marks.json -o marked.pdf").code == 0);
  CHECK_THAT(run(folder, "annotate marked.pdf --remove circle -o bare.pdf").out,
             Contains("removed 2 annotations"));
  CHECK_THAT(run(folder, "annotate bare.pdf").out, Contains("0 marks"));
  CHECK(run(folder, "annotate marked.pdf --flatten --only circle -o flat.pdf").code == 0);
  CHECK(Document::open(folder / "flat.pdf")->page(0)->annotations()->empty());
  for (const auto& [arguments, why] :
       {std::pair{"annotate marked.pdf --remove circl -o x.pdf", "did you mean circle?"},
        {"annotate marked.pdf --remove stamp -o x.pdf", "no such mark"},
        {"annotate marked.pdf --flatten", "-o is missing"},
        {"annotate marked.pdf --list --flatten -o x.pdf", "not both at once"},
        {"annotate marked.pdf --json --only inc", "did you mean ink?"},
        {"annotate marked.pdf --export marks.txt", ".json, .csv, .xfdf or .fdf"},
        {"annotate marked.pdf --add marked.pdf -o x.pdf", "no JSON"},
        {"annotate marked.pdf --highlight crack --as stamp -o x.pdf", "strike-out"}}) {
    CAPTURE(arguments);
    const auto ran = run(folder, arguments);
    CHECK(ran.code != 0);
    CHECK_THAT(ran.err, Contains(why));
  }
  CHECK_FALSE(std::filesystem::exists(folder / "x.pdf"));
}

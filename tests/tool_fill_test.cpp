// SPDX-License-Identifier: Apache-2.0
// lumvet fill: fields listed, filled in, exported, one document for every row.
#include <fstream>

#include "lumvet/forms/filling.h"
#include "tests/support/catch.h"
#include "tests/support/inspection_form.h"
#include "tests/support/run_tool.h"

using namespace lumvet;
using Catch::Contains;
using test::run;
using test::TemporaryFolder;

namespace {

void write_form(const TemporaryFolder& folder) {
  EditableDocument::of(test::inspection_form()).save(folder / "form.pdf").value();
}

std::string value(const std::filesystem::path& file, const std::string& name) {
  const Form form = Document::open(file)->form().value();
  for (const FormField& field : form.fields)
    if (field.name == name) return exported_values(field).front();
  return "no such field";
}

}  // namespace

TEST_CASE("fields are listed with what they hold and take", "[tool]") {
  const TemporaryFolder folder;
  write_form(folder);
  const auto listed = run(folder, "fill form.pdf --list");
  CHECK(listed.code == 0);
  CHECK_THAT(
      listed.out,
      Contains("  bridge     text         Alder Weir\n") &&
          Contains("  day        text         \n") && Contains("required, as dd.mm.yyyy\n") &&
          Contains("of dry, rain (Light rain), snow\n") && Contains("of one, two, three\n") &&
          Contains("read-only, as 1,234.50 mm, sum of gap.left, gap.right\n") &&
          Contains("as 1,234.50 mm, from 0 up to 5000\n") && Contains("14 fields\n"));
  CHECK(run(folder, "fill form.pdf").out == listed.out);
  CHECK_THAT(run(folder, "fill form.pdf --json").out,
             Contains(R"("name": "gap.left")") && Contains(R"("kind": "choice")"));
  CHECK_THAT(run(folder, "fill form.pdf --csv").out, Contains("bridge,day,dry,grade"));
}

TEST_CASE("values are set, exported and filled in elsewhere", "[tool]") {
  const TemporaryFolder folder;
  write_form(folder);
  const auto filled = run(folder,
                          "fill form.pdf --set bridge='Merrow Ford' --set dry=on --set tools=rope "
                          "--set tools=boat --set gap.left=2 -o filled.pdf");
  CAPTURE(filled.err);
  CHECK(filled.code == 0);
  CHECK_THAT(filled.out, Contains("filled in 4 fields"));
  CHECK_THAT(filled.err, Contains("field 'day' is required, and is empty"));
  CHECK(value(folder / "filled.pdf", "bridge") == "Merrow Ford");
  CHECK(value(folder / "filled.pdf", "gap.sum") == "2");
  for (const char* file : {"values.json", "values.csv"}) {
    CAPTURE(file);
    CHECK(run(folder, std::string("fill filled.pdf --export ") + file).code == 0);
    CHECK(run(folder, std::string("fill filled.pdf --export ") + file).code == 1);  // it is there
  }
  CHECK(run(folder, "fill form.pdf --from values.json --skip-unfit -o again.pdf").code == 0);
  CHECK(run(folder, "fill again.pdf --json").out == run(folder, "fill filled.pdf --json").out);
  CHECK(run(folder, "fill filled.pdf --reset --append -o reset.pdf").code == 0);
  CHECK(value(folder / "reset.pdf", "bridge") == "Alder Weir");
  CHECK(test::read_file(folder / "reset.pdf").starts_with(test::read_file(folder / "filled.pdf")));
  CHECK(run(folder, "fill filled.pdf --flatten -o flat.pdf").code == 0);
  CHECK(Document::open(folder / "flat.pdf")->form()->fields.empty());
}

TEST_CASE("each row of a table makes a document, and nothing is overwritten", "[tool]") {
  const TemporaryFolder folder;
  write_form(folder);
  std::ofstream(folder / "rows.csv") << "bridge,grade\nAlder Weir,one\nMerrow Ford,three\n";
  CHECK(run(folder, "fill form.pdf --from rows.csv --each --set dry=on -o sheets").code == 0);
  CHECK(value(folder / "sheets/form-1.pdf", "grade") == "one");
  CHECK(value(folder / "sheets/form-2.pdf", "bridge") == "Merrow Ford");
  CHECK(value(folder / "sheets/form-2.pdf", "dry") == "On");
  const auto again = run(folder, "fill form.pdf --from rows.csv --each -o sheets");
  CHECK(again.code == 1);
  CHECK_THAT(again.err, Contains("already there; nothing was written"));
  CHECK(run(folder, "fill form.pdf --from rows.csv --each --names '{bridge}' -o sheets").code == 0);
  CHECK(std::filesystem::exists(folder / "sheets/Merrow Ford.pdf"));
  CHECK_THAT(run(folder, "fill form.pdf --from rows.csv --each --names x -o other").err,
             Contains("twice"));
  CHECK_FALSE(std::filesystem::exists(folder / "other"));
  CHECK_THAT(run(folder, "fill form.pdf --from rows.csv -o one.pdf").err, Contains("--each"));
  std::ofstream(folder / "wrong.csv") << "bridge,grade\nAlder Weir,four\n";
  const auto wrong = run(folder, "fill form.pdf --from wrong.csv --each -o none");
  CHECK(wrong.code == 2);
  CHECK_THAT(wrong.err, Contains("row 1") && Contains("does not take 'four'"));
}

TEST_CASE("what cannot be filled in is refused in words", "[tool]") {
  const TemporaryFolder folder;
  write_form(folder);
  const auto refused = [&](const std::string& arguments, const std::string& why) {
    const auto done = run(folder, "fill form.pdf " + arguments);
    CAPTURE(arguments, done.err);
    CHECK(done.code == 2);
    CHECK_THAT(done.err, Contains(why));
  };
  refused("--set bridg=1 -o a.pdf", "did you mean bridge?");
  refused("--set weather=hail -o a.pdf", "there are dry, Light rain, snow");
  refused("--set bridge -o a.pdf", "--set takes NAME=VALUE");
  refused("--set bridge=1", "-o is missing");
  refused("--set bridge=1 --list -o a.pdf", "not both");
  refused("--set bridge=1 -o form.pdf", "is the input");
  refused("--each -o a --set bridge=1", "--from");
  CHECK_FALSE(std::filesystem::exists(folder / "a.pdf"));
}

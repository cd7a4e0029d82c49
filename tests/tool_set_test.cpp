// SPDX-License-Identifier: Apache-2.0
// What the real tool sets in documents, and images as pages.
#include "lumvet/lumvet.h"
#include "tests/support/catch.h"
#include "tests/support/office.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/run_tool.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;
using test::lay_out_office;
using test::Ran;
using test::run;
using test::TemporaryFolder;

TEST_CASE("set changes outlines, page numbers and how a document opens", "[tool]") {
  const TemporaryFolder folder;
  lay_out_office(folder);
  test::write_file(folder / "contents.txt", "1 Summary\n\n  3 Bridges\r\n\t\t4 Tannery\n- Annex\n");
  test::write_file(folder / "contents.json",
                   "[{\"title\":\"Summary\",\"page\":1,\"bold\":true,\"color\":\"C03028\","
                   "\"entries\":[{\"title\":\"Office\",\"uri\":\"https://o.example\"}]}]");
  CHECK(run(folder,
            "set demo/report.pdf --outline contents.txt --labels 1=Cover,2=i --page-mode "
            "outline --open-at 2 --fit page --page-layout single-page --viewer-preferences "
            "display-title,fit-window -o a.pdf")
            .code == 0);
  const Document a = Document::open(folder / "a.pdf").value();
  REQUIRE(a.outline().value().size() == 4);
  CHECK(a.outline().value()[2].title == "Tannery");
  CHECK(a.outline().value()[2].depth == 2);
  CHECK_FALSE(a.outline().value()[3].page);
  CHECK(a.page_label(2).value() == "ii");
  CHECK(a.opening_view().value().mode == PageMode::outline);
  CHECK(a.opening_view().value().destination->page == 1);
  CHECK(a.opening_view().value().title_in_window);
  CHECK(run(folder, "set a.pdf --outline contents.json -o b.pdf").code == 0);
  const auto b = Document::open(folder / "b.pdf")->outline().value();
  REQUIRE(b.size() == 2);
  CHECK(b[0].bold);
  CHECK(b[1].actions.at(0).target == "https://o.example");
  CHECK(run(folder, "set b.pdf --outline none --labels none -o c.pdf").code == 0);
  CHECK(Document::open(folder / "c.pdf")->outline().value().empty());
  CHECK(run(folder, std::string("set '") + LUMVET_SOURCE_DIR +
                        "/demo/producers/tariff.pdf' --outline-from-headings -o d.pdf")
            .code == 0);
  CHECK(Document::open(folder / "d.pdf")->outline().value().at(0).title == "Tolls and tariffs");
  const std::pair<const char*, const char*> kWrong[] = {{"Summary 1\n", "line 1"},
                                                        {"1 a\n    2 b\n", "deeper"},
                                                        {"99 a\n", "there are 16"},
                                                        {"[{]", "JSON"},
                                                        {"[{\"page\":1}]", "no title"}};
  for (const auto& [outline, why] : kWrong) {
    CAPTURE(outline);
    test::write_file(folder / "wrong", outline);
    const Ran refused = run(folder, "set demo/report.pdf --outline wrong -o e.pdf");
    CHECK(refused.code == 2);
    CHECK_THAT(refused.err, Catch::Contains(why));
  }
  CHECK(run(folder, "set demo/report.pdf --outline none.txt -o e.pdf").code == 1);
  CHECK(run(folder, "set demo/report.pdf --outline-from-headings -o e.pdf").code == 2);
  CHECK(run(folder, "set demo/report.pdf --labels i -o e.pdf").code == 2);
  CHECK(run(folder, "set demo/report.pdf --open-at 17 -o e.pdf").code == 2);
  CHECK_FALSE(std::filesystem::exists(folder / "e.pdf"));
}

TEST_CASE("set changes what a document says about itself", "[tool]") {
  const TemporaryFolder folder;
  lay_out_office(folder);
  CHECK(
      run(folder, "set demo/report.pdf --title 'Day 12' --author '' --language de -o a.pdf").code ==
      0);
  const Document changed = Document::open(folder / "a.pdf").value();
  CHECK(changed.metadata().value().properties.title == "Day 12");
  CHECK(changed.metadata().value().properties.author.empty());
  CHECK(changed.language().value() == "de");
  CHECK(run(folder, "set a.pdf --clear-properties -o b.pdf").code == 0);
  CHECK(Document::open(folder / "b.pdf")->metadata().value().properties == DocumentInfo{});
  CHECK(run(folder, "set a.pdf -o c.pdf").code == 2);
}

TEST_CASE("merge makes pages of images", "[tool]") {
  const TemporaryFolder folder;
  lay_out_office(folder);
  std::filesystem::create_directory(folder / "sheets");
  REQUIRE(run(folder, "render demo/report.pdf --pages 5 --dpi 50 -o sheets/a.jpg").code == 0);
  REQUIRE(run(folder, "render demo/report.pdf --pages 1-2 --dpi 50 -o sheets/b.tiff").code == 0);
  test::write_file(folder / "sheets/notes.txt", "none");
  CHECK(run(folder, "merge demo/annex.pdf@1 sheets/a.jpg -o one.pdf --paper A4").code == 0);
  const Document one = Document::open(folder / "one.pdf").value();
  CHECK(one.page_count() == 2);
  CHECK(one.page(1)->width() == Approx(595.28).margin(0.01));
  CHECK(run(folder, "merge sheets/ -o none.pdf").code == 2);
  const Ran all = run(folder, "merge sheets/ --images --headings -o all.pdf");
  CHECK(all.code == 0);
  const Document pages = Document::open(folder / "all.pdf").value();
  CHECK(pages.page_count() == 3);
  CHECK(pages.outline().value().at(1).title == "b");
  CHECK(run(folder, "merge sheets/a.jpg -o x.pdf --paper huge").code == 1);
}

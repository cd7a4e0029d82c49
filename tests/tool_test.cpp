// SPDX-License-Identifier: Apache-2.0
// The real tool, as a person or a script runs it.
#include <nlohmann/json.hpp>

#include "lumvet/lumvet.h"
#include "tests/support/catch.h"
#include "tests/support/office.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/run_tool.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;
using Json = nlohmann::json;
using test::lay_out_office;
using test::Ran;
using test::run;
using test::TemporaryFolder;

namespace {

std::string simple(int pages, const std::string& mark) {
  test::PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  std::string kids;
  for (int i = 0; i < pages; ++i) {
    kids += std::to_string(10 + 2 * i) + " 0 R ";
    pdf.object(10 + 2 * i, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 72 144]/Contents " +
                               std::to_string(11 + 2 * i) + " 0 R>>");
    pdf.stream(11 + 2 * i, "", "% " + mark + std::to_string(i + 1));
  }
  return pdf.object(2, "<</Type/Pages/Kids[" + kids + "]/Count " + std::to_string(pages) + ">>")
      .object(3, "<</Title(" + mark + ")>>")
      .finish("/Root 1 0 R/Info 3 0 R");
}

std::string marks(const std::filesystem::path& path) {
  const Document document = Document::open(path).value();
  std::string all;
  for (int i = 0; i < document.page_count(); ++i) {
    const Bytes content = document.page(i)->content().value();
    all += std::string(as_text(content)).substr(2);
    all.back() = ' ';
  }
  return all;
}

}  // namespace

TEST_CASE("merge binds files, parts and folders in order and reports what it made", "[tool]") {
  const TemporaryFolder folder;
  test::write_file(folder / "a.pdf", simple(3, "a"));
  test::write_file(folder / "b@1.pdf", simple(4, "b"));
  std::filesystem::create_directory(folder / "day");
  for (const int n : {10, 2, 1})
    test::write_file(folder / ("day/s " + std::to_string(n) + ".pdf"),
                     simple(1, "s" + std::to_string(n) + "."));
  test::write_file(folder / "day/notes.txt", "no document");
  const Ran ran = run(folder, "merge a.pdf 'b@1.pdf@last,1' day/ 'b@1.pdf' -o book.pdf");
  CHECK(ran.code == 0);
  CHECK(marks(folder / "book.pdf") == "a1 a2 a3 b4 b1 s1.1 s2.1 s10.1 b1 b2 b3 b4 ");
  CHECK_THAT(ran.out,
             Catch::Contains("book.pdf  12 pages") && Catch::Contains("pages 4-5  from b@1.pdf"));
  CHECK_THAT(ran.err, Catch::Contains("1 file in day/ is not a document"));
  CHECK(Document::open(folder / "book.pdf")->info().value().title == "a");
}

TEST_CASE("merge refuses to replace, and with --replace binds the folder without its own output",
          "[tool]") {
  const TemporaryFolder folder;
  test::write_file(folder / "1.pdf", simple(1, "x"));
  REQUIRE(run(folder, "merge . -o book.pdf").code == 0);
  const std::string first = test::read_file(folder / "book.pdf");
  const Ran refused = run(folder, "merge . -o book.pdf");
  CHECK(refused.code == 1);
  CHECK_THAT(refused.err, Catch::Contains("already there") && Catch::Contains("--replace"));
  CHECK(run(folder, "merge . -o book.pdf --replace").code == 0);
  CHECK(test::read_file(folder / "book.pdf") == first);
}

TEST_CASE("merge names every bad input and writes nothing", "[tool]") {
  const TemporaryFolder folder;
  test::write_file(folder / "good.pdf", simple(2, "g"));
  test::write_file(folder / "page.pdf", "<html>404</html>");
  test::write_file(folder / "empty.pdf", "");
  const Ran ran = run(folder, "merge good.pdf page.pdf empty.pdf gone.pdf good.pdf@7 -o book.pdf");
  CHECK(ran.code == 1);
  CHECK(ran.out.empty());
  CHECK_THAT(ran.err, Catch::Contains("page.pdf") && Catch::Contains("looks like a web page") &&
                          Catch::Contains("empty.pdf") && Catch::Contains("the file is empty") &&
                          Catch::Contains("gone.pdf") && Catch::Contains("page 7") &&
                          Catch::Contains("nothing was written"));
  CHECK(folder.file_count() == 3);
}

TEST_CASE("merge leaves out what it is told to, and speaks JSON", "[tool]") {
  const TemporaryFolder folder;
  test::write_file(folder / "a.pdf", simple(2, "a"));
  const Ran ran =
      run(folder, "merge a.pdf -o b.pdf --without metadata,outlines --layout classic --json");
  CHECK(ran.code == 0);
  const Json json = Json::parse(ran.out);
  CHECK(json["pages"] == 2);
  CHECK(json["bytes"] == std::filesystem::file_size(folder / "b.pdf"));
  CHECK(json["inputs"][0]["file"] == "a.pdf");
  CHECK(Document::open(folder / "b.pdf")->info().value().title.empty());
  CHECK_THAT(test::read_file(folder / "b.pdf"), Catch::Contains("\nxref\n"));
}

TEST_CASE("wrong usage is told apart from what cannot be done", "[tool]") {
  const TemporaryFolder folder;
  test::write_file(folder / "a.pdf", simple(2, "a"));
  for (const char* arguments :
       {"", "fly", "merge a.pdf", "merge a.pdf@x -o b.pdf", "render a.pdf --pages 0",
        "render a.pdf --dpi -3", "render a.pdf -o one.png", "render a.pdf --background blue",
        "merge . -o b.pdf --without pages"}) {
    CAPTURE(arguments);
    const Ran ran = run(folder, arguments);
    CHECK(ran.code == 2);
    CHECK_FALSE((ran.err + ran.out).empty());
  }
  CHECK(run(folder, "render a.pdf --pages 9").code == 1);
  CHECK(run(folder, "inspect gone.pdf").code == 1);
  CHECK(folder.file_count() == 1);
}

TEST_CASE("a locked document is told from a damaged one, and opens with its password", "[tool]") {
  const TemporaryFolder folder;
  std::filesystem::copy_file(
      std::filesystem::path(LUMVET_SOURCE_DIR) / "demo/producers/locked-r6.pdf",
      folder / "locked.pdf");
  const Ran plain = run(folder, "inspect locked.pdf");
  CHECK(plain.code == 1);
  CHECK_THAT(plain.out, Catch::Contains("Encrypted     yes, by password (AES, 256 bits)"));
  CHECK_THAT(plain.err, Catch::Contains("needs a password") && Catch::Contains("--password-file"));
  const Json locked = Json::parse(run(folder, "inspect locked.pdf --json").out);
  CHECK(locked["protection"]["by"] == "password");
  CHECK(locked["protection"]["access"] == "locked");
  test::write_file(folder / "wrong.txt", "footbridge\n");
  test::write_file(folder / "right.txt", "ostrel\r\n");
  const Ran wrong = run(folder, "inspect locked.pdf --password-file wrong.txt");
  CHECK(wrong.code == 1);
  CHECK_THAT(wrong.err, Catch::Contains("the password is wrong"));
  const Ran right =
      run(folder, "inspect locked.pdf --password-file wrong.txt --password-file right.txt");
  CHECK(right.code == 0);
  CHECK_THAT(right.out, Catch::Contains("Notice 14") &&
                            Catch::Contains("Opened as     its reader") &&
                            Catch::Contains("Allowed       printing, printing sharply"));
  ::setenv("LUMVET_PASSWORD", "valley", 1);
  const Ran owner = run(folder, "inspect locked.pdf --json");
  const Ran bound = run(folder, "merge locked.pdf locked.pdf -o both.pdf");
  const Ran unlocked = run(folder, "merge locked.pdf locked.pdf -o open.pdf --remove-protection");
  ::unsetenv("LUMVET_PASSWORD");
  CHECK(Json::parse(owner.out)["protection"]["access"] == "owner");
  CHECK(bound.code == 0);
  CHECK(run(folder, "inspect both.pdf").code == 1);  // as locked as before
  CHECK(run(folder, "inspect both.pdf --password-file right.txt").code == 0);
  CHECK(unlocked.code == 0);
  CHECK(Json::parse(run(folder, "inspect open.pdf --json").out)["protection"].is_null());
  CHECK(run(folder, "inspect locked.pdf --password-file gone.txt").code == 1);
}

TEST_CASE("repair writes a clean file and tells what was wrong and where", "[tool]") {
  const TemporaryFolder folder;
  std::string bytes = simple(3, "a");
  test::write_file(folder / "good.pdf", bytes);
  const std::size_t table = bytes.rfind("xref\n0 1");
  bytes.resize(table);
  test::write_file(folder / "cut.pdf", bytes);
  const Ran ran = run(folder, "repair cut.pdf -o mended.pdf");
  CHECK(ran.code == 0);
  CHECK_THAT(ran.out, Catch::Contains("mended.pdf  3 pages") &&
                          Catch::Contains("the end of the document is missing") &&
                          Catch::Contains("(offset " + std::to_string(table)));
  CHECK(marks(folder / "mended.pdf") == "a1 a2 a3 ");
  CHECK(Document::open(folder / "mended.pdf")->findings().empty());
  CHECK(run(folder, "repair cut.pdf -o mended.pdf").code == 1);
  const Ran good = run(folder, "repair good.pdf -o copy.pdf --layout classic --json");
  CHECK(good.code == 0);
  CHECK(Json::parse(good.out)["findings"].empty());
  CHECK_THAT(run(folder, "repair good.pdf -o copy.pdf --replace").out,
             Catch::Contains("nothing was wrong with good.pdf"));
}

TEST_CASE("render writes one page, patterns and folders, and never over a file unasked", "[tool]") {
  const TemporaryFolder folder;
  test::write_file(folder / "a.pdf", simple(12, "a"));
  const Ran one = run(folder, "render a.pdf --pages 3 --dpi 144 -o sheet.png");
  CHECK(one.code == 0);
  CHECK_THAT(one.out, Catch::Contains("sheet.png  page 3, 144 × 288 pixels"));
  CHECK(run(folder, "render a.pdf --pages 3 -o sheet.png").code == 1);
  CHECK(run(folder, "render a.pdf --pages 3 -o sheet.png --replace").code == 0);
  CHECK(run(folder, "render a.pdf --pages 9-11 --width 50 -o 'p-{page}.png'").code == 0);
  CHECK(std::filesystem::exists(folder / "p-09.png"));
  CHECK(std::filesystem::exists(folder / "p-11.png"));
  // One name is taken: nothing at all is drawn.
  CHECK(run(folder, "render a.pdf --pages 8-12 -o 'p-{page}.png'").code == 1);
  CHECK_FALSE(std::filesystem::exists(folder / "p-08.png"));
  const Ran all = run(folder, "render a.pdf --dpi 20 -o images/ --json");
  CHECK(all.code == 0);
  CHECK(Json::parse(all.out)["images"].size() == 12);
  CHECK(std::filesystem::exists(folder / "images/a-12.png"));
  const Ran piped = run(folder, "render a.pdf --pages last --dpi 20 -o -");
  CHECK(piped.out.starts_with("\x89PNG"));
}

TEST_CASE("render writes every kind of image, in parts and in other shades", "[tool]") {
  const TemporaryFolder folder;
  test::write_file(folder / "a.pdf", simple(3, "a"));
  const auto begins = [&](const char* name, std::string_view magic) {
    return std::string_view(test::read_file(folder / name)).starts_with(magic);
  };
  CHECK_THAT(run(folder, "render a.pdf -o all.tiff --colors black-white").out,
             Catch::Contains("all.tiff  3 pages"));
  CHECK(begins("all.tiff", "II*"));
  CHECK(run(folder, "render a.pdf -p 1 -o a.jpg --quality 60 --colors gray").code == 0);
  CHECK(begins("a.jpg", "\xFF\xD8\xFF"));
  CHECK(run(folder, "render a.pdf -p 1 -o a.webp --night --text-gamma 1.8").code == 0);
  CHECK(begins("a.webp", "RIFF"));
  const Ran part = run(folder, "render a.pdf -p 1 --dpi 72 --area 10,10,30,20 -o a.ppm");
  CHECK_THAT(part.out, Catch::Contains("30 × 20 pixels"));
  CHECK(begins("a.ppm", "P6\n30 20\n"));
  CHECK(run(folder, "render a.pdf --format jpg -o images/").code == 0);
  CHECK(std::filesystem::exists(folder / "images/a-3.jpg"));
  CHECK(run(folder, "render a.pdf --format ppm -o - --dpi 10").out.starts_with("P6\n"));
  CHECK(
      run(folder,
          "render a.pdf -p 1 --overprint --fonts /usr/share/fonts/truetype/liberation -o fonts.png")
          .code == 0);
  CHECK_THAT(run(folder, "render a.pdf --fonts a.pdf -o b.png").err, Catch::Contains("a.pdf"));
  for (const char* wrong :
       {"-o a.gif", "-o all.jpg", "--area 1,2,3 -o b.png", "-o -", "-p 1 --colors dots -o b.jpg"}) {
    CAPTURE(wrong);
    CHECK(run(folder, std::string("render a.pdf ") + wrong).code == 2);
  }
}

TEST_CASE("help teaches by example, and the version is told", "[tool]") {
  const TemporaryFolder folder;
  for (const char* verb : {"", "inspect", "render", "merge", "repair", "split", "arrange", "attach",
                           "set", "linearize", "protect"}) {
    const Ran ran = run(folder, std::string(verb) + " --help");
    CHECK(ran.code == 0);
    CHECK_THAT(ran.out, Catch::Contains("Examples:") && Catch::Contains("lumvet"));
  }
  CHECK_THAT(run(folder, "--version").out, Catch::StartsWith("lumvet 0."));
}

TEST_CASE("the demo documents are made, bound and drawn", "[tool]") {
  const TemporaryFolder folder;
  lay_out_office(folder);
  const Ran merged =
      run(folder, "merge demo/report.pdf demo/annex.pdf@1-2,last demo/scans/ -o book.pdf");
  CHECK(merged.code == 0);
  CHECK_THAT(merged.err, Catch::Contains("of the outline"));
  const Ran strict =
      run(folder, "merge demo/report.pdf demo/annex.pdf@1-2,last -o strict.pdf --strict");
  CHECK(strict.code == 1);
  CHECK_THAT(strict.err, Catch::Contains("nothing was written"));
  CHECK_FALSE(std::filesystem::exists(folder / "strict.pdf"));
  const Ran piped = run(folder, "merge demo/report.pdf demo/annex.pdf@1-2,last -o - --strict");
  CHECK(piped.code == 1);
  CHECK(piped.out.empty());
  const Document book = Document::open(folder / "book.pdf").value();
  CHECK(book.page_count() == 16 + 3 + 11);
  CHECK(book.outline().value().size() == 14 + 3);
  CHECK(book.page(29)->rotation() == 0);
  CHECK(book.page(25)->rotation() == 180);  // sheet 7, in natural order
  const Ran drawn = run(folder, "render book.pdf --dpi 20 -o p/");
  CHECK(drawn.code == 0);
  CHECK(drawn.err.empty());
}

TEST_CASE("merge plans, makes headings, and leaves out what it is told to", "[tool]") {
  const TemporaryFolder folder;
  lay_out_office(folder);
  const std::string inputs = "demo/report.pdf demo/inspection.pdf";
  const Ran plan = run(folder, "merge " + inputs + " -o book.pdf --dry-run");
  CHECK(plan.code == 0);
  CHECK_THAT(plan.out, Catch::Contains("page 17  from demo/inspection.pdf") &&
                           Catch::Contains("nothing was written"));
  CHECK_FALSE(std::filesystem::exists(folder / "book.pdf"));
  REQUIRE(run(folder, "merge " + inputs + " -o book.pdf --headings --without fields,layers").code ==
          0);
  const Document book = Document::open(folder / "book.pdf").value();
  CHECK(book.outline().value()[0].title == "Footbridge inspection, autumn round, day 12");
  CHECK(book.outline().value()[1].depth == 1);
  CHECK(book.form().value().fields.empty());
  CHECK(book.layers().value().all.empty());
  const Ran same = run(folder, "merge " + inputs + " -o demo/report.pdf --replace");
  CHECK(same.code == 2);
  CHECK_THAT(same.err, Catch::Contains("is an input"));
  CHECK(Document::open(folder / "demo/report.pdf")->page_count() == 16);
}

TEST_CASE("split cuts at chapters, plans, and never half", "[tool]") {
  const TemporaryFolder folder;
  lay_out_office(folder);
  const std::string chapters =
      "split demo/report.pdf -o parts --outline 1 --names '{part} {title}'";
  const Ran plan = run(folder, chapters + " --dry-run --json");
  CHECK(plan.code == 0);
  CHECK_THAT(plan.out, Catch::Contains("\"written\": false") && Catch::Contains("4 Condition"));
  CHECK_FALSE(std::filesystem::exists(folder / "parts"));
  REQUIRE(run(folder, chapters).code == 0);
  CHECK(Document::open(folder / "parts/4 Condition of the bridges.pdf")->page_count() == 7);
  const Ran again = run(folder, chapters);
  CHECK(again.code == 1);
  CHECK_THAT(again.err, Catch::Contains("already there; nothing was written"));
  for (const char* wrong :
       {"split demo/report.pdf -o p", "split demo/report.pdf -o p --at-most 5XB",
        "split demo/report.pdf -o p --before 99", "split demo/report.pdf -o p --every 2 --odd-even",
        "split demo/report.pdf -o p --every 2 --names '{day}'"})
    CHECK(run(folder, wrong).code == 2);
  CHECK_FALSE(std::filesystem::exists(folder / "p"));
}

TEST_CASE("arrange does its steps in order, or none", "[tool]") {
  const TemporaryFolder folder;
  lay_out_office(folder);
  const std::string steps =
      "arrange demo/report.pdf 'move 11-12 before 1' 'rotate 2 left' 'blank 1 after last A5' "
      "'insert demo/annex.pdf@2 before 3' 'drop 5-9' 'crop 1 10,0,10,0' -o new.pdf";
  const Ran plan = run(folder, steps + " --dry-run");
  CHECK(plan.code == 0);
  CHECK_THAT(plan.out, Catch::Contains("pages 1-2    were pages 11-12") &&
                           Catch::Contains("page 3       inserted") &&
                           Catch::Contains("13 pages, nothing was written"));
  CHECK_FALSE(std::filesystem::exists(folder / "new.pdf"));
  CHECK(run(folder, steps).code == 0);
  const Document arranged = Document::open(folder / "new.pdf").value();
  CHECK(arranged.page_count() == 13);
  CHECK(arranged.page(1)->rotation() == 270);
  CHECK(arranged.page(0)->width() == Approx(595.276 - 2 * 28.346).margin(0.01));
  CHECK(arranged.page(12)->width() == Approx(419.53).margin(0.01));
  CHECK(run(folder, steps).code == 1);  // already there
  for (const char* wrong :
       {"turn 1", "turn 1 up", "move 1 to 3", "drop", "drop 99", "blank x before 1", "crop 1 1,2,3",
        "crop 1 900,0,0,0", "interleave sideways", "shuffle", "insert demo/annex.pdf"}) {
    CAPTURE(wrong);
    const Ran refused = run(
        folder, "arrange demo/report.pdf 'rotate 1 right' '" + std::string(wrong) + "' -o no.pdf");
    CHECK(refused.code == 2);
    CHECK_THAT(refused.err, Catch::Contains(wrong));
  }
  CHECK(run(folder, "arrange demo/report.pdf 'insert none.pdf before 1' -o no.pdf").code == 1);
  CHECK_FALSE(std::filesystem::exists(folder / "no.pdf"));
}

TEST_CASE("arrange lays pages on sheets and draws on them", "[tool]") {
  const TemporaryFolder folder;
  lay_out_office(folder);
  const Ran plan =
      run(folder, "arrange demo/report.pdf 'sheets 2x2 A4 framed gap 2' -o s.pdf --dry-run");
  CHECK(plan.code == 0);
  CHECK_THAT(plan.out, Catch::Contains("page 2     holds pages 5, 6, 7, 8"));
  const Ran json = run(folder, "arrange demo/report.pdf 'booklet A4 section 1' -o b.pdf --json");
  CHECK(json.code == 0);
  CHECK_THAT(json.out, Catch::Contains("laid 16 pages as a booklet of 4 sheets"));
  CHECK(Document::open(folder / "b.pdf")->page_count() == 8);
  const std::string steps =
      "arrange demo/report.pdf \"write 'Page {page} of {pages}, {chapter}' on 2-last at "
      "bottom-right size 9 font 'DejaVu Sans' color C03028\" 'write DRAFT on 1 rotated 45 opacity "
      "20 beneath' 'overlay demo/annex.pdf@2 on 3 at top-left margin 5mm scale 25 opacity 80' "
      "'resize 4 A5' -o drawn.pdf";
  const Ran ran = run(folder, steps);
  CHECK(ran.code == 0);
  CHECK_THAT(ran.out, Catch::Contains("laid demo/annex.pdf over 1 page"));
  const Document drawn = Document::open(folder / "drawn.pdf").value();
  CHECK_THAT(text_of(drawn.page(2).value()).value(), Catch::Contains("Page 3 of 16, Summary"));
  CHECK(drawn.page(3)->width() == Approx(419.53).margin(0.01));
  const PageWords words = PageWords::of(drawn.page(2).value()).value();
  const std::size_t foot = words.text().find("Page 3 of 16");
  REQUIRE(foot != std::string::npos);
  for (std::size_t i = 0; i < words.word_count(); ++i)
    if (words.word(i).begin == foot) CHECK(words.word(i).size == Approx(9));  // points
  for (const char* wrong :
       {"sheets 2", "sheets 2x2 A99", "sheets 99x1", "booklet A4 section", "resize 1",
        "resize 1 A4 so", "overlay demo/annex.pdf", "overlay demo/annex.pdf on 99",
        "overlay demo/annex.pdf on 1 at x", "overlay demo/annex.pdf on 1 scale big", "write a",
        "write a on 1 color red", "write {day} on 1", "write a on 1 font Nothing"}) {
    CAPTURE(wrong);
    const Ran refused =
        run(folder, "arrange demo/report.pdf '" + std::string(wrong) + "' -o no.pdf");
    CHECK(refused.code == 2);
    CHECK_THAT(refused.err, Catch::Contains(wrong));
  }
  CHECK_FALSE(std::filesystem::exists(folder / "no.pdf"));
}

TEST_CASE("changes are appended when that is asked for", "[tool]") {
  const TemporaryFolder folder;
  lay_out_office(folder);
  const Ran plan =
      run(folder, "set demo/annex.pdf --title 'Annex 2' --labels 1=i --dry-run -o plan.pdf");
  CHECK(plan.code == 0);
  CHECK_THAT(plan.out,
             Catch::Contains("1  set title") && Catch::Contains("2 changes, nothing was written"));
  CHECK_THAT(run(folder, "set demo/annex.pdf --title x --dry-run --json -o plan.pdf").out,
             Catch::Contains("\"written\": false"));
  CHECK_FALSE(std::filesystem::exists(folder / "plan.pdf"));
  const std::string before = test::read_file(folder / "demo/annex.pdf");
  CHECK(run(folder, "set demo/annex.pdf --title 'Annex 2' --append -o a.pdf").code == 0);
  const std::string after = test::read_file(folder / "a.pdf");
  CHECK(after.starts_with(before));
  CHECK(after.size() < before.size() + 4000);
  CHECK(Document::open(folder / "a.pdf")->metadata().value().properties.title == "Annex 2");
  test::write_file(folder / "readings.csv", "bridge;grade");
  CHECK(run(folder, "attach a.pdf readings.csv --append -o a.pdf").code == 1);
  CHECK(run(folder, "attach a.pdf readings.csv --append -o a.pdf --replace").code == 0);
  CHECK(test::read_file(folder / "a.pdf").starts_with(after));
  CHECK(Document::open(folder / "a.pdf")->revisions().value().size() == 3);
  CHECK(run(folder, "set a.pdf --title x --append -o b.pdf --refuse copying").code == 1);
  // To standard output as well.
  const Ran out = run(folder, "set a.pdf --title x --append -o -");
  CHECK(out.code == 0);
  const std::string all = test::read_file(folder / "a.pdf");
  CHECK(out.out.starts_with(all));
  test::write_file(folder / "out.pdf", out.out);
  CHECK(Document::open(folder / "out.pdf")->metadata().value().properties.title == "x");
  // Pages too, but not sheets, which are a new document.
  CHECK(run(folder, "arrange a.pdf 'rotate 1 right' 'drop last' --append -o turned.pdf").code == 0);
  const std::string turned = test::read_file(folder / "turned.pdf");
  CHECK(turned.starts_with(all));
  CHECK(turned.size() < all.size() + 4000);
  const Document arranged = Document::open(folder / "turned.pdf").value();
  CHECK(arranged.page(0)->rotation() == 90);
  CHECK(arranged.page_count() == Document::open(folder / "a.pdf")->page_count() - 1);
  const Ran sheets = run(folder, "arrange a.pdf 'sheets 2x1' --append -o sheets.pdf");
  CHECK(sheets.code == 2);
  CHECK_THAT(sheets.err, Catch::Contains("sheets are a new document"));
}

TEST_CASE("linearize and protect save documents anew, one or many", "[tool]") {
  const TemporaryFolder folder;
  lay_out_office(folder);
  test::write_file(folder / "open.txt", "ostrel\n");
  test::write_file(folder / "owner.txt", "valley\n");
  test::write_file(folder / "no.pdf", "no document");
  CHECK(run(folder, "linearize demo/report.pdf -o web.pdf").code == 0);
  CHECK(Document::open(folder / "web.pdf")->is_linearized());
  CHECK(run(folder, "linearize demo/report.pdf -o web.pdf").code == 1);  // already there
  CHECK(run(folder, "linearize web.pdf -o web.pdf --replace").code == 2);
  const Ran many = run(folder, "linearize demo/report.pdf demo/annex.pdf no.pdf -o web/ --json");
  CHECK(many.code == 1);
  const Json told = Json::parse(many.out);
  REQUIRE(told.size() == 3);
  CHECK(told[1]["pages"] == 4);
  CHECK(told[2].contains("error"));
  CHECK(Document::open(folder / "web/annex.pdf")->is_linearized());

  CHECK(run(folder, "protect demo/report.pdf -o a.pdf").code == 2);
  CHECK(run(folder,
            "protect demo/report.pdf -o a.pdf --user-password-file open.txt --owner-password-file "
            "owner.txt --refuse copying,changing --layout linearized")
            .code == 0);
  CHECK_FALSE(Document::open(folder / "a.pdf").ok());
  const Document locked = Document::open(folder / "a.pdf", {.password = "ostrel"}).value();
  CHECK(locked.is_linearized());
  CHECK_FALSE(locked.encryption()->permissions.copy);
  CHECK(locked.encryption()->permissions.print);
  CHECK(run(folder, "protect a.pdf -o b.pdf --remove-protection --password-file open.txt").code ==
        1);
  CHECK(run(folder, "protect a.pdf -o b.pdf --remove-protection --password-file owner.txt").code ==
        0);
  CHECK_FALSE(Document::open(folder / "b.pdf")->encryption());
  const Ran weak =
      run(folder, "merge demo/annex.pdf -o c.pdf --user-password-file open.txt --cipher rc4-128");
  CHECK(weak.code == 0);
  CHECK_THAT(weak.err, Catch::Contains("RC4 keeps out nobody who means it"));
  CHECK(Document::open(folder / "c.pdf", {.password = "ostrel"})->encryption()->cipher == "RC4");
  CHECK(
      run(folder, "split demo/report.pdf -o parts --every 6 --user-password-file open.txt").code ==
      0);
  CHECK_FALSE(Document::open(folder / "parts/report-2.pdf").ok());
  CHECK(Document::open(folder / "parts/report-2.pdf", {.password = "ostrel"})->page_count() == 6);
  CHECK(run(folder, "protect demo/report.pdf -o d.pdf --user-password-file none.txt").code == 1);
  CHECK(run(folder, "protect demo/report.pdf -o d.pdf --refuse flying").code == 2);
  CHECK_FALSE(std::filesystem::exists(folder / "d.pdf"));
}

TEST_CASE("damaged documents are worked on, or refused as asked", "[tool]") {
  const TemporaryFolder folder;
  test::PdfBuilder pdf;
  pdf.page("1 w", "/MediaBox[0 0 9 9]");
  std::string bytes = pdf.finish();
  bytes.replace(bytes.rfind("startxref"), 9, "startxyzz");
  test::write_file(folder / "cut.pdf", bytes);
  for (const char* verb : {"merge cut.pdf -o a.pdf", "arrange cut.pdf 'rotate 1 right' -o b.pdf",
                           "split cut.pdf --every 1 -o c"}) {
    const Ran refused = run(folder, std::string(verb) + " --strict");
    CHECK(refused.code == 1);
    CHECK_THAT(refused.err, Catch::Contains("cut.pdf: damaged"));
    CHECK(run(folder, verb).code == 0);
  }
}

TEST_CASE("split cuts before pages that say something", "[tool]") {
  const TemporaryFolder folder;
  lay_out_office(folder);
  const Ran plan =
      run(folder, "split demo/report.pdf -o p --at-text '^(summary|measures) ' --dry-run");
  const Ran cut = run(folder, "split demo/report.pdf -o p --at-text 'MEASURES AND costs$'");
  CHECK(cut.code == 0);
  CHECK(plan.code == 0);
  CHECK(std::filesystem::exists(folder / "p/report-2.pdf"));
  CHECK(run(folder, "split demo/report.pdf -o q --at-text '(a'").code == 2);
  CHECK_FALSE(std::filesystem::exists(folder / "q"));
}

TEST_CASE("attach lists, puts in, takes out under safe names, and removes", "[tool]") {
  const TemporaryFolder folder;
  lay_out_office(folder);
  test::write_file(folder / "readings.csv", "bridge;grade\n");
  const Ran added =
      run(folder, "attach demo/annex.pdf readings.csv -o a.pdf --description 'Day 12'");
  CHECK(added.code == 0);
  CHECK_THAT(added.out, Catch::Contains("attached readings.csv"));
  CHECK_THAT(run(folder, "attach a.pdf").out, Catch::Contains("readings.csv  13 bytes  Day 12"));
  CHECK(run(folder, "attach a.pdf --extract-to out").code == 0);
  std::ifstream extracted(folder / "out/readings.csv");
  CHECK(std::string(std::istreambuf_iterator<char>(extracted), {}) == "bridge;grade\n");
  CHECK(run(folder, "attach a.pdf --extract-to out").code == 1);
  CHECK(run(folder, "attach a.pdf readings.csv -o b.pdf").code == 1);
  CHECK(run(folder, "attach a.pdf readings.csv").code == 2);
  CHECK(run(folder, "attach a.pdf --remove none -o b.pdf").code == 2);
  CHECK_FALSE(std::filesystem::exists(folder / "b.pdf"));
  CHECK(run(folder, "attach a.pdf --remove readings.csv -o b.pdf").code == 0);
  const auto left = Document::open(folder / "b.pdf")->attachments().value();
  CHECK(std::none_of(left.begin(), left.end(),
                     [](const Attachment& file) { return file.name == "readings.csv"; }));
  test::PdfBuilder pdf;
  pdf.page("", "/MediaBox[0 0 9 9]");
  pdf.object(1,
             "<</Type/Catalog/Pages 2 0 R/Names<</EmbeddedFiles<</Names[(a)8 0 R(b)9 0 R]>>>>>>");
  pdf.object(8, "<</F(../../.profile)/EF<</F 10 0 R>>>>").object(9, "<</F(/)/EF<</F 11 0 R>>>>");
  pdf.stream(10, "", "one").stream(11, "", "two");
  test::write_file(folder / "sly.pdf", pdf.finish());
  CHECK(run(folder, "attach sly.pdf --extract-to safe").code == 0);
  CHECK(std::filesystem::exists(folder / "safe/profile"));
  CHECK(std::filesystem::exists(folder / "safe/attachment-2"));
}

// SPDX-License-Identifier: Apache-2.0
// Where the real tool writes to, what it does when somebody mistypes, and when it is stopped.
#include <sys/stat.h>

#include "lumvet/document/document.h"
#include "tests/support/blank.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/run_tool.h"
#include "tests/support/sanitized.h"

using namespace lumvet;
using test::blank;
using test::Ran;
using test::run;
using test::TemporaryFolder;
namespace fs = std::filesystem;

namespace {

// Runs a line of shell in the folder, in which $lumvet is the tool.
Ran shell(const TemporaryFolder& folder, const std::string& line) {
  test::write_file(folder / "line.sh", "lumvet=\"" LUMVET_TOOL "\"\n" + line + "\n");
  return run(folder, "line.sh", "/bin/sh");
}

}  // namespace

TEST_CASE("no file takes the place of a standard stream that is closed", "[tool]") {
  const TemporaryFolder folder;
  test::write_file(folder / "a.pdf", blank(1));
  REQUIRE(::mkfifo((folder / "pipe").c_str(), 0600) == 0);
  // It waits for the pipe with its streams as they will be when it writes.
  const Ran ran = shell(folder, R"(
"$lumvet" merge a.pdf --password-file pipe -o out.pdf >&- 2>&- <&- &
tool=$!
exec 3>pipe
found=
for attempt in 1 2 3 4 5 6 7 8 9 10; do
  found=$(readlink /proc/$tool/fd/1 /proc/$tool/fd/2 | sort -u)
  [ "$found" != /dev/null ] || break
  sleep 0.2
done
echo "streams: $found"
echo ostrel >&3
exec 3>&-
wait $tool
echo "code $?"
)");
  CHECK_THAT(ran.out, Catch::Contains("streams: /dev/null\n"));
  CHECK_THAT(ran.out, Catch::Contains("code 1\n"));  // nobody could be told
  CHECK(Document::open(folder / "out.pdf")->page_count() == 1);
}

TEST_CASE("a pipe and a device are written through, and stay what they are", "[tool]") {
  const TemporaryFolder folder;
  test::write_file(folder / "a.pdf", blank(1));
  REQUIRE(::mkfifo((folder / "pipe").c_str(), 0600) == 0);
  const Ran ran = shell(folder, "cat pipe > out.pdf & \"$lumvet\" merge a.pdf -o pipe && wait");
  CHECK(ran.code == 0);
  CHECK(fs::is_fifo(folder / "pipe"));
  CHECK(Document::open(folder / "out.pdf")->page_count() == 1);
  CHECK(run(folder, "merge a.pdf -o /dev/null --replace").code == 0);
  CHECK(fs::is_character_file("/dev/null"));
}

TEST_CASE("output that nobody can take is a failure", "[tool]") {
  const TemporaryFolder folder;
  test::write_file(folder / "a.pdf", blank(1));
  for (const char* line : {"inspect a.pdf > /dev/full", "--help > /dev/full",
                           "merge a.pdf -o - > /dev/full", "merge a.pdf -o /dev/full"}) {
    CAPTURE(line);
    const Ran ran = shell(folder, "\"$lumvet\" " + std::string(line));
    CHECK(ran.code == 1);
    CHECK_THAT(ran.err, Catch::Contains("cannot"));
  }
}

TEST_CASE("an output that is the input is refused alike by every verb", "[tool]") {
  const TemporaryFolder folder;
  const std::string before = blank(2);
  test::write_file(folder / "a.pdf", before);
  fs::create_symlink(folder / "a.pdf", folder / "link.pdf");
  test::write_file(folder / "x.txt", "x");
  test::write_file(folder / "pass", "ostrel");
  for (const char* how :
       {"merge a.pdf", "arrange a.pdf 'rotate 1 left'", "set a.pdf --title x", "attach a.pdf x.txt",
        "linearize a.pdf", "repair a.pdf", "protect a.pdf --user-password-file pass"})
    for (const char* output : {"a.pdf", "./a.pdf", "link.pdf"}) {
      CAPTURE(how, output);
      const Ran ran = run(folder, std::string(how) + " --replace -o " + output);
      CHECK(ran.code == 2);
      CHECK_THAT(ran.err, Catch::Contains("another name"));
      CHECK(test::read_file(folder / "a.pdf") == before);
    }
}

TEST_CASE("a misspelled word is answered with the nearest one", "[tool]") {
  const TemporaryFolder folder;
  const auto told = [&](const std::string& arguments) {
    const Ran ran = run(folder, arguments);
    CHECK(ran.code == 2);
    CHECK(std::count(ran.err.begin(), ran.err.end(), '\n') == 1);
    return ran.err;
  };
  CHECK_THAT(told("arange a.pdf"), Catch::Contains("no verb 'arange'; did you mean arrange?"));
  CHECK_THAT(told("inpsect a.pdf"), Catch::Contains("did you mean inspect?"));
  CHECK_THAT(told("frobnicate"), Catch::Contains("lumvet --help lists them"));
  CHECK_THAT(told("split a.pdf --evry 2 -o x"), Catch::Contains("did you mean --every?"));
  CHECK_THAT(told("merge a.pdf --user-pasword-file=x -o y"),
             Catch::Contains("did you mean --user-password-file?"));
  CHECK_THAT(run(folder, "split a.pdf --every 0 -o x").err,
             Catch::Contains("'0' is not a number from 1 on"));
  CHECK(run(folder, "split a.pdf --every 0 -o x").err.size() < 200);
}

TEST_CASE("the file stands first in what is said of it, and no word is the code's", "[tool]") {
  const TemporaryFolder folder;
  test::write_file(folder / "x.pdf", "hello");
  test::write_file(folder / "a.pdf", blank(1));
  CHECK_THAT(run(folder, "inspect x.pdf").err,
             Catch::StartsWith("lumvet: x.pdf: not a PDF document"));
  CHECK_THAT(run(folder, "merge a.pdf@7 -o b.pdf").err,
             Catch::StartsWith("lumvet: a.pdf: page 7 is asked for"));
  const Ran step = run(folder, "arrange a.pdf \"write 'x\" -o b.pdf");
  CHECK_THAT(step.err, Catch::Contains("doing \"write 'x\"") && !Catch::Contains("write write") &&
                           !Catch::Contains("invalid argument"));
  CHECK_THAT(run(folder, "render a.pdf -o thumbs/{page}.jpg").err,
             Catch::Contains("there is no folder thumbs"));
  CHECK_THAT(run(folder, "render a.pdf --pages 9 -o b.png").err,
             Catch::StartsWith("lumvet: ") && Catch::Contains("there is 1 page"));
}

TEST_CASE("what is there already can be left out", "[tool]") {
  const TemporaryFolder folder;
  fs::create_directory(folder / "in");
  for (const char* name : {"in/a.pdf", "in/b.pdf"}) test::write_file(folder / name, blank(3));
  CHECK(run(folder, "render in/a.pdf --pages 2 -o 'p{page}.png'").code == 0);
  CHECK(run(folder, "render in/a.pdf -o 'p{page}.png'").code == 1);
  const Ran rest = run(folder, "render in/a.pdf -o 'p{page}.png' --skip-existing");
  CHECK(rest.code == 0);
  CHECK_THAT(rest.out,
             Catch::Contains("p1.png") && !Catch::Contains("p2.png") && Catch::Contains("p3.png"));
  CHECK(run(folder, "linearize in/a.pdf -o out/").code == 0);
  CHECK(run(folder, "linearize in -o out").code == 1);
  const Ran others = run(folder, "linearize in -o out --skip-existing");
  CHECK(others.code == 0);
  CHECK_THAT(others.out, !Catch::Contains("out/a.pdf"));
}

TEST_CASE("what cannot be read of a folder is told, and the rest is done", "[tool]") {
  const TemporaryFolder folder;
  fs::create_directory(folder / "in");
  test::write_file(folder / "in/a.pdf", blank(1));
  fs::create_symlink("nowhere.pdf", folder / "in/b.pdf");
  for (const char* verb : {"merge in -o book.pdf", "linearize in -o out"}) {
    const Ran ran = run(folder, verb);
    CHECK(ran.code == 0);
    CHECK_THAT(ran.err, Catch::Contains("in/b.pdf is a link that leads nowhere"));
  }
  CHECK(Document::open(folder / "book.pdf")->page_count() == 1);
  CHECK(run(folder, "merge in -o strict.pdf --strict").code == 1);
}

TEST_CASE("a run that is interrupted says so and leaves nothing half done", "[tool]") {
  const TemporaryFolder folder;
  test::write_file(folder / "a.pdf", blank(2000, "0 0 2000 2000"));
  // A shell starts what runs in the background with SIGINT ignored, timeout does not.
  const Ran ran = shell(folder,
                        "mkdir p; timeout -s INT 1 \"$lumvet\" render a.pdf --dpi 150 -o p/ "
                        "--threads 1; exit $?");
  CHECK_THAT(ran.err, Catch::Contains("stopping"));
  std::size_t made = 0;
  for (const auto& entry : fs::directory_iterator(folder / "p")) {
    CHECK(entry.path().extension() == ".png");
    CHECK(fs::file_size(entry.path()) > 1000);
    ++made;
  }
  CHECK(made < 2000);
}

TEST_CASE("a part that is larger than was asked for is told", "[tool]") {
  const TemporaryFolder folder;
  test::write_file(folder / "a.pdf", blank(2));
  const Ran small = run(folder, "split a.pdf --at-most 100B -o parts");
  CHECK(small.code == 0);
  CHECK_THAT(small.err, Catch::Contains("a-2.pdf has"));
  CHECK(run(folder, "split a.pdf --at-most 1MB -o one").err.empty());
}

TEST_CASE("help fits on a screen, and what all verbs share has a page of its own", "[tool]") {
  const TemporaryFolder folder;
  const auto lines = [&](const std::string& verb) {
    const std::string text = run(folder, verb).out;
    return std::count(text.begin(), text.end(), '\n');
  };
  for (const char* verb :
       {"--help", "merge --help", "split --help", "arrange --help", "attach --help", "set --help",
        "linearize --help", "protect --help", "repair --help", "render --help", "help saving"}) {
    CAPTURE(verb);
    CHECK(lines(verb) > 5);
    CHECK(lines(verb) <= 60);
  }
  const std::string shared = run(folder, "help saving").out;
  CHECK_THAT(shared, Catch::Contains("--layout") && Catch::Contains("--owner-password-file") &&
                         Catch::Contains("[default: compact]") &&
                         Catch::Contains("--remove-protection"));
  CHECK_THAT(run(folder, "split --help").out,
             Catch::Contains("lumvet help saving") &&
                 Catch::Contains("\nWhere to cut, one of:\n  --every") &&
                 !Catch::Contains("--cipher"));
}

TEST_CASE("lack of memory is told in a sentence, and nothing is printed in part", "[tool]") {
  if (test::kIsSanitized) return;  // which needs terabytes of addresses
  const test::TemporaryFolder folder;
  test::PdfBuilder pdf;
  pdf.page("");
  pdf.object(9, "<</Title(" + std::string(40'000'000, 'x') + ")>>");
  test::write_file(folder / "a.pdf", pdf.finish("/Root 1 0 R/Info 9 0 R"));
  const Ran ran = shell(folder, "ulimit -v 220000; exec \"$lumvet\" inspect a.pdf --json");
  CHECK(ran.code == 1);
  CHECK(ran.out.empty());
  CHECK_THAT(ran.err, Catch::Contains("lumvet: there is not enough memory for this"));
}

// SPDX-License-Identifier: Apache-2.0
// Many documents in one run of the real tool, those that arrive in a folder among them, and
// documents side by side.
#include <sys/types.h>

#include <csignal>
#include <nlohmann/json.hpp>
#include <thread>

#include "apps/tool/incoming_folder.h"
#include "lumvet/lumvet.h"
#include "tests/support/blank.h"
#include "tests/support/catch.h"
#include "tests/support/office.h"
#include "tests/support/run_tool.h"

using namespace lumvet;
using Json = nlohmann::json;
using test::blank;
using test::lay_out_office;
using test::Ran;
using test::run;
using test::TemporaryFolder;
namespace fs = std::filesystem;

namespace {

constexpr const char* kWatch = "linearize in -o out --watch --once --settled-after 0.02";

std::vector<Json> lines(const std::string& text) {
  std::vector<Json> all;
  std::istringstream in(text);
  for (std::string line; std::getline(in, line);) all.push_back(Json::parse(line));
  return all;
}

}  // namespace

TEST_CASE("a folder stands for its documents", "[tool]") {
  const TemporaryFolder folder;
  fs::create_directory(folder / "in");
  test::write_file(folder / "in/b.PDF", blank(2));
  test::write_file(folder / "in/a.pdf", blank(1));
  test::write_file(folder / "in/.c.pdf", blank(1));
  test::write_file(folder / "in/notes.txt", "x");
  test::write_file(folder / "single.pdf", blank(3));
  const Ran ran = run(folder, "linearize in single.pdf -o out --json");
  CHECK(ran.code == 0);
  const Json told = Json::parse(ran.out);
  REQUIRE(told.size() == 3);
  CHECK(told[0]["file"] == "out/a.pdf");
  CHECK(told[1]["file"] == "out/b.PDF");
  CHECK(told[2]["pages"] == 3);
  CHECK(Document::open(folder / "out/b.PDF")->is_linearized());
  CHECK(run(folder, "repair in -o mended").code == 0);
  CHECK(Document::open(folder / "mended/b.PDF")->page_count() == 2);
  fs::create_directory(folder / "empty");
  CHECK(run(folder, "repair empty -o mended").code == 1);
}

TEST_CASE("documents that arrive in a folder are saved once each", "[tool]") {
  const TemporaryFolder folder;
  fs::create_directory(folder / "in");
  test::write_file(folder / "in/a.pdf", blank(1));
  test::write_file(folder / "in/b.pdf", blank(2));
  test::write_file(folder / "in/no.pdf", "no document");
  const Ran first = run(folder, kWatch);
  CHECK(first.code == 1);
  CHECK_THAT(first.out, Catch::Contains("out/a.pdf  1 page,") &&
                            Catch::Contains("2 documents saved, 1 put aside"));
  CHECK(Document::open(folder / "out/b.pdf")->is_linearized());
  CHECK(fs::exists(folder / "in/failed/no.pdf"));
  CHECK_THAT(test::read_file(folder / "in/failed/no.pdf.txt"),
             Catch::Contains("not a PDF document"));
  CHECK(fs::exists(folder / "in/a.pdf"));

  const std::string before = test::read_file(folder / "out/a.pdf");
  fs::remove(folder / "out/b.pdf");  // fetched away; that is no reason to make it again
  test::write_file(folder / "in/c.pdf", blank(3));
  const Ran second = run(folder, std::string(kWatch) + " --json");
  CHECK(second.code == 0);
  const auto told = lines(second.out);
  REQUIRE(told.size() == 1);
  CHECK(told[0]["file"] == "out/c.pdf");
  CHECK(told[0]["pages"] == 3);
  CHECK_FALSE(fs::exists(folder / "out/b.pdf"));
  CHECK(test::read_file(folder / "out/a.pdf") == before);

  // A new document under an old name is not put in its place unless that is asked for.
  test::write_file(folder / "in/a.pdf", blank(5));
  CHECK(run(folder, std::string(kWatch) + " --failed-folder aside").code == 1);
  CHECK(test::read_file(folder / "out/a.pdf") == before);
  fs::rename(folder / "aside/a.pdf", folder / "in/a.pdf");
  CHECK(run(folder, std::string(kWatch) + " --replace").code == 0);
  CHECK(Document::open(folder / "out/a.pdf")->page_count() == 5);
}

TEST_CASE("what was begun when the program was killed is done after all", "[tool]") {
  const TemporaryFolder folder;
  fs::create_directory(folder / "in");
  test::write_file(folder / "in/a.pdf", blank(4));
  {
    auto incoming =
        tool::IncomingFolder::open(folder / "in", {.settles_in = std::chrono::milliseconds(1)})
            .value();
    REQUIRE(incoming.ready().ok());
    std::this_thread::sleep_for(std::chrono::milliseconds(5));
    const auto files = incoming.ready().value();
    REQUIRE(files.size() == 1);
    REQUIRE(incoming.begin(files[0]).ok());
  }
  fs::create_directory(folder / "out");
  test::write_file(folder / "out/a.pdf", "written just before the kill");
  CHECK(run(folder, kWatch).code == 0);
  CHECK(Document::open(folder / "out/a.pdf")->page_count() == 4);
}

TEST_CASE("what cannot be written is no fault of what arrived", "[tool]") {
  const TemporaryFolder folder;
  fs::create_directories(folder / "in");
  fs::create_directories(folder / "out/a.pdf");  // where no file can be
  test::write_file(folder / "in/a.pdf", blank(1));
  for (int i = 0; i < 3; ++i) {
    const Ran ran = run(folder, std::string(kWatch) + " --replace");
    CHECK(ran.code == 1);
    CHECK_THAT(ran.err, Catch::Contains("it is a folder"));
    CHECK(fs::exists(folder / "in/a.pdf"));
  }
  fs::remove(folder / "out/a.pdf");
  CHECK(run(folder, kWatch).code == 0);
  CHECK(Document::open(folder / "out/a.pdf")->page_count() == 1);
}

TEST_CASE("watching goes on until it is told to end", "[tool]") {
  const TemporaryFolder folder;
  fs::create_directory(folder / "in");
  const std::string command = "cd '" + folder.path().string() +
                              "' && exec '" LUMVET_TOOL
                              "' protect in -o out --watch --settled-after 0.02 --refuse copying "
                              ">told 2>&1 & echo $! >'" +
                              (folder / "pid").string() + "'";
  REQUIRE(std::system(command.c_str()) == 0);
  const pid_t watcher = std::stoi(test::read_file(folder / "pid"));
  const auto wait_for = [&](const fs::path& path) {
    for (int i = 0; i < 1000 && !fs::exists(path); ++i)
      std::this_thread::sleep_for(std::chrono::milliseconds(10));
    return fs::exists(path);
  };
  for (const char* name : {"a.pdf", "b.pdf"}) {
    test::write_file(folder / "in" / name, blank(2));
    REQUIRE(wait_for(folder / "out" / name));
    CHECK(Document::open(folder / "out" / name)->encryption());
  }
  REQUIRE(::kill(watcher, SIGTERM) == 0);
  for (int i = 0; i < 1000 && ::kill(watcher, 0) == 0; ++i)
    std::this_thread::sleep_for(std::chrono::milliseconds(10));
  CHECK_THAT(test::read_file(folder / "told"),
             Catch::Contains("watching in") && Catch::Contains("2 documents saved, 0 put aside"));
}

TEST_CASE("watching needs a folder of its own", "[tool]") {
  const TemporaryFolder folder;
  fs::create_directory(folder / "in");
  test::write_file(folder / "a.pdf", blank(1));
  CHECK(run(folder, "linearize a.pdf -o out --watch").code == 2);
  CHECK(run(folder, "linearize in -o in --watch").code == 2);
  CHECK(run(folder, "linearize a.pdf -o b.pdf --once").code == 2);
}

TEST_CASE("documents are held against each other by size and loading", "[tool]") {
  const TemporaryFolder folder;
  lay_out_office(folder);
  const Ran ran = run(folder, "linearize demo/report.pdf -o web.pdf --sizes --waterfall load.png");
  CHECK(ran.code == 0);
  CHECK_THAT(ran.out, Catch::Contains("What the bytes are for") && Catch::Contains("hint tables") &&
                          Catch::Contains("cross references") && Catch::Contains("then page 9"));
  CHECK(test::read_file(folder / "load.png").substr(1, 3) == "PNG");

  const Ran both = run(folder,
                       "inspect demo/report.pdf web.pdf --sizes --loading --load-pages 1,12 "
                       "--round-trip 100 --bandwidth 1 --json");
  CHECK(both.code == 0);
  const Json told = Json::parse(both.out);
  REQUIRE(told.size() == 2);
  const Json& plain = told[0]["loading"];
  const Json& linear = told[1]["loading"];
  CHECK(plain["by"] == "cross_references");
  CHECK(linear["by"] == "hints");
  CHECK(linear["pages"][1]["page"] == 12);
  CHECK(linear["pages"][0]["requests"] <= 2);
  CHECK(plain["pages"][0]["seconds"] > linear["pages"][0]["seconds"]);
  std::uint64_t bytes = 0;
  for (const Json& fetch : linear["pages"][0]["fetches"])
    bytes += fetch["length"].get<std::uint64_t>();
  CHECK(linear["pages"][0]["bytes"] == bytes);
  for (const Json& one : told) CHECK(one["sizes"]["all"] == one["loading"]["file_bytes"]);

  CHECK(run(folder, "inspect demo/report.pdf --waterfall load.png").code == 1);  // is there
  CHECK(run(folder, "inspect demo/report.pdf --waterfall load.pdf").code == 0);
  CHECK(Document::open(folder / "load.pdf")->page_count() == 1);
  CHECK(run(folder, "inspect demo/report.pdf --loading --load-pages 99").code == 1);
  CHECK(run(folder, "inspect demo/report.pdf --loading --bandwidth 0").code == 2);
  CHECK(run(folder, "linearize demo/report.pdf -o - --loading").code == 2);
  const Ran piped = run(folder, "linearize - -o piped.pdf --sizes <demo/report.pdf");
  CHECK(piped.code == 0);
  CHECK_THAT(piped.out, Catch::Contains("What the bytes are for"));
}

TEST_CASE("documents of one name do not replace each other", "[tool]") {
  const TemporaryFolder folder;
  for (const char* name : {"one", "two"}) {
    fs::create_directory(folder / name);
    test::write_file(folder / name / "a.pdf", blank(name == std::string("one") ? 1 : 2));
  }
  const Ran refused = run(folder, "linearize one/a.pdf two/a.pdf -o out/ --replace");
  CHECK(refused.code == 2);
  CHECK_THAT(refused.err, Catch::Contains("one/a.pdf and two/a.pdf would both become out/a.pdf"));
  CHECK_FALSE(fs::exists(folder / "out/a.pdf"));
  CHECK(run(folder, "linearize one two -o out/").code == 2);
}

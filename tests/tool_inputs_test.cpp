// SPDX-License-Identifier: Apache-2.0
// Files that options name may be pipes, which can be read once, and may be empty.
#include <sys/stat.h>

#include <fstream>

#include <lumvet/lumvet.h>

#include "tests/support/catch.h"
#include "tests/support/run_tool.h"

using test::run;

namespace {

// A pipe into which somebody writes once.
void pipe_with(const test::TemporaryFolder& folder, const std::string& name,
               const std::string& text) {
  const std::string path = (folder / name).string();
  REQUIRE(::mkfifo(path.c_str(), 0600) == 0);
  REQUIRE(std::system(("(printf '" + text + "' >'" + path + "') &").c_str()) == 0);
}

void copy_document(const test::TemporaryFolder& folder, const std::string& name) {
  std::filesystem::copy_file(std::string(LUMVET_SOURCE_DIR) + "/demo/producers/loads.pdf",
                             folder / name);
}

}  // namespace

TEST_CASE("a password out of a pipe locks every document of a run", "[tool]") {
  const test::TemporaryFolder folder;
  for (const char* name : {"a.pdf", "b.pdf", "c.pdf"}) copy_document(folder, name);
  pipe_with(folder, "secret", "ostrel\\n");
  REQUIRE(run(folder, "protect a.pdf b.pdf c.pdf -o out/ --user-password-file secret").code == 0);
  for (const char* name : {"out/a.pdf", "out/b.pdf", "out/c.pdf"}) {
    const auto locked = lumvet::Document::open(folder / name);
    REQUIRE_FALSE(locked.ok());
    CHECK(locked.error().code() == lumvet::ErrorCode::password);
    CHECK(lumvet::Document::open(folder / name, {.password = "ostrel"}).ok());
  }
  pipe_with(folder, "again", "ostrel\\n");
  CHECK(run(folder, "merge out/a.pdf out/b.pdf -o book.pdf --password-file again").code == 0);
}

TEST_CASE("an empty password file is no password", "[tool]") {
  const test::TemporaryFolder folder;
  copy_document(folder, "a.pdf");
  std::ofstream(folder / "owner") << "valley\n";
  std::ofstream(folder / "empty");
  std::ofstream(folder / "blank") << "\r\nostrel\n";
  for (const char* file : {"empty", "blank"}) {
    const auto user = run(folder,
                          "protect a.pdf -o locked.pdf --owner-password-file owner "
                          "--user-password-file " +
                              std::string(file));
    CHECK(user.code == 1);
    CHECK_THAT(user.err, Catch::Contains("is empty; leave --user-password-file out"));
    const auto owner =
        run(folder, "protect a.pdf -o locked.pdf --owner-password-file " + std::string(file));
    CHECK(owner.code == 1);
    CHECK_FALSE(std::filesystem::exists(folder / "locked.pdf"));
  }
  // Left out, it is what was meant.
  CHECK(
      run(folder, "protect a.pdf -o fixed.pdf --owner-password-file owner --refuse copying").code ==
      0);
  CHECK(lumvet::Document::open(folder / "fixed.pdf").ok());
}

TEST_CASE("an outline out of a pipe is set, and none is taken away by an empty file", "[tool]") {
  const test::TemporaryFolder folder;
  copy_document(folder, "a.pdf");
  pipe_with(folder, "contents", "1 Summary\\n1 Loads\\n");
  REQUIRE(run(folder, "set a.pdf --outline contents -o b.pdf").code == 0);
  const auto entries = [&](const char* name) {
    return lumvet::Document::open(folder / name)->outline()->size();
  };
  CHECK(entries("b.pdf") == 2);
  std::ofstream(folder / "empty") << "\n";
  const auto refused = run(folder, "set b.pdf --outline empty -o c.pdf");
  CHECK(refused.code != 0);
  CHECK_THAT(refused.err, Catch::Contains("--outline none"));
  CHECK_FALSE(std::filesystem::exists(folder / "c.pdf"));
  REQUIRE(run(folder, "set b.pdf --outline none -o c.pdf").code == 0);
  CHECK(entries("c.pdf") == 0);
  const auto folder_given = run(folder, "set b.pdf --outline . -o d.pdf");
  CHECK(folder_given.code == 1);
  CHECK_THAT(folder_given.err, Catch::Contains("the outline file . cannot be read"));
}

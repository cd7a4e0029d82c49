// SPDX-License-Identifier: Apache-2.0
// The real tool with documents that are made to cost more than they weigh: each verb does its work,
// or says which limit is met, and ends.
#include "lumvet/document/document.h"
#include "tests/support/blank.h"
#include "tests/support/catch.h"
#include "tests/support/run_tool.h"
#include "tests/support/sanitized.h"
#include "tests/support/shared_trees.h"

using namespace lumvet;
using test::Ran;
using test::run;
using test::TemporaryFolder;

TEST_CASE("every verb ends with every tree of shared nodes, done or at a limit", "[tool]") {
  const TemporaryFolder folder;
  constexpr int kDepth = 40;
  const std::vector<test::SharedTree> trees = test::shared_trees();
  constexpr std::size_t kStep = test::kIsSanitized ? 5 : 1;  // others ask the library itself
  for (std::size_t i = 0; i < trees.size(); i += kStep) {
    const test::SharedTree& tree = trees[i];
    test::write_file(folder / "tree.pdf", test::document_of(tree, kDepth, 2, false));
    for (const char* verb :
         {"inspect tree.pdf", "inspect tree.pdf --show all --json", "attach tree.pdf",
          "render tree.pdf --pages 1 --dpi 20 -o page.png --replace",
          "merge tree.pdf -o out.pdf --replace",
          "arrange tree.pdf 'rotate 1 right' -o out.pdf --replace",
          "linearize tree.pdf -o out.pdf --replace"}) {
      INFO(tree.name << ": " << verb);
      const Ran ran = run(folder, verb);
      CHECK((ran.code == 0 || ran.code == 1));
      if (ran.code == 1) CHECK_THAT(ran.err, Catch::Contains("lumvet: "));
      CHECK_THAT(ran.err,
                 !Catch::Contains("went wrong within") && !Catch::Contains("memory for this"));
    }
  }
}

TEST_CASE("a document that meets a limit is named, and those behind it are told", "[tool]") {
  const TemporaryFolder folder;
  const std::vector<test::SharedTree> trees = test::shared_trees();
  const auto fields = std::find_if(trees.begin(), trees.end(),
                                   [](const auto& tree) { return tree.name == "fields"; });
  REQUIRE(fields != trees.end());
  test::write_file(folder / "tree.pdf", test::document_of(*fields, 40, 2, false));
  test::write_file(folder / "plain.pdf", test::blank(2));
  const Ran ran = run(folder, "inspect tree.pdf plain.pdf");
  CHECK(ran.code == 1);
  CHECK_THAT(ran.err, Catch::StartsWith("lumvet: tree.pdf: ") &&
                          Catch::Contains("Limits::followed_bytes") &&
                          Catch::Contains("(while reading its form)"));
  CHECK_THAT(ran.out, Catch::Contains("plain.pdf") && Catch::Contains("2 pages"));
}

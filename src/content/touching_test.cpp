// SPDX-License-Identifier: Apache-2.0
#include "content/touching.h"

#include "lumvet/document/document.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using test::PdfBuilder;

namespace {

// One letter for each operation: t where it touches another, - where it does not.
std::string touching(const std::string& content) {
  PdfBuilder pdf;
  const std::string bytes = pdf.page(content, "/MediaBox[0 0 100 100]").finish();
  const Scene scene = Scene::record(test::open(bytes)->page(0).value()).value();
  std::string told;
  for (const content::Operation& operation : data_of(scene).operations)
    told += operation.touches ? 't' : '-';
  return told;
}

}  // namespace

TEST_CASE("shapes with a corner in common touch, in whatever order they come", "[content]") {
  CHECK(touching("10 10 20 20 re f 30 10 20 20 re f") == "tt");
  CHECK(touching("10 10 20 20 re f 70 70 5 5 re f 30 10 20 20 re f") == "t-t");
  CHECK(touching("10 10 20 20 re f 31 10 20 20 re f") == "--");
  CHECK(touching("10 10 m 20 30 l 40 10 l f 20 30 m 40 10 l 60 60 l f") == "tt");
  CHECK(touching("5 w 10 10 m 90 10 l S 10 15 m 90 15 l S 10 30 m 90 30 l S") == "tt-");
  CHECK(touching("1 J 5 w 10 10 m 90 10 l S 10 15 m 90 15 l S") == "--");
}

TEST_CASE("what fills its clip has the clip's corners, and the page's own clip joins nothing",
          "[content]") {
  CHECK(
      touching("q 10 10 20 20 re W n 0 0 100 100 re f Q q 30 10 20 20 re W n 0 0 100 100 re f Q") ==
      "tt");
  CHECK(touching("0 0 m 100 100 l 50 0 l f 20 60 10 10 re f") == "--");
  CHECK(touching("q 10 10 50 50 re W n 12 12 3 3 re f 30 30 3 3 re f Q") == "--");
}

TEST_CASE("neither a clip that is stated anew nor sides that are cut off join anything",
          "[content]") {
  const std::string star = "50 5 m 80 90 l 5 40 l 95 40 l 20 90 l h W n ";
  CHECK(touching("q " + star + "0 0 99 99 re f Q q " + star + "0 0 99 99 re f Q") == "--");
  // Boxes of one size, each within a clip of its own.
  CHECK(touching("q 5 5 9 9 re W n 0 0 99 99 re f Q q 40 40 9 9 re W n 0 0 99 99 re f Q") == "--");
  // A slanted shape reaches into its clip, wherever its corners are.
  CHECK(
      touching("-50 0 m 150 100 l 150 110 l -50 10 l f -50 10 m 150 110 l 150 120 l -50 20 l f") ==
      "tt");
}

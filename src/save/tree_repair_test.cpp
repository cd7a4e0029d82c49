// SPDX-License-Identifier: Apache-2.0
// Counts are worked out by hand.
#include "lumvet/save/repair.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;

namespace {

// An outline of two: the first open, with two below it of which the second, closed, has three.
std::string outline(const std::string& root, const std::string& first, const std::string& inner,
                    const std::string& leaf = "") {
  test::PdfBuilder pdf;
  pdf.object(1,
             "<</Type/Catalog/Pages 2 0 R/Outlines 4 0 R/Names<</Dests 20 0 R>>/PageLabels 21 0 "
             "R>>");
  pdf.object(2, "<</Type/Pages/Kids[3 0 R]/Count 1>>");
  pdf.object(3, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 9 9]>>");
  pdf.object(4, "<</Type/Outlines/First 5 0 R/Last 6 0 R" + root + ">>");
  pdf.object(5, "<</Title(A)/Parent 4 0 R/Next 6 0 R/First 7 0 R/Last 8 0 R" + first + ">>");
  pdf.object(6, "<</Title(B)/Parent 4 0 R/Prev 5 0 R" + leaf + ">>");
  pdf.object(7, "<</Title(A1)/Parent 5 0 R/Next 8 0 R>>");
  pdf.object(8, "<</Title(A2)/Parent 5 0 R/Prev 7 0 R/First 9 0 R/Last 11 0 R" + inner + ">>");
  pdf.object(9, "<</Title(A2a)/Parent 8 0 R/Next 10 0 R>>");
  pdf.object(10, "<</Title(A2b)/Parent 8 0 R/Prev 9 0 R/Next 11 0 R>>");
  pdf.object(11, "<</Title(A2c)/Parent 8 0 R/Prev 10 0 R/Next 9 0 R>>");  // a circle
  pdf.object(20, "<</Names[(a)[3 0 R/Fit]]/Limits[(a)(a)]>>");
  pdf.object(21, "<</Nums[0<</S/r>>]/Limits[0 0]>>");
  return pdf.finish("/Root 1 0 R");
}

Document repaired(const std::string& bytes, std::size_t findings) {
  BufferSink sink;
  const SaveReport report = repair(test::open(bytes).value(), sink).value();
  CHECK(report.findings.size() == findings);
  return Document::open(sink.take()).value();
}

std::string counts(const Document& document) {
  std::string text;
  const auto add = [&](const Dict& dict) { text += to_text(dict["Count"]) + " "; };
  const Dict root = document.resolve(document.catalog()["Outlines"]).value().as_dict();
  const Dict first = document.resolve(root["First"]).value().as_dict();
  add(root);
  add(first);
  add(document.resolve(first["Last"]).value().as_dict());
  add(document.resolve(root["Last"]).value().as_dict());
  return text;
}

}  // namespace

TEST_CASE("counts of an outline are put right, open or closed as they were", "[save]") {
  constexpr const char* kRight = "4 2 -3 null ";
  CHECK(counts(repaired(outline("/Count 4", "/Count 2", "/Count -3"), 1)) == kRight);
  CHECK(counts(repaired(outline("", "/Count 77", ""), 2)) == kRight);
  CHECK(counts(repaired(outline("/Count 9", "/Count 1", "/Count -1", "/Count 0"), 2)) == kRight);
  CHECK(counts(repaired(outline("/Count 4", "/Count 2", "/Count 1"), 2)) == "7 5 3 null ");
}

TEST_CASE("limits at the root of a tree are left out", "[save]") {
  const Document document = repaired(outline("/Count 4", "/Count 2", "/Count -3"), 1);
  const Dict names = document.resolve(document.catalog()["Names"]).value().as_dict();
  CHECK_FALSE(document.resolve(names["Dests"]).value().as_dict().contains("Limits"));
  CHECK_FALSE(
      document.resolve(document.catalog()["PageLabels"]).value().as_dict().contains("Limits"));
  CHECK(document.named_destinations().value().size() == 1);
  CHECK(document.page_label(0).value() == "i");
}

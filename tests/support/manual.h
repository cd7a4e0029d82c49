// SPDX-License-Identifier: Apache-2.0
// A small document of many pages.
#pragma once

#include <string>

#include "tests/support/pdf_builder.h"

namespace test {

// Pages of which each has a content and an image of its own, and which share fonts: of two in
// turn, the first also with an image of the third page. An outline, labels and properties.
inline lumvet::Document manual(int count, const std::string& catalog = "") {
  PdfBuilder pdf;
  const auto reference = [](int number) { return std::to_string(number) + " 0 R "; };
  std::string kids;
  for (int i = 0; i < count; ++i) {
    kids += reference(100 + 4 * i);
    pdf.object(100 + 4 * i, "<</Type/Page/Parent 2 0 R/Contents " + reference(101 + 4 * i) +
                                "/Resources<</Font<</F " + reference(5 + i % 2) +
                                ">>/XObject<</X " + reference(102 + 4 * i) +
                                (i == 0 && count > 2 ? "/Y " + reference(110) : "") +
                                ">>>>/Annots[" + reference(103 + 4 * i) + "]>>");
    pdf.stream(101 + 4 * i, "", std::string(static_cast<std::size_t>(20 + i % 7), ' ') + "/X Do");
    pdf.stream(102 + 4 * i, "/Subtype/Form/BBox[0 0 9 9]", std::to_string(i) + " w");
    pdf.object(103 + 4 * i, "<</Subtype/Link/Rect[0 0 9 9]/Dest[" +
                                reference(100 + 4 * ((i + 1) % count)) + "/Fit]>>");
  }
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/Outlines 3 0 R/PageLabels<</Nums[0<</S/r>>]>>" +
                    catalog + ">>");
  pdf.object(2, "<</Type/Pages/Kids[" + kids + "]/Count " + std::to_string(count) +
                    "/MediaBox[0 0 50 50]>>");
  pdf.object(3, "<</Type/Outlines/First 4 0 R/Last 4 0 R/Count 1>>");
  pdf.object(4, "<</Title(Bridges)/Parent 3 0 R/Dest[100 0 R/Fit]>>");
  pdf.object(5, "<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>");
  pdf.object(6, "<</Type/Font/Subtype/Type1/BaseFont/Courier>>");
  pdf.object(7, "<</Title(Manual)>>");
  return open(pdf.finish("/Root 1 0 R/Info 7 0 R")).value();
}

}  // namespace test

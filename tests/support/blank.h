// SPDX-License-Identifier: Apache-2.0
// A document of pages with nothing on them.
#pragma once

#include <string>

#include "tests/support/pdf_builder.h"

namespace test {

inline std::string blank(int pages, const std::string& box = "0 0 72 144") {
  PdfBuilder pdf;
  std::string kids;
  for (int i = 0; i < pages; ++i) {
    kids += std::to_string(10 + i) + " 0 R ";
    pdf.object(10 + i, "<</Type/Page/Parent 2 0 R/MediaBox[" + box + "]>>");
  }
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[" + kids + "]/Count " + std::to_string(pages) + ">>");
  return pdf.finish();
}

}  // namespace test

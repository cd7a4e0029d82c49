// SPDX-License-Identifier: Apache-2.0
// Pages of made-up documents, and pixels of them.
#pragma once

#include "lumvet/lumvet.h"
#include "tests/support/pdf_builder.h"

namespace test {

inline lumvet::Page page_of(const std::string& bytes) { return open(bytes)->page(0).value(); }

// Of a page of 100 by 100 points, unless its entries say something else.
inline lumvet::PixelColor pixel(const std::string& content, int x, int y,
                                const std::string& entries = "",
                                lumvet::RenderOptions options = {}) {
  PdfBuilder pdf;
  return render(page_of(pdf.page(content, "/MediaBox[0 0 100 100]" + entries).finish()), options)
      ->at(x, y);
}

}  // namespace test

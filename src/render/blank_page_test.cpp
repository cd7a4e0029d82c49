// SPDX-License-Identifier: Apache-2.0
#include "lumvet/render/blank_page.h"

#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;

TEST_CASE("a sheet with dust on it is blank, one with a line of text is not", "[render]") {
  const auto shows = [](const std::string& content) {
    const std::string bytes =
        test::PdfBuilder()
            .page(content,
                  "/MediaBox[0 0 595 842]/Resources<</Font<</F<</Type/Font/Subtype/Type1"
                  "/BaseFont/Helvetica>>>>>>")
            .finish();
    const Document document = Document::open(Bytes(bytes.begin(), bytes.end())).value();
    return !is_blank(document.page(0).value()).value();
  };
  CHECK_FALSE(shows(""));
  CHECK_FALSE(shows("0.9 g 0 0 595 842 re f 0 g 100 100 2 2 re f 300 700 3 3 re f"));
  CHECK(shows("BT /F 11 Tf 60 780 Td (Inspection of the bearings, sheet 7) Tj ET"));
  CHECK(shows("0 0 595 842 re f"));
}

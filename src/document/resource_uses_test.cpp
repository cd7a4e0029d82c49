// SPDX-License-Identifier: Apache-2.0
#include "lumvet/document/document.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using test::PdfBuilder;

TEST_CASE("fonts and images are found wherever a page uses them, each once", "[document]") {
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>")
      .object(2, "<</Type/Pages/Kids[3 0 R 4 0 R]/Count 2/MediaBox[0 0 9 9]>>")
      .object(3,
              "<</Type/Page/Parent 2 0 R/Resources<</XObject<</A 11 0 R/B 11 0 R/F 12 0 R>>"
              "/Pattern<</P 13 0 R>>>>/Annots[<</AP<</N<</On 14 0 R>>>>>>]>>")
      .object(4, "<</Type/Page/Parent 2 0 R/Resources<</Font<</T 20 0 R>>>>>>")
      .stream(11,
              "/Subtype/Image/Width 40/Height 30/BitsPerComponent 8/ColorSpace[/ICCBased 9 0 R]"
              "/Filter[/A85/DCTDecode]/SMask 15 0 R",
              "12345")
      .stream(12, "/Subtype/Form/Resources<</XObject<</M 16 0 R/F 12 0 R>>/Font<</T 20 0 R>>>>", "")
      .stream(13, "/PatternType 1/Resources<</XObject<</N 17 0 R>>>>", "")
      .stream(14, "/Subtype/Form/Resources<</Font<</U 21 0 R>>>>", "")
      .stream(16, "/Subtype/Image/Width 8/Height 8/ImageMask true/Filter/CCITTFaxDecode", "1")
      .stream(17, "/Subtype/Image/Width 2/Height 1/BitsPerComponent 8/ColorSpace/DeviceGray", "ab")
      .object(20, "<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>")
      .object(21,
              "<</Type/Font/Subtype/TrueType/BaseFont/ABCDEF+Ostrel/FontDescriptor<</FontFile2 9 0 "
              "R>>>>");
  const Document document = test::open(pdf.finish()).value();
  const std::vector<ImageUse> images = document.page(0)->images().value();
  REQUIRE(images.size() == 3);
  CHECK(images[0] ==
        ImageUse{{11, 0}, 40, 30, 8, "ICCBased", {"ASCII85Decode", "DCTDecode"}, 5, false, true});
  CHECK(images[1] == ImageUse{{16, 0}, 8, 8, 1, "", {"CCITTFaxDecode"}, 1, true, false});
  CHECK(images[2] == ImageUse{{17, 0}, 2, 1, 8, "DeviceGray", {}, 2, false, false});
  CHECK(document.page(1)->images().value().empty());
  CHECK(document.page(0)->fonts().value() ==
        std::vector<FontUse>{{"Helvetica", "Type 1", false, false},
                             {"Ostrel", "TrueType", true, true}});
  CHECK(document.page(1)->fonts().value().size() == 1);
  CHECK(document.fonts().value().size() == 2);
}

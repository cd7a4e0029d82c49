// SPDX-License-Identifier: Apache-2.0
#include "fonts/standard_widths.h"

#include "fonts/encoding.h"
#include "tests/support/catch.h"

using namespace lumvet;
using namespace lumvet::fonts;

TEST_CASE("the standard fonts are as wide as they are known to be", "[fonts]") {
  // Of the metrics that every printer has had since 1985.
  CHECK(standard_width("Helvetica", "A") == 667);
  CHECK(standard_width("Helvetica", "i") == 222);
  CHECK(standard_width("Helvetica-Oblique", "W") == 944);
  CHECK(standard_width("Helvetica-Bold", "i") == 278);
  CHECK(standard_width("Times-Roman", "space") == 250);
  CHECK(standard_width("Times-Roman", "m") == 778);
  CHECK(standard_width("Times-Bold", "A") == 722);
  CHECK(standard_width("Times-Italic", "A") == 611);
  CHECK(standard_width("Times-BoldItalic", "A") == 667);
  CHECK(standard_width("Courier-BoldOblique", "W") == 600);
  CHECK(standard_width("Symbol", "alpha") == 631);
  CHECK(standard_width("ZapfDingbats", "a1") == 974);
  CHECK(standard_width("Helvetica", "notaglyph") == std::nullopt);
  CHECK(standard_width("Verdana", "A") == std::nullopt);
  // Every glyph that their encodings have.
  for (const char* font : {"Helvetica", "Helvetica-Bold", "Times-Roman", "Times-Bold",
                           "Times-Italic", "Times-BoldItalic"})
    for (const char* name : {"StandardEncoding", "WinAnsiEncoding"})
      for (const std::string_view glyph : *find_encoding(name)) {
        CAPTURE(font, std::string(glyph));
        CHECK((glyph.empty() || standard_width(font, glyph)));
      }
  for (const char* font : {"Symbol", "ZapfDingbats"})
    for (const std::string_view glyph : *built_in_encoding(font))
      CHECK((glyph.empty() || standard_width(font, glyph)));
}

TEST_CASE("the Mac expert encoding has its own letters, which are read as plain ones", "[fonts]") {
  const EncodingTable& expert = *find_encoding("MacExpertEncoding");
  CHECK(expert[0x30] == "zerooldstyle");
  CHECK(expert[0x61] == "Asmall");
  CHECK(expert[0x57] == "fi");
  CHECK(expert[0xDA] == "onesuperior");
  CHECK(expert[0xFB] == "Ringsmall");
  CHECK(text_of_glyph("oneoldstyle") == "1");
  CHECK(text_of_glyph("Asmall") == "A");
  CHECK(text_of_glyph("small") == "");
}

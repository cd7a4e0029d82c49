// SPDX-License-Identifier: Apache-2.0
// Lines that go down the page, drawn character by character with a font that goes to the right.
#include "lumvet/lumvet.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;

namespace {

// A to Z stand for wide characters from U+6A4B on, as wide as they are high.
PageWords words_of(const std::string& content) {
  test::PdfBuilder pdf;
  pdf.page(content,
           "/MediaBox[0 0 600 800]/Resources<</Font<</F<</Type/Font/Subtype/Type0"
           "/BaseFont/Square/Encoding/Identity-H/DescendantFonts[8 0 R]/ToUnicode 9 0 R"
           ">>/L<</Type/Font/Subtype/Type1/BaseFont/Courier>>>>>>");
  pdf.object(8,
             "<</Type/Font/Subtype/CIDFontType2/BaseFont/Square/DW 1000/CIDSystemInfo<<"
             "/Registry(Own)/Ordering(Own)/Supplement 0>>>>");
  pdf.stream(9, "",
             "1 begincodespacerange <0000><FFFF> endcodespacerange 1 beginbfrange "
             "<0041> <005A> <6A4B> endbfrange");
  return PageWords::of(test::open(pdf.finish())->page(0).value()).value();
}

// Of letters drawn one by one from the head of a line on, so many points apart.
std::string line(double x, double y, const std::string& letters, double pitch = 12) {
  std::string content;
  for (std::size_t i = 0; i < letters.size(); ++i)
    content += "BT /F 12 Tf " + std::to_string(x) + " " +
               std::to_string(800 - y - pitch * static_cast<double>(i)) + " Td (" +
               std::string({'\\', '0', '0', '0', letters[i]}) + ") Tj ET\n";
  return content;
}

std::string wide(const std::string& letters) {
  std::string text;
  for (const char c : letters) {
    const int code = 0x6A4B + c - 'A';
    text += {static_cast<char>(0xE0 | code >> 12), static_cast<char>(0x80 | (code >> 6 & 63)),
             static_cast<char>(0x80 | (code & 63))};
  }
  return text;
}

}  // namespace

TEST_CASE("lines down the page are read from the right, to their last character", "[text]") {
  const PageWords words = words_of(line(300, 100, "ABCDEFG", 11) + line(282, 100, "HIJKLMN", 13) +
                                   line(264, 100, "OP") + line(246, 100, "Q"));
  CHECK(words.text() ==
        wide("ABCDEFG") + "\n" + wide("HIJKLMN") + "\n" + wide("OP") + "\n" + wide("Q"));
  // A character has its square, which reaches a little below the line that it stands on.
  const Quad quad = words.quads(0, 3).front();
  Rect box = Rect::nothing();
  for (const Point corner : quad) box.include(corner);
  CHECK(box.left == Approx(300).margin(0.1));
  CHECK(box.right == Approx(312).margin(0.1));
  CHECK(box.top == Approx(101.44).margin(0.1));
  CHECK(box.bottom == Approx(89.44).margin(0.1));
}

TEST_CASE("characters in a row, and a few below each other, are lines to the right", "[text]") {
  std::string content;
  for (int row = 0; row < 4; ++row)
    for (int column = 0; column < 4; ++column)
      content += line(100 + 12.0 * column, 100 + 14.0 * row,
                      std::string(1, static_cast<char>('A' + 4 * row + column)));
  CHECK(words_of(content).text() ==
        wide("ABCD") + "\n" + wide("EFGH") + "\n" + wide("IJKL") + "\n" + wide("MNOP"));
  CHECK(words_of(line(100, 100, "AB")).text() == wide("A") + "\n" + wide("B"));
}

// SPDX-License-Identifier: Apache-2.0
// Pages of lines that stand where a test wants them, and what is read on them.
#pragma once

#include <string>
#include <vector>

#include "lumvet/lumvet.h"
#include "tests/support/pdf_builder.h"

namespace test {

inline const std::string kFonts =
    "/MediaBox[0 0 600 800]/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont/Courier>>"
    "/U 9 0 R>>>>";

struct Shown {
  double x;
  double y;  // from the top
  std::string text;
  double size = 10;
  std::string font = "F";
};

inline std::string drawn(const std::vector<Shown>& pieces) {
  std::string content;
  for (const Shown& piece : pieces)
    content += "BT /" + piece.font + " " + std::to_string(piece.size) + " Tf " +
               std::to_string(piece.x) + " " + std::to_string(800 - piece.y) + " Td (" +
               piece.text + ") Tj ET\n";
  return content;
}

inline lumvet::PageWords words_of(const std::vector<Shown>& pieces) {
  PdfBuilder pdf;
  pdf.page(drawn(pieces), kFonts);
  pdf.object(9, "<</Type/Font/Subtype/Type1/BaseFont/Courier/ToUnicode 10 0 R>>");
  // Capitals are Hebrew letters.
  pdf.stream(10, "",
             "1 begincodespacerange <00><FF> endcodespacerange 2 beginbfrange <41> <56> <05D0> "
             "<30> <39> <0030> endbfrange");
  return lumvet::PageWords::of(open(pdf.finish())->page(0).value()).value();
}

inline std::string text(const std::vector<Shown>& pieces) { return words_of(pieces).text(); }

// Lines of prose that fill their column.
inline std::vector<Shown> column(double x, double y, const std::string& word, int lines) {
  std::vector<Shown> pieces;
  for (int i = 0; i < lines; ++i)
    pieces.push_back({x, y + 12 * i, word + std::to_string(i) + " beams and deck of all bridges"});
  return pieces;
}

inline std::string lines_of(const std::vector<Shown>& pieces) {
  std::string all;
  for (const Shown& piece : pieces) all += (all.empty() ? "" : "\n") + piece.text;
  return all;
}

// What a page in Helvetica says.
inline std::string said_on(const std::string& content) {
  PdfBuilder pdf;
  pdf.page(content,
           "/MediaBox[0 0 600 800]/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont"
           "/Helvetica>>/C<</Type/Font/Subtype/Type1/BaseFont/Courier>>>>>>");
  return lumvet::text_of(open(pdf.finish())->page(0).value()).value();
}

inline std::string at(double x, double y, const std::string& text) {
  return "1 0 0 1 " + std::to_string(x) + " " + std::to_string(y) + " Tm (" + text + ") Tj ";
}

}  // namespace test

// SPDX-License-Identifier: Apache-2.0
// A page with an annotation of every kind that can be drawn by its own entries, and none with an
// appearance.
#pragma once

#include <array>
#include <string>
#include <vector>

#include "tests/support/pdf_builder.h"

namespace test {

struct DrawnMark {
  const char* type;
  std::string entries;  // besides type, rectangle and flags
  lumvet::Rect rect;
  // Points of the page that have this color, in red, green and blue, when nothing else is there.
  std::vector<lumvet::Point> on;
  std::array<int, 3> color;
};

inline std::vector<DrawnMark> every_mark() {
  return {
      {"Square",
       "/C[1 0 0]/IC[1 1 0]/BS<</W 4>>",
       {10, 350, 60, 390},
       {{12, 370}, {35, 388}},
       {255, 0, 0}},
      {"Circle",
       "/C[0 0 1]/BS<</W 4>>/RD[5 5 5 5]",
       {70, 345, 130, 395},
       {{77, 370}, {123, 370}},
       {0, 0, 255}},
      {"Square",
       "/C[0 .5 0]/IC[0 .5 0]/BE<</S/C/I 1>>",
       {140, 345, 200, 395},
       {{170, 370}},
       {0, 128, 0}},
      {"Line",
       "/L[215 350 285 390]/C[0 .5 0]/BS<</W 3>>/LE[/ClosedArrow/Circle]/IC[1 0 0]",
       {210, 345, 290, 395},
       {{250, 370}},
       {0, 128, 0}},
      {"Line",
       "/L[20 300 120 300]/C[0 0 1]/BS<</W 3>>/LL 20/LLE 4/Cap true/Contents(4.2 m)",
       {10, 290, 130, 340},
       {{30, 320}, {110, 320}},
       {0, 0, 255}},
      {"Polygon",
       "/Vertices[150 295 200 295 175 335]/C[1 0 0]/IC[1 .5 .5]",
       {145, 290, 205, 340},
       {{175, 305}},
       {255, 128, 128}},
      {"PolyLine",
       "/Vertices[215 295 235 335 255 295 275 335]/C[1 0 1]/BS<</W 3>>/LE[/None/OpenArrow]",
       {210, 290, 280, 340},
       {{225, 315}, {245, 315}},
       {255, 0, 255}},
      {"Highlight",
       "/C[1 1 0]/QuadPoints[20 280 120 280 20 255 120 255]",
       {15, 250, 125, 285},
       {{70, 268}},
       {255, 255, 0}},
      {"Underline",
       "/C[1 0 0]/QuadPoints[150 280 200 280 150 248 200 248]",
       {145, 245, 205, 285},
       {{175, 250.5}},
       {255, 0, 0}},
      {"StrikeOut",
       "/C[1 0 0]/QuadPoints[215 280 285 280 215 248 285 248]",
       {210, 245, 290, 285},
       {{250, 261.5}},
       {255, 0, 0}},
      {"Squiggly",
       "/C[0 0 1]/QuadPoints[20 240 120 240 20 215 120 215]",
       {15, 210, 125, 245},
       {},
       {}},
      {"FreeText",
       "/DA(/Helv 12 Tf 1 0 0 rg)/C[.9 .9 1]/BS<</W 1>>/Contents(To be looked at\\nagain)/Q 1",
       {140, 195, 250, 240},
       {{145, 220}, {245, 200}},
       {230, 230, 255}},
      {"FreeText",
       "/DA(/Helv 9 Tf 0 g)/IT/FreeTextCallout/CL[20 160 60 180 80 "
       "180]/LE/OpenArrow/Contents(crack)"
       "/RD[70 2 2 2]/BS<</W 2>>",
       {10, 150, 130, 200},
       {{40, 170}},
       {0, 0, 0}},
      {"Text",
       "/Name/Comment/C[0 1 1]/Contents(note)",
       {150, 160, 170, 180},
       {{167, 176}},
       {0, 255, 255}},
      {"FileAttachment", "/Name/Tag/C[0 1 0]", {190, 160, 210, 180}, {{204, 165}}, {0, 255, 0}},
      {"Sound", "/C[0 1 0]", {220, 160, 240, 180}, {{226, 170}}, {0, 255, 0}},
      {"Caret", "/C[1 0 0]", {260, 160, 280, 180}, {{270, 166}}, {255, 0, 0}},
      {"Stamp", "/Name/NotApproved/C[0 .4 0]", {20, 100, 130, 140}, {{75, 102}}, {0, 102, 0}},
      {"Ink",
       "/C[0 0 1]/BS<</W 4>>/InkList[[150 105 170 135 190 105]]",
       {145, 100, 195, 140},
       {{170, 134.5}},
       {0, 0, 255}},
      {"Redact",
       "/C[1 0 0]/QuadPoints[215.5 134.5 284.5 134.5 215.5 105.5 284.5 105.5]",
       {210, 100, 290, 140},
       {{215.5, 120}},
       {255, 0, 0}},
      {"Link", "/C[1 0 0]/BS<</W 3>>", {20, 50, 80, 80}, {{21, 65}}, {255, 0, 0}},
      {"Link", "/C[0 0 1]/BS<</W 3/S/U>>", {90, 50, 140, 80}, {{115, 51}}, {0, 0, 255}},
      {"Screen", "", {150, 40, 210, 90}, {{155, 45}}, {230, 230, 230}},
      {"Movie", "", {220, 40, 280, 90}, {{225, 45}}, {230, 230, 230}},
  };
}

// Those that can be made.
inline std::vector<DrawnMark> every_made_mark() {
  std::vector<DrawnMark> marks = every_mark();
  std::erase_if(marks, [](const DrawnMark& mark) {
    const std::string type = mark.type;
    return type == "Sound" || type == "Movie" || type == "Screen";
  });
  return marks;
}

// On 300 by 400 points.
inline std::string marked_page(const std::vector<DrawnMark>& marks, const std::string& page = "") {
  PdfBuilder pdf;
  std::string list;
  int number = 10;
  for (const DrawnMark& mark : marks) {
    const auto text = [](double value) { return std::to_string(value) + " "; };
    pdf.object(number, std::string("<</Type/Annot/Subtype/") + mark.type + "/F 4/Rect[" +
                           text(mark.rect.left) + text(mark.rect.bottom) + text(mark.rect.right) +
                           text(mark.rect.top) + "]" + mark.entries + ">>");
    list += std::to_string(number++) + " 0 R ";
  }
  pdf.page("", "/MediaBox[0 0 300 400]/Annots[" + list + "]" + page);
  return pdf.finish();
}

}  // namespace test

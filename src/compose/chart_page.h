// SPDX-License-Identifier: Apache-2.0
// One page of texts and filled boxes, for images made of numbers.
//
// Threads: one thread at a time.
#pragma once

#include <array>
#include <string>
#include <vector>

#include "compose/text_font.h"
#include "lumvet/document/document.h"

namespace lumvet::compose {

using Color = std::array<double, 3>;  // red, green, blue from 0 to 1

enum class Side { left, middle, right };

class ChartPage {
 public:
  // Points.
  ChartPage(double width, double height, TextFont font)
      : width_(width), height_(height), font_(std::move(font)) {}

  // Measures are points from the top left corner, downward.
  void fill(double left, double top, double width, double height, const Color& color);
  // One line of UTF-8, cut to what has room. `x` is that side of it; `line` is where it stands.
  // What the font has no letter for is written as a question mark.
  void write(const std::string& text, double x, double line, double size, const Color& color,
             Side side = Side::left, double room = 1e9);

  // Errors: as TextFont::embed's and Document::open's.
  Result<Document> finish(const std::string& title) const;

 private:
  struct Text {
    ShapedLine line;
    double x;
    double y;
    double size;
    Color color;
  };
  ShapedLine shape(const std::string& text);

  double width_;
  double height_;
  TextFont font_;
  std::string boxes_;
  std::vector<Text> texts_;
};

}  // namespace lumvet::compose

// SPDX-License-Identifier: Apache-2.0
// What is seen of a signature: a picture at the left, and lines of text at its right, in the size
// that fills the room.
#include <algorithm>

#include "sign/placing.h"

namespace lumvet::signing {
namespace {

constexpr double kMargin = 3;           // points
constexpr double kLeastSize = 4;        // points
constexpr double kMostSize = 11;        // points
constexpr double kNameSize = 1.15;      // of the other lines
constexpr double kPictureShare = 0.42;  // of the width, beside text

Result<SetParagraph> set(const std::vector<std::string>& lines, double size, double width) {
  Paragraph text(ParagraphStyle{.align = ParagraphStyle::Align::left, .line_height = 1.2});
  for (std::size_t i = 0; i < lines.size(); ++i) {
    const bool is_first = i == 0;
    const TextStyle style{.face = Typeface::nearest(is_first ? "Helvetica-Bold" : "Helvetica"),
                          .size = is_first ? size * kNameSize : size,
                          .shows_missing = true};
    text.add((is_first ? "" : "\n") + lines[i], style);
  }
  return text.set(width);
}

}  // namespace

Result<Drawing> drawing_of(const SignatureMark& mark, double width, double height,
                           const std::vector<std::string>& lines) {
  if (mark.drawing) {
    Drawing sheet(width, height);
    sheet.scale(width / mark.drawing->width(), height / mark.drawing->height());
    sheet.draw(*mark.drawing, {0, 0});
    LUMVET_RETURN_IF_ERROR(sheet.status());
    return sheet;
  }
  Drawing sheet(width, height);
  const double margin = std::min(kMargin, std::min(width, height) / 10);
  double left = margin;
  if (mark.picture) {
    const double share = mark.has_text ? kPictureShare : 1;
    const double room = (width - 2 * margin) * share - (mark.has_text ? margin : 0);
    sheet.draw(*mark.picture, {margin, margin, room, height - 2 * margin});
    left += room + 2 * margin;
  }
  if (mark.has_text && !lines.empty()) {
    const double room = width - margin - left;
    double size = std::min(kMostSize, height / 3);
    LUMVET_TRY(SetParagraph text, set(lines, size, room));
    while (text.height() > height - 2 * margin && size > kLeastSize) {
      size = std::max(kLeastSize, size * 0.92);
      LUMVET_TRY(text, set(lines, size, room));
    }
    const double top = std::max(margin, (height - text.height()) / 2);
    sheet.clip(box({0, 0, width, height}));
    sheet.write(text, {left, top});
  }
  LUMVET_RETURN_IF_ERROR(sheet.status());
  return sheet;
}

}  // namespace lumvet::signing

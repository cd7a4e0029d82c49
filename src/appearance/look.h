// SPDX-License-Identifier: Apache-2.0
// What an annotation or a field looks like, before it goes into a document.
//
// Threads: values.
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "lumvet/document/annotation.h"
#include "lumvet/draw/drawing.h"

namespace lumvet::appearance {

struct Look {
  Rect place;       // that it covers, in the page's space
  Drawing drawing;  // as large as that, y upward
};

// Whether a place is one that a page can have.
inline bool is_place(const Rect& place) {
  constexpr double kFarthest = 1e7;  // points
  const auto is_near = [](double at) { return at >= -kFarthest && at <= kFarthest; };
  return is_near(place.left) && is_near(place.bottom) && is_near(place.right) &&
         is_near(place.top) && place.width() > 0 && place.height() > 0;
}

// A drawing on that part of a page, in the page's space.
inline Drawing sheet_over(const Rect& place) {
  Drawing drawing(place.width(), place.height(), Drawing::Space::upward);
  drawing.transform(Matrix::translation(-place.left, -place.bottom));
  return drawing;
}

// In a space with y upward.
inline PageArea area_of(const Rect& r) { return {r.left, r.top, r.width(), r.height()}; }

// No more of a text than could be seen on a page, up to a whole character.
inline std::string seen_part(std::string text) {
  std::size_t most = 16'384;  // bytes
  if (text.size() <= most) return text;
  while (most > 0 && (static_cast<unsigned char>(text[most]) & 0xC0) == 0x80) --most;
  text.resize(most);
  return text;
}

// Of none, one, three or four parts (12.5.2); nothing for none.
inline std::optional<Color> color_of(const std::vector<double>& parts) {
  switch (parts.size()) {
    case 1: return Color::gray(parts[0]);
    case 3: return Color::rgb(parts[0], parts[1], parts[2]);
    case 4: return Color::cmyk(parts[0], parts[1], parts[2], parts[3]);
    default: return std::nullopt;
  }
}

}  // namespace lumvet::appearance

// SPDX-License-Identifier: Apache-2.0
// What an annotation looks like, and where that is drawn (ISO 32000-2, 12.5.5).
//
// Threads: free functions.
#pragma once

#include <optional>

#include "document/geometry_objects.h"

namespace lumvet::document {

// The normal appearance, by its state where there are several; a stream, or null. A box that does
// not say its state has the one that its field's value names.
inline Object normal_appearance(const objects::Resolver& resolver, const Dict& annotation) {
  const Object appearances = resolver.get(annotation, "AP");
  const Object normal = resolver.get(appearances.as_dict(), "N");
  if (normal.is_stream()) return normal;
  const Object state = resolver.get(annotation, "AS");
  if (state.is_name()) return resolver.get(normal.as_dict(), state.as_name());
  Object value = resolver.get(annotation, "V");
  if (value.is_null()) {
    const Object field = resolver.get(annotation, "Parent");
    value = resolver.get(field.as_dict(), "V");
  }
  return resolver.get(normal.as_dict(), value.is_name() ? value.as_name() : "Off");
}

// From a frame whose origin is its lower left corner to an area of that size, in which the frame
// stands turned to the left by quarter turns: 0, 90, 180 or 270 degrees. The frame of an area that
// is turned by 90 or 270 is as wide as the area is high.
inline Matrix turned_left(int degrees, double width, double height) {
  switch (degrees) {
    case 90: return {0, 1, -1, 0, width, 0};
    case 180: return {-1, 0, 0, -1, width, height};
    case 270: return {0, -1, 1, 0, 0, height};
    default: return {};
  }
}

// Whether annotations of a type have something to read or to look at that /Rotate turns, as several
// programs write it.
inline bool has_rotation(std::string_view type) {
  return type == "FreeText" || type == "Stamp" || type == "Caret" || type == "Line" ||
         type == "Watermark";
}

// By which something on a page stays upright as the page is turned, about the upper left corner of
// its place (12.5.3).
inline Matrix upright_about(const Rect& place, int rotation) {
  return Matrix::translation(-place.left, -place.top)
      .then(turned_left(rotation, 0, 0))
      .then(Matrix::translation(place.left, place.top));
}

// /Matrix of a form or pattern; the identity without one.
inline Matrix matrix_of(const objects::Resolver& resolver, const Dict& dict) {
  const std::vector<double> m = numbers_of(resolver, dict["Matrix"]);
  return m.size() == 6 ? Matrix{m[0], m[1], m[2], m[3], m[4], m[5]} : Matrix();
}

// By which a form, whose own matrix comes first, fits into an annotation's rectangle (algorithm 8);
// nothing for one without extent.
inline std::optional<Matrix> fitted(const objects::Resolver& resolver, const Dict& form,
                                    const Rect& place) {
  const auto box = rect_of(resolver, form["BBox"]);
  if (!box) return std::nullopt;
  const Rect seen = matrix_of(resolver, form).bounds_of(*box);
  if (seen.is_empty()) return std::nullopt;
  const double sx = place.width() / seen.width();
  const double sy = place.height() / seen.height();
  return Matrix{sx, 0, 0, sy, place.left - seen.left * sx, place.bottom - seen.bottom * sy};
}

}  // namespace lumvet::document

// SPDX-License-Identifier: Apache-2.0
// Letters that are pictures (tables CBDT and sbix of OpenType), as images of a page; and those that
// are made of others in several colors (COLR, version 0).
//
// Threads: internally synchronized.
#pragma once

#include <optional>
#include <vector>

#include "draw/face.h"
#include "draw/picture_data.h"
#include "lumvet/draw/color.h"

namespace lumvet::draw {

struct GlyphPicture {
  std::shared_ptr<const PictureData> picture;  // null for a glyph that shows nothing
  // Parts of the size, from where the glyph stands on its base line, y upward.
  double left = 0;
  double top = 0;
  double width = 0;
  double height = 0;
};

// A glyph that is a part of another, in its color, or in that of the text.
struct GlyphLayer {
  unsigned glyph = 0;
  std::optional<Color> color = {};
};
// From the lowest on; empty for a glyph that is its own outline. Colors that are shone through are
// as they look on white.
std::vector<GlyphLayer> layers_of_glyph(const Face& face, unsigned glyph);

// Each picture is the same one however often it is asked for.
GlyphPicture picture_of_glyph(const FacePtr& face, unsigned glyph);

}  // namespace lumvet::draw

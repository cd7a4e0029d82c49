// SPDX-License-Identifier: Apache-2.0
// Letters that are pictures (tables CBDT and sbix of OpenType), as images of a page.
//
// Threads: internally synchronized.
#pragma once

#include "draw/face.h"
#include "draw/picture_data.h"

namespace lumvet::draw {

struct GlyphPicture {
  std::shared_ptr<const PictureData> picture;  // null for a glyph that shows nothing
  // Parts of the size, from where the glyph stands on its base line, y upward.
  double left = 0;
  double top = 0;
  double width = 0;
  double height = 0;
};

// Each picture is the same one however often it is asked for.
GlyphPicture picture_of_glyph(const FacePtr& face, unsigned glyph);

}  // namespace lumvet::draw

// SPDX-License-Identifier: Apache-2.0
// A page in small, for lists of pages.
//
//   lumvet::Raster small = lumvet::thumbnail(page, {.side = 160}).value();
//
// Threads: free functions; pages may be shared.
#pragma once

#include "lumvet/render/render.h"

namespace lumvet {

struct ThumbnailOptions {
  int side = 128;  // pixels, of the longer side
  // Whether an image that the document brings along (ISO 32000-2, 12.3.4) is taken in place of
  // drawing: one of the page's shape, no smaller than asked for, and saved no earlier than the page
  // and its contents.
  bool embedded = true;
  RenderOptions render = {};  // all but the resolution
};

// Errors: invalid_argument for a side below 1 pixel; as render.
LUMVET_EXPORT Result<Raster> thumbnail(const Page& page, const ThumbnailOptions& options = {});
// Whether thumbnail() would take the image that the document brings along. Errors: io,
// need_more_data, limit.
LUMVET_EXPORT Result<bool> has_current_thumbnail(const Page& page, int side);

}  // namespace lumvet

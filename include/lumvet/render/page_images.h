// SPDX-License-Identifier: Apache-2.0
// Many pages as images: given to the application one after the other, or written to files.
//
//   lumvet::write_pages(document, {0, 1, 2}, {.pattern = "images/{name}-{page}.jpg"},
//                       {.dpi = 200});
//
// Pages are drawn several at a time; memory holds no more of them than there are threads.
// Threads: free functions; the callbacks are called from one thread at a time.
#pragma once

#include <string>
#include <vector>

#include "lumvet/render/render.h"

namespace lumvet {

// Gets each page in the order asked for, on the calling thread; an error ends the work and is
// returned, and an exception reaches the caller once all threads have stopped. Pages are counted
// from 0. Errors: invalid_argument for a page that is not there; as render.
using TakePage = std::function<Status(int page, Raster raster)>;
LUMVET_EXPORT Status render_pages(const Document& document, const std::vector<int>& pages,
                                  const RenderOptions& options, const TakePage& take);

struct ImageFiles {
  // {page} is the page's number from 1 with leading zeros, {label} what is printed on it, {name}
  // the document's name without its folder and ending. The ending tells the format. A pattern
  // without {page} and {label} holds all pages in one file, if that can be.
  std::string pattern = "{name}-{page}.png";
  int quality = 85;      // 1 to 100, of JPEG and WebP
  bool lossless = true;  // of WebP
  IfExists if_exists = IfExists::refuse;
  Progress progress = {};  // pages, of all; of a page by itself its rows of pixels
};

struct ImageFile {
  int page = 0;  // from 0
  std::filesystem::path path = {};
  int width = 0;   // pixels
  int height = 0;  // pixels
};

// Where each page would go. Errors: invalid_argument when names do not tell pages apart, when the
// format holds one image only, or for an unknown ending; io without the folder they go into;
// exists, with IfExists::refuse, when a file is there already.
LUMVET_EXPORT Result<std::vector<ImageFile>> plan_pages(const Document& document,
                                                        const std::vector<int>& pages,
                                                        const ImageFiles& files);
// Nothing is drawn unless all files can be written; each appears whole or not at all, and those
// written before an error stay. Each notes its resolution. Errors: as plan_pages, render and
// write_image.
LUMVET_EXPORT Result<std::vector<ImageFile>> write_pages(const Document& document,
                                                         const std::vector<int>& pages,
                                                         const ImageFiles& files,
                                                         const RenderOptions& options = {});

}  // namespace lumvet

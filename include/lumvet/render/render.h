// SPDX-License-Identifier: Apache-2.0
// Pages to pixels.
//
//   lumvet::Raster sheet = lumvet::render(page, {.dpi = 150}).value();
//
// For zooming and panning record the page once and draw the scene as often as wanted, straight into
// the application's own buffer:
//
//   lumvet::Scene scene = lumvet::Scene::record(page).value();
//   lumvet::render_into(scene, {pixels, 800, 600, 800 * 4}, {.scale = 2, .x = -300, .y = -120});
//
// The same bytes come out whatever the number of threads, and a part of a page drawn by itself
// equals that part of the whole.
// Threads: free functions; pages and scenes may be shared.
#pragma once

#include <optional>

#include "lumvet/base/progress.h"
#include "lumvet/content/scene.h"
#include "lumvet/raster/raster.h"

namespace lumvet {

struct RenderOptions {
  double dpi = 72;                // pixels to the inch
  std::optional<int> width = {};  // pixels; if given, dpi does not count
  Color background = kWhite;
  bool annotations = true;  // as RecordOptions', when a page is given
  Purpose purpose = Purpose::view;
  std::optional<std::vector<bool>> layers = {};
  int threads = 0;     // 0: as many as the machine has cores
  Limits limits = {};  // of the raster
  CancelToken cancel = {};
};

// Where a page lies on a buffer.
struct Viewport {
  double scale = 1;  // pixels to the point
  double x = 0;      // of the page's top left corner, in pixels of the buffer
  double y = 0;
};

// The whole page. Errors: as Scene::record; invalid_argument for a resolution that makes no sense;
// limit; cancelled.
LUMVET_EXPORT Result<Raster> render(const Page& page, const RenderOptions& options = {});
LUMVET_EXPORT Result<Raster> render(const Scene& scene, const RenderOptions& options = {});

// Fills the whole buffer: with the background, and the part of the page that lies on it. Sizes in
// the options do not count. Errors: invalid_argument, cancelled (the buffer then holds a part).
LUMVET_EXPORT Status render_into(const Scene& scene, const PixelBuffer& buffer,
                                 const Viewport& viewport, const RenderOptions& options = {});

}  // namespace lumvet

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

#include <functional>
#include <optional>

#include "lumvet/base/progress.h"
#include "lumvet/content/scene.h"
#include "lumvet/raster/image_file.h"

namespace lumvet {

// What becomes of all colors, the paper's among them: gray, or dark for light and light for dark,
// as one likes to read at night.
enum class Tone { as_drawn, gray, night };

struct RenderOptions {
  double dpi = 72;                    // pixels to the inch
  std::optional<int> width = {};      // pixels; if given, dpi does not count
  std::optional<PageArea> area = {};  // in place of the whole page; what lies beside it is paper
  PixelColor background = kWhite;     // the paper's color
  Tone tone = Tone::as_drawn;
  PixelFormat format = PixelFormat::rgba;   // of render and render_rows; a buffer has its own
  Halftone halftone = Halftone::threshold;  // of PixelFormat::bilevel
  RecordOptions record = {};  // how a page is recorded that is given instead of a scene
  // The screen's gamma, 0.5 to 3, by which the edges of letters are made to look even; with 1 they
  // are as opaque as they are covered, as on paper; below it dark letters look heavier.
  double text_gamma = 1;
  // Pixels, 0 to 1. Lines are as dark as they are wide; thinner ones than this are drawn this wide,
  // so that one alone can still be seen. Lines of width 0 are one pixel wide (ISO
  // 32000-2, 8.4.3.2).
  double thinnest_line = 0.2;
  int threads = 0;          // 0: as many as the machine has cores
  Limits limits = {};       // of the raster
  CancelToken cancel = {};  // of drawing, and of recording in place of record.cancel
  // Of render_rows and render_to: rows of pixels drawn, of all.
  Progress progress = {};
};

// Where a page lies on a buffer.
struct Viewport {
  double scale = 1;  // pixels to the point
  double x = 0;      // of the page's top left corner, in pixels of the buffer
  double y = 0;
};

// The whole page, or the area asked for. Errors: as Scene::record; invalid_argument for a
// resolution or an area that makes no sense; limit; cancelled.
LUMVET_EXPORT Result<Raster> render(const Page& page, const RenderOptions& options = {});
LUMVET_EXPORT Result<Raster> render(const Scene& scene, const RenderOptions& options = {});

// The pixels that render gives. Errors: invalid_argument for a resolution that makes no sense.
struct PixelSize {
  int width = 0;
  int height = 0;
};
LUMVET_EXPORT Result<PixelSize> pixel_size(const Scene& scene, const RenderOptions& options);

// The same in bands from the top, each given to `take`, so that a sheet of any size needs the
// memory of one band: about 16 MiB. An error of `take` ends the drawing and is returned. Errors: as
// render, but for limit.
using TakeRows = std::function<Status(const PixelBuffer& rows, int top)>;
LUMVET_EXPORT Status render_rows(const Scene& scene, const RenderOptions& options,
                                 const TakeRows& take);
// The same as the next image of a file, with an alpha channel only where the background is not
// opaque.
LUMVET_EXPORT Status render_to(ImageWriter& file, const Scene& scene,
                               const RenderOptions& options = {});

// Fills the whole buffer: with the background, and the part of the page that lies on it. Sizes in
// the options do not count. Errors: invalid_argument, cancelled (the buffer then holds a part).
LUMVET_EXPORT Status render_into(const Scene& scene, const PixelBuffer& buffer,
                                 const Viewport& viewport, const RenderOptions& options = {});

// The same quickly and coarsely, a quarter as fine each way: something to show while the sharp
// drawing is under way. Formats with alpha only, otherwise invalid_argument.
LUMVET_EXPORT Status preview_into(const Scene& scene, const PixelBuffer& buffer,
                                  const Viewport& viewport, const RenderOptions& options = {});

}  // namespace lumvet

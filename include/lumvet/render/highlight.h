// SPDX-License-Identifier: Apache-2.0
// What is found or selected, shown on a drawn page or cut out of it.
//
//   lumvet::Raster sheet = lumvet::render(scene, {.dpi = 144}).value();
//   lumvet::highlight(sheet, words.quads(hit.begin, hit.end), {.scale = 2});
//
// Threads: free functions; what is drawn on belongs to one thread at a time. Since: 0.2
#pragma once

#include <vector>

#include "lumvet/geometry/quad.h"
#include "lumvet/render/render.h"

namespace lumvet {

inline constexpr PixelColor kHighlighter{255, 214, 92, 255};

// Multiplies a color into the pixels whose middles lie within a quad, once where several overlap,
// as a pen for marking text does: dark letters stay dark. Errors: unsupported for
// PixelFormat::bilevel.
LUMVET_EXPORT Status highlight(const PixelBuffer& sheet, const std::vector<Quad>& quads,
                               const Viewport& viewport, PixelColor color = kHighlighter);
LUMVET_EXPORT Status highlight(Raster& sheet, const std::vector<Quad>& quads,
                               const Viewport& viewport, PixelColor color = kHighlighter);

// What lies within some quads, as a picture: as large as the box around them, with the background
// elsewhere. An area among the options does not count. Errors: as render's; invalid_argument
// without a quad.
LUMVET_EXPORT Result<Raster> picture_of(const Scene& scene, const std::vector<Quad>& quads,
                                        RenderOptions options = {});

}  // namespace lumvet

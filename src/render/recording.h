// SPDX-License-Identifier: Apache-2.0
#pragma once

#include "lumvet/render/render.h"

namespace lumvet::rendering {

// A page as options for drawing it want it recorded, stopped by what stops the drawing.
inline Result<Scene> record(const Page& page, const RenderOptions& options) {
  RecordOptions record = options.record;
  record.cancel = options.cancel;
  constexpr double kPointsPerInch = 72;
  const double width = options.area ? options.area->width : page.width();
  if (!record.zoom)
    record.zoom = options.width ? *options.width / width : options.dpi / kPointsPerInch;
  return Scene::record(page, record);
}

}  // namespace lumvet::rendering

// SPDX-License-Identifier: Apache-2.0
#include "lumvet/render/blank_page.h"

#include <algorithm>

namespace lumvet {

Result<bool> is_blank(const Page& page, const BlankOptions& options) {
  constexpr double kFineEnough = 50;  // dots to the inch: a line of text is not lost
  LUMVET_TRY(
      const Raster sheet,
      render(page, {.dpi = kFineEnough, .format = PixelFormat::gray, .cancel = options.cancel}));
  const ByteView pixels = sheet.bytes();
  const auto dark = std::count_if(pixels.begin(), pixels.end(),
                                  [&](std::uint8_t gray) { return gray < options.darkest; });
  return static_cast<double>(dark) <= options.most * static_cast<double>(pixels.size());
}

}  // namespace lumvet

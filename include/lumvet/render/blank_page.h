// SPDX-License-Identifier: Apache-2.0
// Whether a page shows anything, as a scanned sheet that parts others does not.
//
// Threads: free functions; pages may be shared.
#pragma once

#include "lumvet/document/page.h"
#include "lumvet/render/render.h"

namespace lumvet {

struct BlankOptions {
  int darkest = 200;     // grays from 0 to 255: what is lighter is paper, or what shines through it
  double most = 0.0005;  // so large a part of the sheet may be darker, as dust and staples are
  CancelToken cancel = {};
};

// Errors: as Scene::record's and render's. Since: 0.2
LUMVET_EXPORT Result<bool> is_blank(const Page& page, const BlankOptions& options = {});

}  // namespace lumvet

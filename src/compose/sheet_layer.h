// SPDX-License-Identifier: Apache-2.0
// Lays copies of pages onto sheets, and lets what leads to them follow.
//
// Threads: free functions.
#pragma once

#include <vector>

#include "assemble/binder.h"
#include "lumvet/assemble/paper.h"
#include "lumvet/draw/drawing.h"

namespace lumvet::compose {

// Where a page lies on its sheet, from the sheet's top left corner.
struct OnSheet {
  PageArea area;
  bool is_framed = false;
};

// The pages, each as a form in the middle of its area; `on` says where each of them lies. Errors:
// as decoding streams.
Status lay_on_sheets(file::Ledger& ledger, const std::vector<assemble::LaidPage>& pages,
                     const std::vector<OnSheet>& on, const PaperSize& paper);

}  // namespace lumvet::compose

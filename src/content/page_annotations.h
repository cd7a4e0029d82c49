// SPDX-License-Identifier: Apache-2.0
// Annotations over a page that has been run: by their appearances (ISO 32000-2, 12.5.5), and by
// their own entries where they have none.
//
// Threads: free functions.
#pragma once

#include "content/interpreter.h"

namespace lumvet::content {

struct PageRun {
  const Page& page;
  const RecordOptions& options;
  Canvas& canvas;
  TextRecorder& text;
  ClipId sheet;  // around all that the page shows
  bool draws_letters = true;
};

// Errors: as Interpreter's.
Status draw_annotations(const PageRun& run, Interpreter& interpreter);

}  // namespace lumvet::content

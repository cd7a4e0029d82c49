// SPDX-License-Identifier: Apache-2.0
// The memory that one thread prepares or paints with. It is used again for the next page: asking
// the system for it anew costs more than drawing what is simple.
//
// Threads: a Workspace is for one thread at a time; borrow_workspace is internally synchronized.
#pragma once

#include <memory>
#include <vector>

#include "lumvet/base/bytes.h"
#include "raster/coverage.h"
#include "render/glyph_cache.h"
#include "render/shared_edges.h"

namespace lumvet::rendering {

struct Workspace {
  raster::Coverage coverage{raster::PixelRect{}};
  SharedEdges shared;
  GlyphCache glyphs;
  std::vector<Bytes> rooms;  // of layers and soft masks that are done
  Bytes apart;               // a tile that is nobody's paper
  Bytes colors;              // of an area
  Bytes shapes;              // of a row
  Bytes opacities;           // of a row
  Bytes values;              // of a row
  Bytes grays;               // of a row

  // One of the rooms, with whatever is in it, or a new one.
  Bytes take_room();
};

struct GiveBack {
  void operator()(Workspace* workspace) const;
};
using BorrowedWorkspace = std::unique_ptr<Workspace, GiveBack>;

// One that nobody uses; some are kept when they are given back.
BorrowedWorkspace borrow_workspace();

}  // namespace lumvet::rendering

// SPDX-License-Identifier: Apache-2.0
// The entries of a source's outline (ISO 32000-2, 12.3.3) that lead to pages taken along.
//
// Threads: free functions.
#pragma once

#include <vector>

#include "assemble/source_copier.h"
#include "document/outline_builder.h"

namespace lumvet::assemble {

struct CarriedOutline {
  std::vector<document::NewEntry> entries;
  int lost = 0;  // that led to pages which were not taken along
};

// Where an entry is left out, what is below it moves up; with `keeps_lost` those that lead nowhere
// now stay. `depth` is that of the outermost.
CarriedOutline carried_outline(SourceCopier& copier, int depth, bool keeps_lost);

}  // namespace lumvet::assemble

// SPDX-License-Identifier: Apache-2.0
// Viewports of a page and their measures (ISO 32000-2, 12.9 and 12.10).
#pragma once

#include "file/object_store.h"
#include "lumvet/document/measured_area.h"

namespace lumvet::document {

std::vector<MeasuredArea> read_measured_areas(const file::ObjectStore& store, const Dict& page);

}  // namespace lumvet::document

// SPDX-License-Identifier: Apache-2.0
// Viewports of a page and their measures (ISO 32000-2, 12.9 and 12.10).
#pragma once

#include "file/object_store.h"
#include "lumvet/document/measured_area.h"

namespace lumvet::document {

std::vector<MeasuredArea> read_measured_areas(const file::ObjectStore& store, const Dict& page);

// A measure dictionary, of a viewport or an annotation, and the other way round, of a drawing.
Measure read_measure(const file::ObjectStore& store, const Dict& dict);
Dict measure_dict(const Measure& measure);

}  // namespace lumvet::document

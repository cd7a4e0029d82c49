// SPDX-License-Identifier: Apache-2.0
// One indirect object at a place in the file (ISO 32000-2, 7.3.10), streams with their extent.
#pragma once

#include <functional>

#include "base/findings_list.h"
#include "lumvet/io/byte_source.h"
#include "lumvet/objects/object.h"

namespace lumvet::file {

struct IndirectObject {
  ObjectId id;
  Object value;
};

// Gives the value behind a /Length that is a reference; null when it cannot be had.
using LengthLookup = std::function<Object(ObjectId)>;

// Reads "12 0 obj … endobj" at `offset`. A wrong /Length is replaced by the distance to
// "endstream" and reported. Errors: malformed, limit, io, need_more_data.
Result<IndirectObject> read_object_at(const std::shared_ptr<const ByteSource>& source,
                                      std::uint64_t offset, const LengthLookup& length_of,
                                      int nesting, Findings& findings);

}  // namespace lumvet::file

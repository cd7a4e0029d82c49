// SPDX-License-Identifier: Apache-2.0
// Cross references made from the objects themselves: of every number, the last one in the file.
#pragma once

#include <functional>

#include "base/findings_list.h"
#include "file/scan.h"
#include "file/xref.h"

namespace lumvet::file {

// The numbers of the objects packed into the object stream at a place in the file.
using PackedNumbers = std::function<std::vector<std::uint32_t>(const ScannedObject&)>;

// Entries by number. What stands later in the file counts; packed objects stand where their stream
// does.
std::vector<XrefEntry> index_of(const Scan& scan, std::uint64_t most_objects,
                                const PackedNumbers& packed_numbers);

// What the trailers and cross-reference streams say, the last word of each entry that leads on:
// /Root, /Info, /ID, /Encrypt.
Dict trailer_of(const std::shared_ptr<const ByteSource>& source, const Scan& scan, int nesting,
                Findings& findings);

}  // namespace lumvet::file

// SPDX-License-Identifier: Apache-2.0
// Objects that are equal, with everything behind their references, become one: the fonts, images,
// profiles and forms that several sources have alike.
//
// Threads: free functions.
#pragma once

#include "file/ledger.h"

namespace lumvet::assemble {

bool have_equal_bytes(const Stream& a, const Stream& b);

// Only what may be shared without anybody noticing: no pages, annotations, fields, layers, entries
// of outlines or structure, which are themselves and not only what they say. Gives how many went.
// Objects numbered less than `from` stay.
std::size_t join_equal_objects(file::Ledger& ledger, std::uint32_t from = 0);

}  // namespace lumvet::assemble

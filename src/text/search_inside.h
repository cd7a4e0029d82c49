// SPDX-License-Identifier: Apache-2.0
// What a search looks for, and what marks the bytes of an index, for those that keep texts as they
// are compared.
#pragma once

#include <cstdint>
#include <optional>
#include <string>

#include "lumvet/base/bytes.h"
#include "lumvet/text/text_search.h"

namespace lumvet {

// Folded as text::folded does with nothing kept; none of a pattern, or where case or accents count.
std::optional<std::string> wanted_of(const TextSearch& search);

// How many bytes of a text on either side of a page's end can belong to what is looked for.
std::size_t reach_of(const TextSearch& search);

// Tells apart what differs by accident; nobody gains by making two alike.
std::uint64_t index_mark(ByteView bytes, std::uint64_t begin = 0);

}  // namespace lumvet

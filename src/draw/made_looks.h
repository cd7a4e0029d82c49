// SPDX-License-Identifier: Apache-2.0
// Pages that are drawn with what their annotations look like, also those that do not say it.
//
// Threads: free functions.
#pragma once

#include <optional>

#include "lumvet/document/page.h"

namespace lumvet::draw {

// The page in a document where each of its annotations says what it looks like; nothing where all
// do so already. The room `appearance` makes the looks, and draws them with this one. Errors: as
// DrawingWriter's.
Result<std::optional<Page>> with_made_looks(const Page& page);

}  // namespace lumvet::draw

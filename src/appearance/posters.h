// SPDX-License-Identifier: Apache-2.0
// The still pictures that stand for films and other media until they are played (ISO 32000-2,
// 12.5.6.18 and 13.4).
//
// Threads: free functions.
#pragma once

#include <optional>

#include "document/core.h"
#include "file/ledger.h"

namespace lumvet::appearance {

// A form of the ledger, as large as the annotation, that shows the poster of a film in all of it,
// or the icon of a screen as large as fits, in the middle; nothing where there is none.
std::optional<ObjectId> poster_form(const file::ObjectStore& store, const Dict& annotation,
                                    file::Ledger& ledger);

}  // namespace lumvet::appearance

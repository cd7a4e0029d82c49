// SPDX-License-Identifier: Apache-2.0
// Article threads and their beads (ISO 32000-2, 12.4.3).
#pragma once

#include "document/core.h"
#include "lumvet/document/article.h"

namespace lumvet::document {

std::vector<Article> read_articles(const Core& core);

// The beads of a thread in reading order, as the references that lead to them. They form a ring,
// which a damaged file may never close.
std::vector<Object> beads_of(const file::ObjectStore& store, const Dict& thread);

}  // namespace lumvet::document

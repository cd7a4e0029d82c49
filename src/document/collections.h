// SPDX-License-Identifier: Apache-2.0
// Collections of attachments (ISO 32000-2, 7.11.6), requirements (12.11) and slides (12.4.4).
#pragma once

#include <optional>

#include "document/core.h"
#include "lumvet/document/collection.h"
#include "lumvet/document/presentation.h"

namespace lumvet::document {

std::optional<Collection> read_collection(const Core& core);
std::vector<CollectionItem> read_collection_items(const file::ObjectStore& store,
                                                  const Dict& items);
std::vector<Requirement> read_requirements(const Core& core);
Presentation read_presentation(const file::ObjectStore& store, const Dict& page);

}  // namespace lumvet::document

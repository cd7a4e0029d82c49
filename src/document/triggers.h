// SPDX-License-Identifier: Apache-2.0
// Actions that events ask for (ISO 32000-2, 12.6.3).
#pragma once

#include "document/core.h"
#include "lumvet/document/action.h"

namespace lumvet::document {

// Of the additional actions (/AA) of a dictionary, in the standard's order.
enum class TriggerOwner { document, page, annotation, field };
std::vector<Trigger> read_triggers(const Core& core, const Dict& owner, TriggerOwner kind);

// Of the catalog, with the scripts that the document's names hold for its opening (7.7.4).
std::vector<Trigger> read_document_triggers(const Core& core);

}  // namespace lumvet::document

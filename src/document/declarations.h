// SPDX-License-Identifier: Apache-2.0
// What the catalog declares about the whole document: output intents (ISO 32000-2, 14.11.5) and
// extensions of the standard (7.12).
#pragma once

#include "document/core.h"
#include "lumvet/document/document.h"

namespace lumvet::document {

// Of the catalog, or of a page.
std::vector<OutputIntent> read_output_intents(const file::ObjectStore& store, const Dict& owner);
std::vector<Extension> read_extensions(const Core& core);

}  // namespace lumvet::document

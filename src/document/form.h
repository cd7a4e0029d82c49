// SPDX-License-Identifier: Apache-2.0
// The fields of the interactive form (ISO 32000-2, 12.7).
#pragma once

#include "document/core.h"
#include "lumvet/document/form.h"

namespace lumvet::document {

Form read_form(const Core& core);

// The field of one widget, with what it has from those above it; without its places and its name.
// Costs what the way up to the form does.
FormField field_of_widget(const Core& core, const Dict& widget);

}  // namespace lumvet::document

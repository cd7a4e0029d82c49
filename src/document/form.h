// SPDX-License-Identifier: Apache-2.0
// The fields of the interactive form (ISO 32000-2, 12.7).
#pragma once

#include "document/core.h"
#include "lumvet/document/form.h"

namespace lumvet::document {

Form read_form(const Core& core);

}  // namespace lumvet::document

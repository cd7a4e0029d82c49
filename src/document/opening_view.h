// SPDX-License-Identifier: Apache-2.0
// How a document asks to be shown (ISO 32000-2, 7.7.2, 12.2).
#pragma once

#include "document/core.h"
#include "lumvet/document/opening_view.h"

namespace lumvet::document {

OpeningView read_opening_view(const Core& core);

}  // namespace lumvet::document

// SPDX-License-Identifier: Apache-2.0
// Layers and their configurations (ISO 32000-2, 8.11).
#pragma once

#include "document/core.h"
#include "lumvet/document/layers.h"

namespace lumvet::document {

Layers read_layers(const Core& core);

}  // namespace lumvet::document

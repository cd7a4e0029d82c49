// SPDX-License-Identifier: Apache-2.0
// Predictors of FlateDecode and LZWDecode (ISO 32000-2, 7.4.4.4).
#pragma once

#include "lumvet/objects/object.h"

namespace lumvet::filters {

// Replaces predicted rows by the rows themselves, in place; a last row that is cut off keeps what
// is there. Errors: malformed for parameters that make no sense.
Status undo_predictor(const Dict& parameters, Bytes& bytes);

}  // namespace lumvet::filters

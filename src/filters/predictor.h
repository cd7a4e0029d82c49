// SPDX-License-Identifier: Apache-2.0
// Predictors of FlateDecode and LZWDecode (ISO 32000-2, 7.4.4.4).
#pragma once

#include "filters/decoder.h"

namespace lumvet::filters {

// Replaces predicted rows by the rows themselves, in place; a last row that is cut off keeps what
// is there. Errors: malformed for parameters that make no sense.
Status undo_predictor(const Dict& parameters, Bytes& bytes);

// The same piece by piece; the input itself when nothing was predicted.
Result<DecodingPtr> predicted(DecodingPtr input, const Dict& parameters);

}  // namespace lumvet::filters

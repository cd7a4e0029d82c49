// SPDX-License-Identifier: Apache-2.0
// What signatures say of themselves, by their fields and dictionaries (ISO 32000-2, 12.8.1).
//
// Threads: free functions.
#pragma once

#include "lumvet/sign/verification.h"

namespace lumvet::signing {

bool is_signed(const FormField& field);
// Errors: io, need_more_data, limit.
Result<SignatureClaim> claim_of(const Document& document, const FormField& field);

}  // namespace lumvet::signing

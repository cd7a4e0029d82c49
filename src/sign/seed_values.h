// SPDX-License-Identifier: Apache-2.0
// What a signature field asks of whoever signs it (ISO 32000-2, 12.7.5.5, table 237).
//
// Threads: free functions.
#pragma once

#include "lumvet/sign/signing.h"
#include "objects/resolver.h"

namespace lumvet::signing {

// Whether the request is what the field asks for. Errors: invalid_argument, with what it asks for;
// unsupported for what it asks for and nobody can give.
Status check_seed_values(const objects::Resolver& resolver, const Dict& field,
                         const SignRequest& request);
// The certification that it asks for, where the request names none.
Certification seeded_certification(const objects::Resolver& resolver, const Dict& field,
                                   const SignRequest& request);

const char* sub_filter_of(SignatureForm form);

}  // namespace lumvet::signing

// SPDX-License-Identifier: Apache-2.0
// New encryption dictionaries and the keys that go with them (ISO 32000-2, 7.6.4 and 7.6.5).
//
// Threads: free functions.
#pragma once

#include "lumvet/base/result.h"
#include "lumvet/objects/object.h"
#include "lumvet/security/new_protection.h"

namespace lumvet::security {

struct NewLock {
  Dict dictionary;
  Bytes key;
};

// `document_id` is the first of /ID. Keys and salts are random. Errors: invalid_argument for a
// password that cannot be written in the revision, no password at all and a certificate that is
// none; unsupported for a cipher that the machine lacks.
Result<NewLock> make_lock(const NewProtection& protection, std::string_view document_id);

}  // namespace lumvet::security

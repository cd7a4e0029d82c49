// SPDX-License-Identifier: Apache-2.0
// What is other in a document than it was when it was signed, and whether that is allowed (ISO
// 32000-2, 12.8.2.2 and 12.8.2.4).
//
// Threads: free functions.
#pragma once

#include "lumvet/sign/verification.h"

namespace lumvet::signing {

// What a signature allows to be changed after it.
struct ChangeRules {
  Certification certification = Certification::none;
  std::vector<FieldLock> locks = {};
};

// By a signature's dictionary. What could not be read ends the attempt at work.
ChangeRules change_rules(const Document& document, const Dict& signature);

// Errors: io, need_more_data, limit.
Result<std::vector<LaterChange>> later_changes(const Document& as_signed, const Document& now,
                                               const ChangeRules& rules);

}  // namespace lumvet::signing

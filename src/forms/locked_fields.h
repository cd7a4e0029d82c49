// SPDX-License-Identifier: Apache-2.0
// Fields that nobody may change any more, since a signature would end (ISO 32000-2, 12.8.2.4).
//
// Threads: free functions.
#pragma once

#include "lumvet/base/result.h"
#include "lumvet/document/form.h"

namespace lumvet::forms {

// Errors: unsupported, with the field whose signature would end.
inline Status check_lock(const FormField& field) {
  if (field.locked_by.empty()) return Done{};
  return Error(ErrorCode::unsupported, "field '" + field.name +
                                           "' is locked by the signature in field '" +
                                           field.locked_by + "', which would end");
}

}  // namespace lumvet::forms

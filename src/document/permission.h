// SPDX-License-Identifier: Apache-2.0
// What the owner of a protected document lets its readers do (ISO 32000-2, table 22).
//
// Threads: free functions.
#pragma once

#include "lumvet/document/document.h"

namespace lumvet::document {

// Done when it may be done, by who opened the document; otherwise a password error. `what` says it
// in words: "pages be taken out of it".
inline Status check_permission(const Document& document, bool Permissions::*permission,
                               const char* what) {
  const auto encryption = document.encryption();
  if (!encryption || encryption->access == Access::owner || encryption->permissions.*permission)
    return Done{};
  return Error(ErrorCode::password, document.name() + " can be read, but its owner does not let " +
                                        what + "; open it with the owner's password");
}

}  // namespace lumvet::document

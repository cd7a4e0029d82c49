// SPDX-License-Identifier: Apache-2.0
// The form of a document (ISO 32000-2, 12.7.3), which stands in its catalog or is an object of its
// own.
//
// Threads: free functions.
#pragma once

#include "file/ledger.h"

namespace lumvet::editing {

// Empty without one.
inline Dict form_dict(const file::Ledger& ledger, const Dict& catalog) {
  return ledger.resolve(catalog["AcroForm"]).as_dict();
}

// Where the form stands; the catalog gets what changes in it.
inline void set_form_dict(file::Ledger& ledger, Dict& catalog, Dict form) {
  if (catalog["AcroForm"].is_reference())
    ledger.set(catalog["AcroForm"].as_reference(), std::move(form));
  else
    catalog.set("AcroForm", std::move(form));
}

}  // namespace lumvet::editing

// SPDX-License-Identifier: Apache-2.0
// Values of fields, and what they look like, as entries of a form in a ledger (ISO
// 32000-2, 12.7.5).
//
// Threads: one thread at a time.
#pragma once

#include <set>
#include <string>
#include <vector>

#include "appearance/made_appearances.h"
#include "file/ledger.h"
#include "lumvet/document/document.h"

namespace lumvet::forms {

class FieldWriter {
 public:
  FieldWriter(const Document& document, file::Ledger& ledger);

  // The field as it is read, with the values that it gets. Errors: unsupported for one that is no
  // object of its own; as AppearanceWriter's.
  Status set(const FormField& field);
  // Its looks alone.
  Status draw(const FormField& field);
  // Once all is written: fonts, and the pages that look otherwise.
  Status finish();

 private:
  const Document& document_;
  file::Ledger& ledger_;
  appearance::AppearanceWriter looks_;
  std::set<int> pages_;
};

// The name of the state that a box or a radio button has at one of its places for a value that was
// checked; "Off" when it is not that one.
std::string state_at(const FormField& field, std::size_t place);

}  // namespace lumvet::forms

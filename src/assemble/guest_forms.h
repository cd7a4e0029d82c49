// SPDX-License-Identifier: Apache-2.0
// Pages of other documents as drawings (form XObjects, ISO 32000-2, 8.10), each once in a ledger.
//
// Threads: one thread at a time.
#pragma once

#include <map>

#include "assemble/source_copier.h"

namespace lumvet::assemble {

class GuestForms {
 public:
  GuestForms(const Document& guest, file::Ledger& ledger)
      : guest_(guest), ledger_(ledger), copier_(guest, ledger) {}

  // The page with what its annotations look like, in its own space. Errors: as reading content.
  Result<ObjectId> form_of(const Page& page);
  // Which its resources came by.
  const SourceCopier& copier() const { return copier_; }

 private:
  Document guest_;
  file::Ledger& ledger_;
  SourceCopier copier_;
  std::map<int, ObjectId> forms_;
};

}  // namespace lumvet::assemble

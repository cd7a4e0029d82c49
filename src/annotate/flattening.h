// SPDX-License-Identifier: Apache-2.0
// Annotations and fields drawn into their pages, which look as before (ISO 32000-2, 12.5.5).
//
// Threads: one thread at a time.
#pragma once

#include <set>

#include "appearance/made_appearances.h"
#include "assemble/page_drawing.h"
#include "edit/structure_removal.h"
#include "lumvet/annotate/annotations.h"

namespace lumvet::annotate {

class Flattening {
 public:
  // The document that the ledger changes, and its catalog as it is there.
  Flattening(const document::Core& core, file::Ledger& ledger, Dict catalog,
             const FlattenOptions& options);

  // `id` is the page in the ledger, with all that it inherits. Errors: as reading its content.
  Status flatten(const Page& page, ObjectId id);
  // Once all pages are done. Gives the catalog.
  Result<Dict> finish();
  int count() const { return count_; }

 private:
  bool is_chosen(const Dict& annotation) const;
  Result<std::optional<assemble::Drawn>> drawn(const Dict& annotation, const Page& page);

  const document::Core& core_;
  file::Ledger& ledger_;
  Dict catalog_;
  const FlattenOptions& options_;
  editing::StructureRemoval structure_;
  appearance::AppearanceWriter looks_;
  int count_ = 0;
};

}  // namespace lumvet::annotate

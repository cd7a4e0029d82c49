// SPDX-License-Identifier: Apache-2.0
// The layers of a new document (ISO 32000-2, 8.11.4), from those of several that something on the
// pages taken along is in. Or such layers beside those of a document that there is.
//
// Threads: one thread at a time.
#pragma once

#include "assemble/source_copier.h"
#include "file/ledger.h"

namespace lumvet::assemble {

class LayerBuilder {
 public:
  // Once everything that may be in a layer has been copied. Layers look as the source's own
  // configuration says.
  void add(const SourceCopier& copier);
  // One that is in the target already.
  void add(ObjectId layer, bool is_shown, bool is_printed);
  // The properties for the catalog, upon those that it states; null without layers.
  Object finish(file::Ledger& target, const Object& stated = {});

 private:
  Array groups_;
  Array off_;
  Array locked_;
  Array order_;
  Array unprinted_;
  Array one_of_;
  Array automations_;
};

}  // namespace lumvet::assemble

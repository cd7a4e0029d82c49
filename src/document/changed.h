// SPDX-License-Identifier: Apache-2.0
// A document beside another one, with some of its objects changed; that one stays as it is.
//
// Threads: free functions.
#pragma once

#include <memory>

#include "document/core.h"
#include "file/ledger.h"

namespace lumvet::document {

// For changes to a document, from the state that it is in.
inline file::Ledger ledger_of(const Core& core) {
  const auto changes = core.store().changes();
  return {core.store().with(nullptr), changes ? *changes : file::ObjectChanges()};
}

inline std::shared_ptr<const Core> changed(const Core& core, const file::Ledger& ledger) {
  auto changes = std::make_shared<const file::ObjectChanges>(ledger.changes());
  return std::make_shared<const Core>(core, core.store().with(nullptr)->with(std::move(changes)));
}

}  // namespace lumvet::document

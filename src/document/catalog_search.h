// SPDX-License-Identifier: Apache-2.0
// The catalog (ISO 32000-2, 7.7.2), also of documents that lost it or a part of their page tree.
#pragma once

#include <memory>

#include "file/object_store.h"

namespace lumvet::document {

struct FoundCatalog {
  std::shared_ptr<const file::ObjectStore> store;  // rebuilt, when that was needed
  Object reference;
  Dict dict;
};

// Errors: malformed when there are no pages to be found anywhere.
Result<FoundCatalog> find_catalog(std::shared_ptr<const file::ObjectStore> store);

}  // namespace lumvet::document

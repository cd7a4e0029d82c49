// SPDX-License-Identifier: Apache-2.0
// What all copies of a Document and all its pages share.
//
// Threads: immutable, share freely.
#pragma once

#include <memory>

#include "document/object_cache.h"
#include "document/page_tree.h"
#include "file/object_store.h"

namespace lumvet::document {

class Core {
 public:
  Core(std::shared_ptr<const file::ObjectStore> store, Dict catalog)
      : store_(std::move(store)), catalog_(std::move(catalog)), pages_(*store_, catalog_) {}

  const file::ObjectStore& store() const { return *store_; }
  const std::shared_ptr<const file::ObjectStore>& shared_store() const { return store_; }
  const Dict& catalog() const { return catalog_; }
  const PageTree& pages() const { return pages_; }
  ObjectCache& fonts() const { return fonts_; }

 private:
  std::shared_ptr<const file::ObjectStore> store_;
  Dict catalog_;
  PageTree pages_;
  mutable ObjectCache fonts_;
};

}  // namespace lumvet::document

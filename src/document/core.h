// SPDX-License-Identifier: Apache-2.0
// What all copies of a Document and all its pages share.
//
// Threads: immutable, share freely.
#pragma once

#include <memory>

#include "document/catalog_search.h"
#include "document/object_cache.h"
#include "document/page_labels.h"
#include "document/page_tree.h"
#include "file/object_store.h"

namespace lumvet::document {

class Core : public std::enable_shared_from_this<Core> {
 public:
  explicit Core(FoundCatalog found)
      : store_(std::move(found.store)),
        root_(std::move(found.reference)),
        catalog_(std::move(found.dict)),
        pages_(*store_, catalog_,
               store_->cross_references().is_rebuilt() ? PageTree::Counts::doubted
                                                       : PageTree::Counts::believed),
        shared_(store_->limits().kept_bytes) {}

  const file::ObjectStore& store() const { return *store_; }
  const std::shared_ptr<const file::ObjectStore>& shared_store() const { return store_; }
  const Object& root() const { return root_; }  // a reference to the catalog
  const Dict& catalog() const { return catalog_; }
  const PageTree& pages() const { return pages_; }
  ObjectCache& shared() const { return shared_; }
  const PageLabels& labels() const {
    std::call_once(labels_read_, [this] { labels_.emplace(*store_, catalog_); });
    return *labels_;
  }

 private:
  std::shared_ptr<const file::ObjectStore> store_;
  Object root_;
  Dict catalog_;
  PageTree pages_;
  mutable ObjectCache shared_;
  mutable std::once_flag labels_read_;
  mutable std::optional<PageLabels> labels_;
};

}  // namespace lumvet::document

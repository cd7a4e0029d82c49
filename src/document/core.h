// SPDX-License-Identifier: Apache-2.0
// What all copies of a Document and all its pages share.
//
// Threads: immutable, share freely.
#pragma once

#include <memory>

#include "base/kept_when_clean.h"
#include "document/catalog_search.h"
#include "document/object_cache.h"
#include "document/page_labels.h"
#include "document/page_tree.h"
#include "document/revisions.h"
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
        version_(std::max(std::string(store_->get(catalog_, "Version").as_name()),
                          store_->header().version)),
        linearized_size_(document::linearized_size(*store_)),
        shared_(store_->limits().kept_bytes) {}

  const file::ObjectStore& store() const { return *store_; }
  const std::shared_ptr<const file::ObjectStore>& shared_store() const { return store_; }
  const Object& root() const { return root_; }  // a reference to the catalog
  const Dict& catalog() const { return catalog_; }
  const PageTree& pages() const { return pages_; }
  const std::string& version() const { return version_; }  // of the catalog if that is newer
  // The length that it states of itself in its first object; nothing when it is not linearized.
  std::optional<std::uint64_t> linearized_size() const { return linearized_size_; }
  ObjectCache& shared() const { return shared_; }
  std::shared_ptr<const PageLabels> labels() const {
    return labels_.get([this] { return PageLabels(*store_, catalog_); });
  }

 private:
  std::shared_ptr<const file::ObjectStore> store_;
  Object root_;
  Dict catalog_;
  PageTree pages_;
  std::string version_;
  std::optional<std::uint64_t> linearized_size_;
  mutable ObjectCache shared_;
  mutable KeptWhenClean<PageLabels> labels_;
};

}  // namespace lumvet::document

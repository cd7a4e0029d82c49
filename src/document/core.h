// SPDX-License-Identifier: Apache-2.0
// What all copies of a Document and all its pages share.
//
// Threads: immutable, share freely.
#pragma once

#include <algorithm>
#include <functional>
#include <memory>

#include "base/kept_when_clean.h"
#include "document/catalog_search.h"
#include "document/kept_annotations.h"
#include "document/object_cache.h"
#include "document/page_labels.h"
#include "document/page_tree.h"
#include "document/revisions.h"
#include "file/object_store.h"

namespace lumvet::document {

class Core : public std::enable_shared_from_this<Core> {
 public:
  explicit Core(FoundCatalog found)
      : Core(std::move(found.store), std::move(found.reference), nullptr) {}
  // The same document with its objects in another state. What is made of objects that are the same
  // in both, such as fonts and images, is shared.
  Core(const Core& other, std::shared_ptr<const file::ObjectStore> store)
      : Core(std::move(store), other.root_, other.shared_) {}

  const file::ObjectStore& store() const { return *store_; }
  const std::shared_ptr<const file::ObjectStore>& shared_store() const { return store_; }
  const Object& root() const { return root_; }  // a reference to the catalog
  const Dict& catalog() const { return catalog_; }
  const PageTree& pages() const { return pages_; }
  const std::string& version() const { return version_; }  // of the catalog if that is newer
  // The length that it states of itself in its first object; nothing when it is not linearized.
  std::optional<std::uint64_t> linearized_size() const { return linearized_size_; }
  // The thing made from an object, made now if nobody did lately, in any state of the document in
  // which the object is this one.
  std::shared_ptr<const void> made(ObjectCache::Kind kind, ObjectId id, std::uint64_t variant,
                                   const std::function<ObjectCache::Made()>& make) const {
    constexpr std::uint64_t kSpread = 0x9E3779B97F4A7C15u;
    return shared_->get(kind, id, variant ^ store_->stamp_of(id) * kSpread, make);
  }
  // What all states of one document have alike.
  const void* family() const { return shared_.get(); }
  // Tells states of a page apart that show different things.
  std::uint64_t stamp_of_page(ObjectId page) const {
    if (store_->changes() == nullptr) return 0;
    const auto found = store_->changes()->pages.find(page);
    return found == store_->changes()->pages.end() ? 0 : found->second;
  }
  // Those of a page, read now if they were not lately.
  std::shared_ptr<const std::vector<Annotation>> annotations_of(
      int page, const std::function<std::vector<Annotation>()>& read) const {
    return annotations_.get(page, read);
  }
  std::shared_ptr<const PageLabels> labels() const {
    return labels_.get([this] { return PageLabels(*store_, catalog_); });
  }

 private:
  Core(std::shared_ptr<const file::ObjectStore> store, Object root,
       std::shared_ptr<ObjectCache> shared)
      : store_(std::move(store)),
        root_(std::move(root)),
        catalog_(store_->resolve(root_).as_dict()),
        // In every state of a document whose objects had to be looked for, since steps change the
        // tree that they find.
        pages_(*store_, catalog_,
               store_->cross_references().is_rebuilt() ? PageTree::Counts::doubted
                                                       : PageTree::Counts::believed),
        version_(
            usable_version(std::max(checked_version(store_->get(catalog_, "Version").as_name()),
                                    checked_version(store_->header().version)))),
        linearized_size_(store_->changes() == nullptr ? document::linearized_size(*store_)
                                                      : std::nullopt),
        shared_(shared != nullptr ? std::move(shared)
                                  : std::make_shared<ObjectCache>(store_->limits().kept_bytes)) {}

  // "1.7", "2.0" (7.5.2); empty for what is none, which must come into no header.
  static std::string checked_version(std::string_view stated) {
    const bool is_one = stated.size() == 3 && (stated[0] == '1' || stated[0] == '2') &&
                        stated[1] == '.' && stated[2] >= '0' && stated[2] <= '9';
    return std::string(is_one ? stated : "");
  }
  static std::string usable_version(std::string version) {
    return version.empty() ? "1.4" : std::move(version);
  }

  std::shared_ptr<const file::ObjectStore> store_;
  Object root_;
  Dict catalog_;
  PageTree pages_;
  std::string version_;
  std::optional<std::uint64_t> linearized_size_;
  std::shared_ptr<ObjectCache> shared_;
  mutable KeptWhenClean<PageLabels> labels_;
  mutable KeptAnnotations annotations_;
};

}  // namespace lumvet::document

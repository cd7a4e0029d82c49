// SPDX-License-Identifier: Apache-2.0
#include "file/object_store.h"

#include <algorithm>

namespace lumvet::file {
namespace {

using StorePtr = std::shared_ptr<const ObjectStore>;

// About as many bytes as they would take in a file.
std::uint64_t size_of_changes(const ObjectChanges* changes) {
  constexpr std::uint64_t kObject = 256;
  return changes == nullptr ? 0 : changes->objects.size() * kObject;
}

}  // namespace

ObjectStore::ObjectStore(std::shared_ptr<const OpenedFile> file,
                         std::shared_ptr<const ObjectChanges> changes)
    : ObjectLoader(file->limits(), file->shared_findings(),
                   file->source()->size() + size_of_changes(changes.get())),
      file_(std::move(file)),
      changes_(std::move(changes)),
      trailer_(file_->cross_references().trailer()) {
  if (changes_ != nullptr) follows_ = changes_.get();
  if (changes_ != nullptr && changes_->info) trailer_.set("Info", *changes_->info);
}

Result<StorePtr> ObjectStore::open(std::shared_ptr<const ByteSource> source, const Limits& limits) {
  LUMVET_TRY(auto file, OpenedFile::open(std::move(source), limits));
  return StorePtr(new ObjectStore(std::move(file), nullptr));
}

Result<StorePtr> ObjectStore::rebuilt() const {
  LUMVET_TRY(auto file, file_->rebuilt());
  return StorePtr(new ObjectStore(std::move(file), nullptr));
}

Result<StorePtr> ObjectStore::unlocked(const security::Credentials& credentials) const {
  LUMVET_TRY(auto file, file_->unlocked(credentials));
  return StorePtr(new ObjectStore(std::move(file), nullptr));
}

Result<StorePtr> ObjectStore::earlier(std::shared_ptr<const ByteSource> beginning) const {
  LUMVET_TRY(auto file, file_->earlier(std::move(beginning)));
  return StorePtr(new ObjectStore(std::move(file), nullptr));
}

StorePtr ObjectStore::with(std::shared_ptr<const ObjectChanges> changes) const {
  return StorePtr(new ObjectStore(file_, std::move(changes)));
}

std::uint64_t ObjectStore::stamp_of(ObjectId id) const {
  if (changes_ == nullptr) return 0;
  const auto found = changes_->objects.find(id);
  return found == changes_->objects.end() ? 0 : found->second.stamp;
}

Result<Object> ObjectStore::load(ObjectId id) const {
  if (changes_ != nullptr)
    if (const auto found = changes_->objects.find(id); found != changes_->objects.end())
      return found->second.object;
  return file_->load(id);
}

std::uint32_t ObjectStore::first_beyond() const {
  const std::uint32_t first = file_->first_beyond();
  return changes_ == nullptr ? first : std::max(first, changes_->next_number);
}

std::uint32_t ObjectStore::first_unused() const {
  const std::uint32_t size = file_->size();
  return changes_ == nullptr ? size : std::max(size, changes_->next_number);
}

}  // namespace lumvet::file

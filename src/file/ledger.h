// SPDX-License-Identifier: Apache-2.0
// Changes on top of an opened file, or objects on top of nothing, which is a new document. The base
// is never touched; object N is now this.
//
//   Ledger book;                                  // a new document
//   const ObjectId catalog = book.reserve();
//   book.set(catalog, Dict{{"Type", Object::name("Catalog")}, …});
//
// Threads: const methods may run concurrently; anything else needs exclusive access.
#pragma once

#include <memory>
#include <unordered_map>

#include "file/object_store.h"

namespace lumvet::file {

class Ledger final : public objects::Resolver {
 public:
  Ledger() = default;
  explicit Ledger(std::shared_ptr<const ObjectStore> base) : base_(std::move(base)) {
    next_ = std::max<std::uint32_t>(base_->size(), 1);
  }
  // The same with numbers so high that not even a reference to a missing object has them, for
  // documents that are renumbered when they are saved.
  static Ledger beyond(std::shared_ptr<const ObjectStore> base) {
    Ledger ledger(std::move(base));
    ledger.next_ = ledger.base_->first_beyond();
    return ledger;
  }

  // A number that nothing has yet.
  ObjectId reserve() { return {next_++, 0}; }
  ObjectId add(Object object) {
    const ObjectId id = reserve();
    set(id, std::move(object));
    return id;
  }
  void set(ObjectId id, Object object) { changed_[id] = std::move(object); }
  // The entry goes; the object is again what the base says.
  void drop(ObjectId id) { changed_.erase(id); }
  bool has_changed(ObjectId id) const { return changed_.contains(id); }
  std::vector<ObjectId> changed_ids() const;  // in order
  std::size_t change_count() const { return changed_.size(); }

  Object resolve(const Object& object) const override;

 private:
  struct Hash {
    std::size_t operator()(ObjectId id) const {
      return std::hash<std::uint64_t>()(std::uint64_t{id.number} << 16 | id.generation);
    }
  };

  std::shared_ptr<const ObjectStore> base_;
  std::unordered_map<ObjectId, Object, Hash> changed_;
  std::uint32_t next_ = 1;
};

}  // namespace lumvet::file

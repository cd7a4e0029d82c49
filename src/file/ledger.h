// SPDX-License-Identifier: Apache-2.0
// Changes being made on top of the objects of a document, or objects on top of nothing, which is a
// new document. What lies below is never touched; object N is now this.
//
//   Ledger book;                                  // a new document
//   const ObjectId catalog = book.reserve();
//   book.set(catalog, Dict{{"Type", Object::name("Catalog")}, …});
//
// Threads: const methods may run concurrently; anything else needs exclusive access.
#pragma once

#include <memory>
#include <vector>

#include "file/object_store.h"

namespace lumvet::file {

class Ledger final : public objects::Resolver {
 public:
  Ledger() { changes_.next_number = 1; }
  // Goes on from what was changed already. New objects get numbers so high that not even a
  // reference to a missing object has them; what is saved is renumbered.
  explicit Ledger(std::shared_ptr<const ObjectStore> base);
  Ledger(std::shared_ptr<const ObjectStore> base, const ObjectChanges& changes);

  // A number that nothing has yet.
  ObjectId reserve() { return {changes_.next_number++, 0}; }
  ObjectId add(Object object) {
    const ObjectId id = reserve();
    set(id, std::move(object));
    return id;
  }
  void set(ObjectId id, Object object);
  // The entry goes; the object is again what the base says.
  void drop(ObjectId id) { changes_.objects.erase(id); }
  // The trailer's /Info.
  void set_info(Object info) { changes_.info = std::move(info); }
  // The page shows something else than before.
  void touch_page(ObjectId page);

  // The page is a copy of that page of the document as it was opened, from 0.
  void set_origin(ObjectId page, int index) { changes_.origins[page] = index; }
  // What the file had may not be left in what is saved, as it would be in one that is appended to.
  void keep_nothing() { changes_.keeps_nothing = true; }
  void add_note(Finding note) { changes_.notes.push_back(std::move(note)); }

  bool has_changed(ObjectId id) const { return changes_.objects.contains(id); }
  std::vector<ObjectId> changed_ids() const;  // in order
  std::size_t change_count() const { return changes_.objects.size(); }
  const ObjectChanges& changes() const { return changes_; }
  // The base with the changes made so far.
  std::shared_ptr<const ObjectStore> store() const;

  Object resolve(const Object& object) const override;

 private:
  std::shared_ptr<const ObjectStore> base_;
  ObjectChanges changes_;
};

}  // namespace lumvet::file

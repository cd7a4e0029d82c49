// SPDX-License-Identifier: Apache-2.0
#include "file/ledger.h"

#include <algorithm>
#include <atomic>

namespace lumvet::file {
namespace {

// Never the same twice while the program runs, so that states of any documents differ by it.
std::uint64_t fresh_stamp() {
  static std::atomic<std::uint64_t> next = 1;
  return next++;
}

}  // namespace

Ledger::Ledger(std::shared_ptr<const ObjectStore> base) : base_(std::move(base)) {
  if (base_->changes() != nullptr) changes_ = *base_->changes();
  changes_.next_number = base_->first_beyond();
}

Ledger::Ledger(std::shared_ptr<const ObjectStore> base, const ObjectChanges& changes)
    : base_(std::move(base)), changes_(changes) {
  changes_.next_number = std::max(changes_.next_number, base_->first_beyond());
}

void Ledger::set(ObjectId id, Object object) {
  changes_.objects[id] = {std::move(object), fresh_stamp()};
}

void Ledger::touch_page(ObjectId page) { changes_.pages[page] = fresh_stamp(); }

std::shared_ptr<const ObjectStore> Ledger::store() const {
  return base_->with(std::make_shared<const ObjectChanges>(changes_));
}

Object Ledger::resolve(const Object& object) const {
  constexpr int kLongestChain = 32;
  Object current = object;
  for (int i = 0; i < kLongestChain && current.is_reference(); ++i) {
    const auto found = changes_.objects.find(current.as_reference());
    if (found != changes_.objects.end()) {
      current = found->second.object;
    } else if (base_) {
      const Result<Object> loaded = base_->load(current.as_reference());
      // What the base cannot read it reports itself.
      if (!loaded.ok()) return base_->resolve(current);
      current = *loaded;
    } else {
      return Object();
    }
  }
  return current.is_reference() ? Object() : current;
}

std::vector<ObjectId> Ledger::changed_ids() const {
  std::vector<ObjectId> ids;
  ids.reserve(changes_.objects.size());
  for (const auto& [id, change] : changes_.objects) ids.push_back(id);
  std::sort(ids.begin(), ids.end());
  return ids;
}

}  // namespace lumvet::file

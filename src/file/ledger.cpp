// SPDX-License-Identifier: Apache-2.0
#include "file/ledger.h"

#include <algorithm>

namespace lumvet::file {

Object Ledger::resolve(const Object& object) const {
  constexpr int kLongestChain = 32;
  Object current = object;
  for (int i = 0; i < kLongestChain && current.is_reference(); ++i) {
    const auto found = changed_.find(current.as_reference());
    if (found != changed_.end()) {
      current = found->second;
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
  ids.reserve(changed_.size());
  for (const auto& [id, object] : changed_) ids.push_back(id);
  std::sort(ids.begin(), ids.end());
  return ids;
}

}  // namespace lumvet::file

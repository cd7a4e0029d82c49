// SPDX-License-Identifier: Apache-2.0
// What was read and may be wanted again, within a budget of bytes. Kept in two generations: when
// the younger has half the budget, the older is dropped and the younger takes its place; what is
// used out of the older becomes young again.
//
// Threads: internally synchronized.
#pragma once

#include <cstdint>
#include <mutex>
#include <optional>
#include <shared_mutex>
#include <unordered_map>
#include <utility>

#include "base/attempt.h"

namespace lumvet::file {

template <typename Key, typename Value, typename Hash = std::hash<Key>>
class RecentlyUsed {
 public:
  explicit RecentlyUsed(std::uint64_t most_bytes) : most_bytes_(most_bytes) {}

  std::optional<Value> find(Key key) {
    {
      const std::shared_lock lock(mutex_);
      if (const auto found = young_.find(key); found != young_.end()) return found->second.value;
      if (!old_.contains(key)) return std::nullopt;
    }
    const std::unique_lock lock(mutex_);
    const auto found = old_.find(key);
    if (found == old_.end()) return std::nullopt;  // dropped just now
    Item item = std::move(found->second);
    old_.erase(found);
    return add(key, std::move(item));
  }

  // Keeps it for a while and gives it back, unless the attempt at which it was read is stopped. Of
  // several threads that keep the same key at the same
  // time, the first one's value is what all get.
  Value keep(Key key, Value value, std::uint64_t bytes) {
    if (Attempt::is_stopped()) return value;
    const std::unique_lock lock(mutex_);
    return add(key, {std::move(value), bytes});
  }

  void clear() {
    const std::unique_lock lock(mutex_);
    young_.clear();
    old_.clear();
    young_bytes_ = 0;
  }

 private:
  struct Item {
    Value value;
    std::uint64_t bytes;
  };

  Value add(Key key, Item item) {
    if (young_bytes_ > 0 && young_bytes_ + item.bytes > most_bytes_ / 2) {
      old_ = std::exchange(young_, {});
      young_bytes_ = 0;
    }
    const std::uint64_t bytes = item.bytes;
    const auto [place, is_new] = young_.try_emplace(key, std::move(item));
    if (is_new) young_bytes_ += bytes;
    return place->second.value;
  }

  std::uint64_t most_bytes_;
  std::uint64_t young_bytes_ = 0;
  std::shared_mutex mutex_;
  std::unordered_map<Key, Item, Hash> young_;
  std::unordered_map<Key, Item, Hash> old_;
};

}  // namespace lumvet::file

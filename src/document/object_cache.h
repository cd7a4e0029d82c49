// SPDX-License-Identifier: Apache-2.0
// Things made from objects that several pages share, fonts and images above all, kept within a
// budget of bytes. What they are is the business of the rooms above.
//
// Threads: internally synchronized.
#pragma once

#include <functional>
#include <memory>

#include "file/recently_used.h"
#include "lumvet/base/error.h"

namespace lumvet::document {

class ObjectCache {
 public:
  // Things of one kind are of one type.
  enum class Kind : std::uint8_t { font, image, layers };

  struct Made {
    std::shared_ptr<const void> thing;
    std::size_t bytes = 0;  // about
  };

  explicit ObjectCache(std::uint64_t most_bytes) : kept_(most_bytes) {}

  // The thing made from an object, made now if nobody did lately. Two threads may make it at the
  // same time; the first one's stays. From the same object different things may be made, by
  // `variant`.
  std::shared_ptr<const void> get(Kind kind, ObjectId id, std::uint64_t variant,
                                  const std::function<Made()>& make) {
    const Key key{kind, id, variant};
    if (auto known = kept_.find(key)) return *known;
    Made made = make();
    return kept_.keep(key, std::move(made.thing), made.bytes);
  }

 private:
  struct Key {
    Kind kind;
    ObjectId id;
    std::uint64_t variant = 0;
    bool operator==(const Key&) const = default;
    struct Hash {
      std::size_t operator()(const Key& key) const {
        return std::hash<std::uint64_t>()(std::uint64_t{key.id.number} << 24 |
                                          std::uint64_t{key.id.generation} << 8 |
                                          static_cast<std::uint64_t>(key.kind)) ^
               key.variant * 0x9E3779B97F4A7C15u;
      }
    };
  };
  file::RecentlyUsed<Key, std::shared_ptr<const void>, Key::Hash> kept_;
};

}  // namespace lumvet::document

// SPDX-License-Identifier: Apache-2.0
// What is written in one piece, encoded on all threads: an object, or several in an object stream.
//
// Threads: one thread at a time.
#pragma once

#include "lumvet/base/progress.h"
#include "save/object_encoder.h"
#include "save/reachable.h"

namespace lumvet::saving {

struct Piece {
  std::uint32_t number = 0;
  std::vector<std::size_t> objects;  // one, or those that are packed, by place among the reachable
  bool is_packed = false;
  EncodedObject encoded = {};
  std::uint64_t offset = 0;
};

class PieceEncoder {
 public:
  // `numbers` has the new number of each reachable object, and may be filled in later.
  PieceEncoder(const objects::Resolver& objects, const std::vector<std::uint32_t>& numbers,
               const security::SecurityHandler* security, bool recompresses);

  Reachable& reachable() { return reachable_; }
  const Reachable& reachable() const { return reachable_; }
  const ObjectEncoder& objects() const { return encoder_; }
  // The new reference; null for objects that are missing.
  Object renumbered(ObjectId old) const;

  // Errors: as reading objects and streams; cancelled.
  Status encode(std::span<Piece* const> pieces, int threads, const CancelToken& cancel) const;

 private:
  Result<EncodedObject> encoded(const Piece& piece) const;
  Object object_at(std::size_t place) const {
    return objects_.resolve(Object(reachable_.order()[place]));
  }

  const objects::Resolver& objects_;
  const std::vector<std::uint32_t>& numbers_;
  Reachable reachable_;
  ObjectEncoder encoder_;
};

}  // namespace lumvet::saving

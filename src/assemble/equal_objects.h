// SPDX-License-Identifier: Apache-2.0
// Objects that are equal, with everything behind their references, become one: the fonts, images,
// profiles and forms that several sources have alike.
//
// Threads: free functions.
#pragma once

#include <string>
#include <unordered_map>
#include <vector>

#include "file/ledger.h"

namespace lumvet::assemble {

bool have_equal_bytes(const Stream& a, const Stream& b);

// Only what may be shared without anybody noticing: no pages, annotations, fields, layers, entries
// of outlines or structure, which are themselves and not only what they say.
class EqualObjects {
 public:
  // Gives how many went. Objects numbered less than `from` stay.
  std::size_t join(file::Ledger& ledger, std::uint32_t from);
  // What the ledger holds will be taken out of it, and what comes later may be equal to it.
  void remember(const file::Ledger& ledger);

 private:
  struct Known {
    ObjectId id;
    std::string text;
  };
  ObjectId last(ObjectId id) const;
  ObjectId first_like(const file::Ledger& ledger, ObjectId id, const Object& object);
  std::vector<ObjectId> users_of(const std::vector<ObjectId>& ids) const;

  // In the ledger: what is referred to, and by which object; in order.
  std::vector<std::pair<ObjectId, ObjectId>> users_;
  std::unordered_map<ObjectId, ObjectId, file::IdHash> same_as_;  // of all that went
  std::unordered_map<std::size_t, std::vector<Known>> known_;
  // Digests in place of texts, of what was taken out.
  std::unordered_map<std::size_t, std::vector<Known>> taken_;
};

// The same once.
std::size_t join_equal_objects(file::Ledger& ledger, std::uint32_t from = 0);

}  // namespace lumvet::assemble

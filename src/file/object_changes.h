// SPDX-License-Identifier: Apache-2.0
// What became of the objects of a file: object N is now this. Each change has a stamp of its own,
// by which two states of a document can be told apart without comparing objects.
//
// Threads: a value.
#pragma once

#include <cstdint>
#include <map>
#include <optional>
#include <unordered_map>
#include <vector>

#include "lumvet/base/findings.h"
#include "lumvet/objects/object.h"

namespace lumvet::file {

struct IdHash {
  std::size_t operator()(ObjectId id) const {
    return std::hash<std::uint64_t>()(std::uint64_t{id.number} << 16 | id.generation);
  }
};

struct ObjectChange {
  Object object;  // null for one that is gone
  std::uint64_t stamp = 0;
};

struct ObjectChanges {
  std::unordered_map<ObjectId, ObjectChange, IdHash> objects;
  // Pages that show something else than before, by the stamp of what was done to them last.
  std::map<ObjectId, std::uint64_t> pages;
  // Pages that are copies of others, by their place in the document as it was opened, from 0.
  std::map<ObjectId, int> origins;
  std::optional<Object> info;     // the trailer's /Info, where it is another one
  std::vector<Finding> notes;     // of what could not be kept, for whoever saves it
  bool keeps_nothing = false;     // nothing that was there may be left in what is saved
  std::uint32_t next_number = 0;  // of the next new object
};

}  // namespace lumvet::file

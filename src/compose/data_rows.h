// SPDX-License-Identifier: Apache-2.0
// Rows of data, packed: their names once, and their values one behind the other.
//
// Threads: const methods may run concurrently; anything else needs exclusive access.
#pragma once

#include <cstdint>
#include <map>
#include <string>
#include <vector>

#include "compose/fields.h"

namespace lumvet::compose {

class DataRows {
 public:
  void add(const Fields& row);
  std::size_t size() const { return rows_.size(); }
  Fields row(std::size_t number) const;  // below size()

 private:
  struct Row {
    std::uint64_t begin;  // of its values
    std::uint32_t names;  // which of the lists of names it has
  };
  std::map<std::vector<std::string>, std::uint32_t> known_names_;
  std::vector<std::vector<std::string>> names_;
  std::vector<Row> rows_;
  // Each value with a byte of 0 behind it, and before each 0 and 1 that is its own a byte of 1.
  std::string values_;
};

}  // namespace lumvet::compose

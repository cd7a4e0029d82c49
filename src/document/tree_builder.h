// SPDX-License-Identifier: Apache-2.0
// Name trees and number trees (ISO 32000-2, 7.9.6 and 7.9.7) of any size: leaves of a few dozen
// entries, below nodes of a few dozen kids.
//
// Threads: free functions.
#pragma once

#include <cstdint>
#include <map>
#include <string>

#include "file/ledger.h"

namespace lumvet::document {

// The root; null for a tree without entries.
Object build_name_tree(file::Ledger& ledger, const std::map<std::string, Object>& entries);
Object build_number_tree(file::Ledger& ledger, const std::map<std::int64_t, Object>& entries);

// A name that `is_taken` says nothing has: itself, or "name-2" and so on.
template <typename IsTaken>
std::string free_name(const std::string& name, const IsTaken& is_taken) {
  if (!is_taken(name)) return name;
  for (int number = 2;; ++number)
    if (std::string other = name + "-" + std::to_string(number); !is_taken(other)) return other;
}

}  // namespace lumvet::document

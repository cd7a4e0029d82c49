// SPDX-License-Identifier: Apache-2.0
// The names of the marks of a page, each of which is there once (ISO 32000-2, table 166).
//
// Threads: one thread at a time.
#pragma once

#include <set>
#include <string>

namespace lumvet::annotate {

class MarkNames {
 public:
  // False when one has that name already.
  bool take(std::string name) { return taken_.insert(std::move(name)).second; }
  // One that none has, which is taken from then on.
  std::string next_free() {
    for (std::size_t number = taken_.size() + 1;; ++number)
      if (const auto [name, is_new] = taken_.insert("mark-" + std::to_string(number)); is_new)
        return *name;
  }

 private:
  std::set<std::string> taken_;
};

}  // namespace lumvet::annotate

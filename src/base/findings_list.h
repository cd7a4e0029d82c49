// SPDX-License-Identifier: Apache-2.0
// What was tolerated so far.
//
// Threads: internally synchronized.
#pragma once

#include <mutex>
#include <set>
#include <vector>

#include "lumvet/base/findings.h"

namespace lumvet {

// A growing list that several threads may add to. The same finding is kept once, and after
// kMostKept different ones further ones are only counted.
class Findings {
 public:
  static constexpr std::size_t kMostKept = 1000;

  void add(Finding finding);
  std::vector<Finding> list() const;
  std::uint64_t not_kept() const;

 private:
  mutable std::mutex mutex_;
  std::vector<Finding> list_;
  std::set<Finding> seen_;
  std::uint64_t not_kept_ = 0;
};

}  // namespace lumvet

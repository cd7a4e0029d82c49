// SPDX-License-Identifier: Apache-2.0
// What was tolerated: damage that reading went on in spite of.
//
//   for (const lumvet::Finding& finding : document.findings()) log(finding.to_string());
//
// Threads: Finding is a value; Findings is internally synchronized.
#pragma once

#include <cstdint>
#include <mutex>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "lumvet/base/error.h"
#include "lumvet/base/export.h"

namespace lumvet {

struct LUMVET_EXPORT Finding {
  std::string what;                     // "stream length is wrong; 812 bytes were taken instead"
  std::optional<std::uint64_t> offset;  // bytes from the start of the file
  std::optional<ObjectId> object;

  // "stream length is wrong; 812 bytes were taken instead (offset 4711, object 12 0 R)"
  std::string to_string() const;
  auto operator<=>(const Finding&) const = default;
};

// A growing list that several threads may add to. The same finding is kept once, and after
// kMostKept different ones further ones are only counted.
class LUMVET_EXPORT Findings {
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

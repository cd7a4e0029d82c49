// SPDX-License-Identifier: Apache-2.0
// What was tolerated: damage that reading went on in spite of.
//
//   for (const lumvet::Finding& finding : document.findings()) log(finding.to_string());
//
// Threads: a value.
#pragma once

#include <cstdint>
#include <optional>
#include <string>

#include "lumvet/base/error.h"
#include "lumvet/base/export.h"

namespace lumvet {

struct LUMVET_EXPORT Finding {
  std::string what = {};  // "stream length is wrong; 812 bytes were taken instead"
  std::optional<std::uint64_t> offset = {};  // bytes from the start of the file
  std::optional<ObjectId> object = {};

  // "stream length is wrong; 812 bytes were taken instead (offset 4711, object 12 0 R)"
  std::string to_string() const;
  auto operator<=>(const Finding&) const = default;
};

}  // namespace lumvet

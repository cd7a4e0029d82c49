// SPDX-License-Identifier: Apache-2.0
// The tables of a linearized file's hint stream (ISO 32000-2, F.4), to bits and back. Places count
// as if the hint stream were not in the file.
//
// Threads: values.
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "lumvet/base/bytes.h"
#include "lumvet/base/result.h"

namespace lumvet::linear {

struct PageHint {
  std::uint64_t objects = 0;
  std::uint64_t length = 0;          // bytes of them
  std::uint64_t content_offset = 0;  // from the page's first object
  std::uint64_t content_length = 0;
  std::vector<std::uint64_t> shared = {};  // places in the shared objects' table
  bool operator==(const PageHint&) const = default;
};

struct SharedHint {
  std::uint64_t length = 0;  // bytes of the group
  std::uint64_t objects = 1;
  bool operator==(const SharedHint&) const = default;
};

// Of outlines, named places and so on (F.4.3), by the letter of the hint stream's entry.
struct RangeHint {
  char key = 'O';
  std::uint64_t first_object = 0;
  std::uint64_t place = 0;
  std::uint64_t objects = 0;
  std::uint64_t length = 0;
  bool operator==(const RangeHint&) const = default;
};

struct HintTables {
  std::uint64_t first_page_place = 0;
  std::vector<PageHint> pages;            // by page
  std::uint64_t first_shared_object = 0;  // of those behind the first page's
  std::uint64_t first_shared_place = 0;
  std::uint64_t first_page_groups = 0;  // of the shared ones, in front
  std::vector<SharedHint> shared;
  std::vector<RangeHint> ranges;
  bool operator==(const HintTables&) const = default;
};

struct HintBytes {
  Bytes bytes;
  std::uint64_t shared_table = 0;  // where it begins, for /S
  std::vector<std::pair<char, std::uint64_t>> ranges;
};

HintBytes written(const HintTables& tables);

// Errors: malformed, with the table that ends too early or makes no sense.
Result<HintTables> read_hints(ByteView bytes, std::uint64_t pages, std::uint64_t shared_table,
                              const std::vector<std::pair<char, std::uint64_t>>& ranges);

}  // namespace lumvet::linear

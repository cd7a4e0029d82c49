// SPDX-License-Identifier: Apache-2.0
// A document that arrives piece by piece.
#pragma once

#include "tests/support/interrupted_source.h"

namespace test {

// Bytes of which a range is not there until it has arrived.
class GappedSource final : public InterruptedSource {
 public:
  using InterruptedSource::InterruptedSource;

  std::uint64_t gap_begin = 0;
  std::uint64_t gap_end = 0;

 protected:
  lumvet::Status admit(std::uint64_t begin, std::uint64_t end) const override {
    if (begin >= gap_end || end <= gap_begin) return lumvet::Done{};
    return lumvet::Error(lumvet::ErrorCode::need_more_data, "not here yet").at_offset(gap_begin);
  }
};

}  // namespace test

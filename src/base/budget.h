// SPDX-License-Identifier: Apache-2.0
// Limits being spent. One Budget accompanies one piece of work (a page, a stream).
//
// Threads: one thread at a time.
#pragma once

#include <algorithm>
#include <cstdint>

#include "lumvet/base/limits.h"
#include "lumvet/base/result.h"

namespace lumvet {

// Bytes to which `encoded` bytes may unpack.
std::uint64_t most_decoded(const Limits& limits, std::uint64_t encoded);
// Operators that a page may have whose streams take `encoded` bytes.
std::uint64_t most_operators(const Limits& limits, std::uint64_t encoded);

class Budget {
 public:
  explicit Budget(const Limits& limits) : limits_(limits) {}

  const Limits& limits() const { return limits_; }

  // Each spends and answers with `limit` once the bound is passed.
  Status spend_decoded(std::uint64_t bytes);
  Status spend_operator();
  // A stream of the page that takes `encoded` bytes, each to be told once.
  void add_content(std::uint64_t encoded) {
    content_ += encoded;
    most_operators_ = most_operators(limits_, content_);
  }

  // Bytes of output that may still be spent.
  std::uint64_t decoded_left() const { return limits_.decoded_bytes - decoded_; }
  // The same for one more stream of `encoded` bytes, judged against its size too.
  std::uint64_t decoded_left(std::uint64_t encoded) const {
    return std::min(decoded_left(), most_decoded(limits_, encoded));
  }

  // Counts one level of nesting while it lives; ok() is false beyond the limit.
  class Depth {
   public:
    explicit Depth(Budget& budget) : budget_(budget) { ++budget_.depth_; }
    ~Depth() { --budget_.depth_; }
    Depth(const Depth&) = delete;
    Depth& operator=(const Depth&) = delete;
    bool ok() const { return budget_.depth_ <= budget_.limits_.nesting; }

   private:
    Budget& budget_;
  };

 private:
  Limits limits_;
  std::uint64_t decoded_ = 0;
  std::uint64_t operators_ = 0;
  std::uint64_t content_ = 0;  // bytes
  std::uint64_t most_operators_ = most_operators(limits_, 0);
  int depth_ = 0;
};

}  // namespace lumvet

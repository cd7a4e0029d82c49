// SPDX-License-Identifier: Apache-2.0
// Objects by number, wherever they come from, and references followed through them.
//
// Threads: const methods may run concurrently.
#pragma once

#include <algorithm>
#include <cstdint>
#include <memory>

#include "base/checked.h"
#include "base/findings_list.h"
#include "lumvet/base/limits.h"
#include "objects/resolver.h"

namespace lumvet::file {

class ObjectLoader : public objects::Resolver {
 public:
  // Null for numbers that are free or missing (7.3.10). Errors: malformed, limit, io,
  // need_more_data, password, in the object's name.
  virtual Result<Object> load(ObjectId id) const = 0;
  // The same, with damage as a finding and null in its place. What stops reading it (io,
  // need_more_data, limit) stops the attempt, and nothing is found. Each look counts for what
  // may be followed of a file (Limits::followed_bytes); beyond that there is nothing but null.
  Object resolve(const Object& object) const final;

  const Limits& limits() const { return limits_; }
  Findings& findings() const { return *findings_; }

 protected:
  // `size`: of what the values stand in, in bytes.
  ObjectLoader(const Limits& limits, std::shared_ptr<Findings> findings, std::uint64_t size)
      : limits_(limits),
        findings_(std::move(findings)),
        may_follow_(
            std::max(limits.followed_bytes,
                     checked_mul(limits.followed_ratio, size).value_or(limits.followed_bytes))) {}

  Limits limits_;
  std::shared_ptr<Findings> findings_;
  std::uint64_t may_follow_;               // bytes, in one attempt
  const void* follows_ = findings_.get();  // what entitles to them
};

}  // namespace lumvet::file

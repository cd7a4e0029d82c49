// SPDX-License-Identifier: Apache-2.0
// Objects by number, wherever they come from, and references followed through them.
//
// Threads: const methods may run concurrently.
#pragma once

#include <memory>

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
  // need_more_data, limit) stops the attempt, and nothing is found.
  Object resolve(const Object& object) const final;

  const Limits& limits() const { return limits_; }
  Findings& findings() const { return *findings_; }

 protected:
  ObjectLoader(const Limits& limits, std::shared_ptr<Findings> findings)
      : limits_(limits), findings_(std::move(findings)) {}

  Limits limits_;
  std::shared_ptr<Findings> findings_;
};

}  // namespace lumvet::file

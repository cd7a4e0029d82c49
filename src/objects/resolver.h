// SPDX-License-Identifier: Apache-2.0
// Follows references, for rooms that need values but do not know the file.
#pragma once

#include "lumvet/objects/object.h"

namespace lumvet::objects {

class Resolver {
 public:
  virtual ~Resolver() = default;
  // The object itself, or what its reference leads to; null when that is missing or damaged.
  // Threads: may be called concurrently.
  virtual Object resolve(const Object& object) const = 0;

  Object get(const Dict& dict, std::string_view key) const {
    const Object& stated = dict[key];
    return stated.is_null() ? Object() : resolve(stated);  // most keys are not there
  }
};

}  // namespace lumvet::objects

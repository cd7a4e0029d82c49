// SPDX-License-Identifier: Apache-2.0
// Arrays of numbers, which boxes, matrices, domains and colors are.
#pragma once

#include <vector>

#include "base/attempt.h"
#include "objects/resolver.h"

namespace lumvet::objects {

// Those before the first that is none.
inline std::vector<double> numbers_of(const Resolver& resolver, const Object& object) {
  std::vector<double> numbers;
  const Object list = resolver.resolve(object);
  // All at once what looking at each of them would count.
  if (!Attempt::follow(list.as_array().size() * sizeof(Object))) return numbers;
  numbers.reserve(list.as_array().size());
  for (const Object& item : list.as_array()) {
    const Object number = item.is_number() ? item : resolver.resolve(item);
    if (!number.is_number()) break;
    numbers.push_back(number.as_number());
  }
  return numbers;
}

}  // namespace lumvet::objects

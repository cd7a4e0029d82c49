// SPDX-License-Identifier: Apache-2.0
// Integer sums of numbers that come from files.
#pragma once

#include <concepts>
#include <optional>

namespace lumvet {

template <std::integral T>
std::optional<T> checked_add(T a, T b) {
  T sum{};
  if (__builtin_add_overflow(a, b, &sum)) return std::nullopt;
  return sum;
}

template <std::integral T>
std::optional<T> checked_mul(T a, T b) {
  T product{};
  if (__builtin_mul_overflow(a, b, &product)) return std::nullopt;
  return product;
}

}  // namespace lumvet

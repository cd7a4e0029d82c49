// SPDX-License-Identifier: Apache-2.0
// Memory for many bytes that are all written anyway: growing it does not fill it with zeros first.
//
//   std::vector<std::uint8_t, Unfilled<std::uint8_t>> samples(26 << 20);   // anything is in there
#pragma once

#include <memory>
#include <utility>

namespace lumvet {

template <typename T>
struct Unfilled : std::allocator<T> {
  template <typename U>
  struct rebind {
    using other = Unfilled<U>;
  };
  Unfilled() = default;
  template <typename U>
  Unfilled(const Unfilled<U>&) {}

  template <typename U>
  void construct(U* place) {
    ::new (static_cast<void*>(place)) U;
  }
  template <typename U, typename... Args>
  void construct(U* place, Args&&... args) {
    ::new (static_cast<void*>(place)) U(std::forward<Args>(args)...);
  }
};

}  // namespace lumvet

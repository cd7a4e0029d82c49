// SPDX-License-Identifier: Apache-2.0
#include "base/budget.h"

#include <string>

#include "base/attempt.h"

namespace lumvet {

std::uint64_t most_decoded(const Limits& limits, std::uint64_t encoded) {
  constexpr std::uint64_t kAlwaysAllowed = 16 << 20;
  const std::uint64_t ratio = std::max<std::uint64_t>(limits.decoded_ratio, 1);
  if (encoded >= limits.decoded_bytes / ratio) return limits.decoded_bytes;
  return std::min(limits.decoded_bytes, std::max(kAlwaysAllowed, encoded * ratio));
}

Status Budget::spend_decoded(std::uint64_t bytes) {
  if (bytes > decoded_left())
    return met_limit("streams unpack to more than " + std::to_string(limits_.decoded_bytes) +
                     " bytes; raise Limits::decoded_bytes if this file is trusted");
  decoded_ += bytes;
  return Done{};
}

std::uint64_t most_operators(const Limits& limits, std::uint64_t encoded) {
  constexpr std::uint64_t kAlwaysAllowed = 2'000'000;
  const std::uint64_t ratio = std::max<std::uint64_t>(limits.operator_ratio, 1);
  if (encoded >= limits.operators / ratio) return limits.operators;
  return std::min(limits.operators, std::max(kAlwaysAllowed, encoded * ratio));
}

Status Budget::spend_operator() {
  if (++operators_ <= most_operators_) return Done{};
  return met_limit(
      "a page has more than " + std::to_string(most_operators_) + " operators; raise " +
      (most_operators_ < limits_.operators ? "Limits::operator_ratio" : "Limits::operators") +
      " if this file is trusted");
}

}  // namespace lumvet

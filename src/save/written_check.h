// SPDX-License-Identifier: Apache-2.0
// What was just written, read again before anybody sees it.
//
// Threads: one thread at a time.
#pragma once

#include <optional>

#include "lumvet/save/save.h"

namespace lumvet::saving {

struct WrittenCheck {
  bool is_locked = false;             // it must not open without a password or a key
  std::optional<int> linear_pages{};  // it is linearized, has so many pages and true tables

  bool is_needed() const { return is_locked || linear_pages; }
};

// That a password protects nothing.
Error opens_for_everybody();

// Looks at the bytes of a sink from `begin` on. Errors: invalid_argument, where a password protects
// nothing; malformed, where a damaged document could not be linearized; io.
Status check_written(PatchableSink& sink, std::uint64_t begin, const WrittenCheck& check);

}  // namespace lumvet::saving

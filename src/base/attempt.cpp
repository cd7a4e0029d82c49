// SPDX-License-Identifier: Apache-2.0
#include "base/attempt.h"

namespace lumvet {

void Attempt::note(const Error& error) {
  State* state = now();
  if (state == nullptr || !stops(error.code())) return;
  const std::lock_guard lock(state->mutex);
  if (!state->error) state->error = error;
  state->is_stopped.store(true, std::memory_order_relaxed);
}

std::optional<Error> Attempt::stopped_by() {
  if (!is_stopped()) return std::nullopt;
  State* state = now();
  const std::lock_guard lock(state->mutex);
  return state->error;
}

Error met_limit(std::string message) {
  Error error(ErrorCode::limit, std::move(message));
  Attempt::note(error);
  return error;
}

}  // namespace lumvet

// SPDX-License-Identifier: Apache-2.0
#include "base/attempt.h"

#include "base/allowance.h"

namespace lumvet {

Attempt::State*& Attempt::now() {
  thread_local State* state = nullptr;
  return state;
}

std::uint64_t& Attempt::uncounted() {
  thread_local std::uint64_t bytes = 0;
  return bytes;
}

// Of a kind that needs no making, since signal handlers ask for it.
std::atomic<std::uint64_t>& Attempt::lost() {
  static constinit std::atomic<std::uint64_t> count = 0;
  return count;
}

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

bool Attempt::count_followed() {
  const std::uint64_t bytes = std::exchange(uncounted(), 0);
  State* state = now();
  if (state == nullptr) return true;
  const std::uint64_t followed = state->followed.fetch_add(bytes, std::memory_order_relaxed);
  const std::uint64_t allowed = state->allowed.load(std::memory_order_relaxed);
  if (allowed != 0 && followed + bytes > allowed && !is_stopped())
    met_limit("the values of this document lead to one another again and again, more than " +
              std::to_string(allowed) +
              " bytes; raise Limits::followed_bytes if this file is trusted");
  return Allowance::goes_on_now();
}

void Attempt::entitle(State& state, const void* file, std::uint64_t allowed) {
  const std::lock_guard lock(state.mutex);
  if (state.files.insert(file).second) state.allowed.fetch_add(allowed, std::memory_order_relaxed);
  state.last_file.store(file, std::memory_order_relaxed);
}

Error met_limit(std::string message) {
  Error error(ErrorCode::limit, std::move(message));
  Attempt::note(error);
  return error;
}

}  // namespace lumvet

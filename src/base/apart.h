// SPDX-License-Identifier: Apache-2.0
// Work of a library that asks nobody while it lasts, on a thread of its own, so that whoever waits
// for it can stop waiting.
//
//   const auto made = run_apart<Samples>([input](const std::atomic<bool>& is_unwanted) { … });
//
// Threads: each call by itself.
#pragma once

#include <atomic>
#include <chrono>
#include <functional>
#include <future>
#include <memory>
#include <optional>
#include <system_error>
#include <thread>
#include <utility>

#include "base/allowance.h"

namespace lumvet {

// How many threads still work at what nobody waits for any more.
std::atomic<int>& threads_left_behind();

// What `work` gives, or throws; nothing when Allowance::goes_on_now() says no before it is through.
// Then `is_unwanted` is set, and the thread ends when the work does: it has to own all that it
// needs, and what it made is dropped. Of such threads there are at most four; beyond them the call
// waits after all. Without any thread to be had the work is done by the caller's own.
template <typename T>
std::optional<T> run_apart(std::function<T(const std::atomic<bool>& is_unwanted)> work) {
  enum class State { working, done, left };
  struct Shared {
    std::function<T(const std::atomic<bool>&)> work;
    std::promise<T> promise;
    std::atomic<bool> is_unwanted = false;
    std::atomic<State> state = State::working;
  };
  constexpr int kMostLeft = 4;
  constexpr std::chrono::milliseconds kBetweenLooks{20};
  const auto shared = std::make_shared<Shared>();
  shared->work = std::move(work);
  std::future<T> made = shared->promise.get_future();
  std::thread thread;
  try {
    thread = std::thread([shared] {
      try {
        shared->promise.set_value(shared->work(shared->is_unwanted));
      } catch (...) {
        shared->promise.set_exception(std::current_exception());
      }
      if (shared->state.exchange(State::done) == State::left) --threads_left_behind();
    });
  } catch (const std::system_error&) {
    return shared->work(shared->is_unwanted);
  }
  while (made.wait_for(kBetweenLooks) != std::future_status::ready) {
    if (Allowance::goes_on_now()) continue;
    shared->is_unwanted = true;
    if (++threads_left_behind() <= kMostLeft &&
        shared->state.exchange(State::left) == State::working) {
      thread.detach();
      return std::nullopt;
    }
    --threads_left_behind();
    thread.join();
    return std::nullopt;
  }
  thread.join();
  return made.get();
}

}  // namespace lumvet

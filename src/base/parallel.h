// SPDX-License-Identifier: Apache-2.0
// Work shared out among threads.
#pragma once

#include <algorithm>
#include <atomic>
#include <cstddef>
#include <exception>
#include <functional>
#include <mutex>
#include <thread>
#include <vector>

#include "base/allowance.h"

namespace lumvet {

// As many as asked for; 0 is one for each core.
inline int thread_count(int asked) {
  if (asked > 0) return asked;
  return std::max(1, static_cast<int>(std::thread::hardware_concurrency()));
}

// Calls work(worker, i) once for every i below count, on up to `threads` threads; `worker` numbers
// the threads from 0. All of them work at the caller's attempt, within its allowance. The first
// exception of any ends the sharing out and is thrown to the caller once all have stopped.
inline void share_out(std::size_t count, int threads,
                      const std::function<void(int worker, std::size_t i)>& work) {
  std::atomic<std::size_t> next = 0;
  Attempt::State* const attempt = Attempt::state();
  const Allowance* const allowance = Allowance::current();
  std::mutex mutex;
  std::exception_ptr thrown;
  const auto run = [&](int worker) {
    const Attempt::Within within(attempt);
    const Allowance::Within kept(allowance);
    try {
      for (std::size_t i = next++; i < count; i = next++) work(worker, i);
    } catch (...) {
      next = count;
      const std::lock_guard lock(mutex);
      if (!thrown) thrown = std::current_exception();
    }
  };
  {
    std::vector<std::jthread> helpers;
    for (int worker = 1; worker < threads && static_cast<std::size_t>(worker) < count; ++worker)
      helpers.emplace_back(run, worker);
    run(0);
  }
  if (thrown) std::rethrow_exception(thrown);
}

}  // namespace lumvet

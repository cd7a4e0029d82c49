// SPDX-License-Identifier: Apache-2.0
// Work shared out among threads.
#pragma once

#include <algorithm>
#include <atomic>
#include <cstddef>
#include <functional>
#include <thread>
#include <vector>

namespace lumvet {

// As many as asked for; 0 is one for each core.
inline int thread_count(int asked) {
  if (asked > 0) return asked;
  return std::max(1, static_cast<int>(std::thread::hardware_concurrency()));
}

// Calls work(worker, i) once for every i below count, on up to `threads` threads; `worker` numbers
// the threads from 0.
inline void share_out(std::size_t count, int threads,
                      const std::function<void(int worker, std::size_t i)>& work) {
  std::atomic<std::size_t> next = 0;
  const auto run = [&](int worker) {
    for (std::size_t i = next++; i < count; i = next++) work(worker, i);
  };
  std::vector<std::jthread> helpers;
  for (int worker = 1; worker < threads && static_cast<std::size_t>(worker) < count; ++worker)
    helpers.emplace_back(run, worker);
  run(0);
}

}  // namespace lumvet

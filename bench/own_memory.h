// SPDX-License-Identifier: Apache-2.0
// How much memory this process uses, and at most used while something went on.
#pragma once

#include <benchmark/benchmark.h>

#include <malloc.h>

#include <algorithm>
#include <atomic>
#include <cstdint>
#include <fstream>
#include <string>
#include <thread>

namespace bench {

// Kilobytes of memory that are no mapped file.
inline std::int64_t own_memory() {
  std::ifstream status("/proc/self/status");
  for (std::string line; std::getline(status, line);)
    if (line.starts_with("RssAnon:")) return std::atoll(line.c_str() + 8);
  return 0;
}

// What was freed goes back to the system, so that it cannot hide what is used next.
inline void forget_freed_memory() { malloc_trim(0); }

// The most there was at any time that a second thread could look.
class PeakMemory {
 public:
  std::int64_t stop() {
    watcher_.request_stop();
    watcher_.join();
    return most_;
  }

 private:
  std::atomic<std::int64_t> most_ = own_memory();
  std::jthread watcher_{[this](const std::stop_token& stop) {
    while (!stop.stop_requested()) most_ = std::max(most_.load(), own_memory());
  }};
};

// MiB that a piece of work takes at most, beside what there was before.
template <typename Work>
double peak_of(const Work& work) {
  forget_freed_memory();
  const std::int64_t before = own_memory();
  PeakMemory peak;
  work();
  constexpr double kKiB = 1024;
  return static_cast<double>(peak.stop() - before) / kKiB;
}

// Beside the bound that it was given, both in MiB.
inline void tell_peak(benchmark::State& state, double most, double bound) {
  state.counters["peak_MiB"] = most;
  state.counters["of_bound"] = most / bound;
}

}  // namespace bench

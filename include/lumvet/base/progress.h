// SPDX-License-Identifier: Apache-2.0
// Long work tells how far it is and can be stopped.
//
//   lumvet::CancelToken stop;
//   auto sheet = lumvet::render(page, {.cancel = stop});   // elsewhere: stop.cancel();
//
// Threads: a CancelToken and its copies may be used from any thread. A Progress callback is called
// from one thread at a time, not always the same one.
#pragma once

#include <atomic>
#include <cstdint>
#include <functional>
#include <memory>

namespace lumvet {

// Called with the steps done and the steps there are (pages, files); done <= total.
using Progress = std::function<void(std::uint64_t done, std::uint64_t total)>;

// Copies share one switch.
class CancelToken {
 public:
  CancelToken() : set_(std::make_shared<std::atomic<bool>>(false)) {}

  void cancel() const { set_->store(true, std::memory_order_relaxed); }
  bool is_cancelled() const { return set_->load(std::memory_order_relaxed); }

 private:
  std::shared_ptr<std::atomic<bool>> set_;
};

}  // namespace lumvet

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
  CancelToken() : switch_(std::make_shared<Switch>()) {}

  void cancel() const { switch_->set.store(true, std::memory_order_relaxed); }
  bool is_cancelled() const {
    for (const Switch* s = switch_.get(); s != nullptr; s = s->outer.get())
      if (s->set.load(std::memory_order_relaxed)) return true;
    return false;
  }
  // A switch for a part of the work: also set by this one, but not setting it.
  CancelToken part() const {
    CancelToken token;
    token.switch_->outer = switch_;
    return token;
  }

 private:
  struct Switch {
    std::atomic<bool> set = false;
    std::shared_ptr<const Switch> outer = {};
  };
  std::shared_ptr<Switch> switch_;
};

}  // namespace lumvet

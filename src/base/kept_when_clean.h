// SPDX-License-Identifier: Apache-2.0
// Something that is made when it is first asked for, and kept unless what it is made from could not
// be read just then.
//
// Threads: internally synchronized; one thread makes it while others that want it wait.
#pragma once

#include <memory>
#include <mutex>

#include "base/attempt.h"

namespace lumvet {

template <typename T>
class KeptWhenClean {
 public:
  // `make` gives a T.
  template <typename Make>
  std::shared_ptr<const T> get(const Make& make) {
    if (auto kept = find()) return kept;
    const std::lock_guard making(making_);
    if (auto kept = find()) return kept;
    auto made = std::make_shared<const T>(make());
    if (Attempt::is_stopped()) return made;
    const std::lock_guard lock(mutex_);
    kept_ = made;
    return made;
  }

 private:
  std::shared_ptr<const T> find() {
    const std::lock_guard lock(mutex_);
    return kept_;
  }

  std::mutex making_;
  std::mutex mutex_;
  std::shared_ptr<const T> kept_;
};

}  // namespace lumvet

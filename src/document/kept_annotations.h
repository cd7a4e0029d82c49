// SPDX-License-Identifier: Apache-2.0
// The annotations of the pages that were asked for them last: reading them looks for places and
// fields all over the document.
//
// Threads: const methods may run concurrently.
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <mutex>
#include <vector>

#include "base/attempt.h"
#include "lumvet/document/annotation.h"

namespace lumvet::document {

class KeptAnnotations {
 public:
  using List = std::shared_ptr<const std::vector<Annotation>>;

  // What an attempt read that was stopped is given, but not kept.
  List get(int page, const std::function<std::vector<Annotation>()>& read) const {
    {
      const std::lock_guard lock(mutex_);
      if (const auto known = lists_.find(page); known != lists_.end()) return known->second;
    }
    auto list = std::make_shared<const std::vector<Annotation>>(read());
    if (Attempt::is_stopped()) return list;
    constexpr std::size_t kMostPages = 64;
    const std::lock_guard lock(mutex_);
    if (lists_.size() >= kMostPages) lists_.clear();
    lists_[page] = list;
    return list;
  }

 private:
  mutable std::mutex mutex_;
  mutable std::map<int, List> lists_;
};

}  // namespace lumvet::document

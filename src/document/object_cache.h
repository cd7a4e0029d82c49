// SPDX-License-Identifier: Apache-2.0
// Things made from objects that several pages share, fonts above all, kept as long as the document.
// What they are is the business of the rooms above.
//
// Threads: internally synchronised.
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <mutex>

#include "lumvet/base/error.h"

namespace lumvet::document {

class ObjectCache {
 public:
  // The thing made from an object, made now if nobody did before. Two threads may make it at the
  // same time; the first one's stays.
  std::shared_ptr<const void> get(ObjectId id,
                                  const std::function<std::shared_ptr<const void>()>& make) {
    {
      const std::lock_guard lock(mutex_);
      const auto found = kept_.find(id);
      if (found != kept_.end()) return found->second;
    }
    auto made = make();
    const std::lock_guard lock(mutex_);
    return kept_.emplace(id, std::move(made)).first->second;
  }

 private:
  std::mutex mutex_;
  std::map<ObjectId, std::shared_ptr<const void>> kept_;
};

}  // namespace lumvet::document

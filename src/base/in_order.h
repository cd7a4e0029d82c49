// SPDX-License-Identifier: Apache-2.0
// Parts of a work made on several threads and taken one after the other.
#pragma once

#include <algorithm>
#include <atomic>
#include <condition_variable>
#include <exception>
#include <map>
#include <mutex>
#include <thread>
#include <vector>

#include "lumvet/base/progress.h"
#include "lumvet/base/result.h"

namespace lumvet {

// What is made ahead of the part that is wanted next, no more than there is room for.
template <typename Value>
class Ahead {
 public:
  explicit Ahead(std::size_t room) : room_(room) {}

  // False when the work was ended.
  bool wait_for_turn(std::size_t i) {
    std::unique_lock lock(mutex_);
    changed_.wait(lock, [&] { return ended_ || i < taken_ + room_; });
    return !ended_;
  }

  void put(std::size_t i, Result<Value> value) {
    const std::lock_guard lock(mutex_);
    made_.emplace(i, std::move(value));
    changed_.notify_all();
  }

  // An exception of a maker, which take() throws to its caller.
  void fail(std::exception_ptr thrown) {
    const std::lock_guard lock(mutex_);
    if (!thrown_) thrown_ = std::move(thrown);
    changed_.notify_all();
  }

  Result<Value> take(std::size_t i) {
    std::unique_lock lock(mutex_);
    changed_.wait(lock, [&] { return made_.contains(i) || thrown_; });
    if (thrown_) std::rethrow_exception(thrown_);
    Result<Value> value = std::move(made_.extract(i).mapped());
    taken_ = i + 1;
    changed_.notify_all();
    return value;
  }

  void end() {
    const std::lock_guard lock(mutex_);
    ended_ = true;
    changed_.notify_all();
  }

 private:
  std::mutex mutex_;
  std::condition_variable changed_;
  std::map<std::size_t, Result<Value>> made_;
  std::exception_ptr thrown_;
  std::size_t room_;
  std::size_t taken_ = 0;
  bool ended_ = false;
};

// Calls make(i, cancel) -> Result<Value> for every i below `count`, several at a time, and
// take(i, value) -> Status on the calling thread, in order. The first error of either ends the
// work and is returned; an exception reaches the caller once all threads have stopped. `cancel` of
// a part is cancelled with the whole, and when the work ends early.
// Up to `room` parts for each thread are kept ahead.
template <typename Value, typename Make, typename Take>
Status work_in_order(std::size_t count, std::size_t threads, std::size_t room,
                     const CancelToken& cancel, const Make& make, const Take& take) {
  if (threads <= 1 || count <= 1) {
    for (std::size_t i = 0; i < count; ++i) {
      Result<Value> value = make(i, cancel);
      if (!value.ok()) return std::move(value).error();
      LUMVET_RETURN_IF_ERROR(take(i, *std::move(value)));
    }
    return Done{};
  }
  const CancelToken each = cancel.part();
  Ahead<Value> ahead(threads * room);
  std::atomic<std::size_t> next = 0;
  const auto run = [&] {
    try {
      for (std::size_t i = next++; i < count && ahead.wait_for_turn(i); i = next++)
        ahead.put(i, make(i, each));
    } catch (...) {
      ahead.fail(std::current_exception());
    }
  };
  std::vector<std::jthread> makers;
  // However this is left, by an exception too, the makers are told before they are waited for.
  struct Ending {
    const CancelToken& cancel;
    Ahead<Value>& ahead;
    ~Ending() {
      cancel.cancel();
      ahead.end();
    }
  } ending{each, ahead};
  for (std::size_t k = 0; k < std::min(threads, count); ++k) makers.emplace_back(run);
  for (std::size_t i = 0; i < count; ++i) {
    Result<Value> value = ahead.take(i);
    // It may have been made before that.
    if (cancel.is_cancelled()) return Error(ErrorCode::cancelled, "the work was cancelled");
    if (!value.ok()) return std::move(value).error();
    LUMVET_RETURN_IF_ERROR(take(i, *std::move(value)));
  }
  return Done{};
}

}  // namespace lumvet

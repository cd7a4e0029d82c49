// SPDX-License-Identifier: Apache-2.0
#include "base/allowance.h"

#include <string>

namespace lumvet {

const Allowance*& Allowance::now() {
  thread_local const Allowance* allowance = nullptr;
  return allowance;
}

Allowance::Allowance(const Limits& limits, CancelToken cancel, std::uint64_t times)
    : outer_(now()),
      cancel_(std::move(cancel)),
      milliseconds_(limits.page_milliseconds * times),
      end_(std::chrono::steady_clock::now() + std::chrono::milliseconds(milliseconds_)),
      most_memory_(limits.page_memory) {
  now() = this;
}

Error Allowance::error() const {
  switch (ending_.load(std::memory_order_relaxed)) {
    case Ending::cancelled: return Error(ErrorCode::cancelled, "drawing was cancelled");
    case Ending::memory:
      return Error(ErrorCode::limit,
                   "a page takes more than " + std::to_string(most_memory_) +
                       " bytes of memory; raise Limits::page_memory if this file is trusted");
    default:
      return Error(ErrorCode::limit,
                   "a page takes longer than " + std::to_string(milliseconds_) +
                       " ms; raise Limits::page_milliseconds if this file is trusted");
  }
}

void Allowance::end(Ending how) const {
  Ending none = Ending::none;
  ending_.compare_exchange_strong(none, how, std::memory_order_relaxed);
  Attempt::note(error());
}

bool Allowance::is_over() const {
  if (ending_.load(std::memory_order_relaxed) != Ending::none) return true;
  if (cancel_.is_cancelled())
    end(Ending::cancelled);
  else if (milliseconds_ != 0 && std::chrono::steady_clock::now() > end_)
    end(Ending::time);
  else
    return false;
  return true;
}

bool Allowance::goes_on_now() {
  if (Attempt::is_stopped()) return false;
  for (const Allowance* allowance = now(); allowance != nullptr; allowance = allowance->outer_)
    if (allowance->is_over()) return false;
  return true;
}

bool Allowance::take(std::uint64_t bytes) {
  bool is_there = true;  // all count it, since it is given back to all
  for (const Allowance* allowance = now(); allowance != nullptr; allowance = allowance->outer_) {
    const std::uint64_t taken = allowance->memory_.fetch_add(bytes, std::memory_order_relaxed);
    if (bytes <= allowance->most_memory_ && taken <= allowance->most_memory_ - bytes) continue;
    allowance->end(Ending::memory);
    is_there = false;
  }
  return is_there && !Attempt::is_stopped();
}

void Allowance::give_back(std::uint64_t bytes) {
  for (const Allowance* allowance = now(); allowance != nullptr; allowance = allowance->outer_)
    allowance->memory_.fetch_sub(bytes, std::memory_order_relaxed);
}

Error Allowance::reason() {
  if (auto stopped = Attempt::stopped_by()) return *std::move(stopped);
  for (const Allowance* allowance = now(); allowance != nullptr; allowance = allowance->outer_)
    if (allowance->ending_.load(std::memory_order_relaxed) != Ending::none)
      return allowance->error();
  return Error(ErrorCode::cancelled, "drawing was cancelled");
}

}  // namespace lumvet

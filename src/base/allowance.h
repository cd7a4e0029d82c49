// SPDX-License-Identifier: Apache-2.0
// What one page may take while somebody works at it: time and memory, and whether it is still
// wanted. Loops that follow the file ask goes_on() from turn to turn and end where it says no; what
// was wrong stands in the attempt of the thread.
//
//   const Allowance allowance(limits, options.cancel);
//   while (goes_on() && parser.has_more()) …
//
// An allowance within another one keeps to both. Threads: belongs to the thread that set it;
// share_out takes its workers into the allowance of whoever shares out.
#pragma once

#include <atomic>
#include <chrono>
#include <cstdint>
#include <utility>

#include "base/attempt.h"
#include "lumvet/base/limits.h"
#include "lumvet/base/progress.h"

namespace lumvet {

class Allowance {
 public:
  // `times`: of Limits::page_milliseconds.
  Allowance(const Limits& limits, CancelToken cancel, std::uint64_t times = 1);
  ~Allowance() { now() = outer_; }
  Allowance(const Allowance&) = delete;
  Allowance& operator=(const Allowance&) = delete;

  // Looks at the clock and at what cancels, of all allowances that there are; true without any.
  static bool goes_on_now();
  // Memory that is about to be taken, in bytes; false, and an attempt stopped, when it is too much.
  static bool take(std::uint64_t bytes);
  static void give_back(std::uint64_t bytes);
  // Why it goes on no more.
  static Error reason();

  // Of the work that the thread does.
  static const Allowance* current() { return now(); }
  class Within {
   public:
    explicit Within(const Allowance* allowance) : before_(std::exchange(now(), allowance)) {}
    ~Within() { now() = before_; }
    Within(const Within&) = delete;
    Within& operator=(const Within&) = delete;

   private:
    const Allowance* before_;
  };

 private:
  // Not inline: of several shared libraries each would have one of its own.
  static const Allowance*& now();
  enum class Ending { none, time, memory, cancelled };

  bool is_over() const;
  void end(Ending how) const;
  Error error() const;

  const Allowance* outer_;
  CancelToken cancel_;
  std::uint64_t milliseconds_;  // 0 is without end
  std::chrono::steady_clock::time_point end_;
  std::uint64_t most_memory_;
  mutable std::atomic<std::uint64_t> memory_ = 0;
  mutable std::atomic<Ending> ending_ = Ending::none;
};

// Cheap enough for every turn of a loop; the clock is looked at now and then.
inline bool goes_on() {
  constexpr unsigned kLookEvery = 64;
  thread_local unsigned turns = 0;
  return ++turns % kLookEvery == 0 ? Allowance::goes_on_now() : !Attempt::is_stopped();
}

// Memory that is taken for a while.
class TakenMemory {
 public:
  explicit TakenMemory(std::uint64_t bytes = 0)
      : bytes_(bytes), is_there_(Allowance::take(bytes)) {}
  ~TakenMemory() { Allowance::give_back(bytes_); }
  TakenMemory(const TakenMemory&) = delete;
  TakenMemory& operator=(const TakenMemory&) = delete;
  bool more(std::uint64_t bytes) {
    bytes_ += bytes;
    return is_there_ = Allowance::take(bytes);
  }
  Status status() const { return is_there_ ? Status(Done{}) : Status(Allowance::reason()); }

 private:
  std::uint64_t bytes_;
  bool is_there_;
};

// goes_on() and Allowance::take() for functions that give errors.
inline Status go_on() {
  if (goes_on()) return Done{};
  return Allowance::reason();
}
// Where turns are few and take long.
inline Status go_on_now() {
  if (Allowance::goes_on_now()) return Done{};
  return Allowance::reason();
}
inline Status take_memory(std::uint64_t bytes) {
  if (Allowance::take(bytes)) return Done{};
  return Allowance::reason();
}

}  // namespace lumvet

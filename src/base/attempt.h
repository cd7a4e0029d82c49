// SPDX-License-Identifier: Apache-2.0
// One try at a public operation, and what stopped it.
//
// Rooms below tolerate damage and answer it with nothing. What is only not here now (io, bytes that
// have not arrived, a limit, a cancellation) must never be taken for that: whoever meets it notes
// it on the attempt of the thread. From then on the attempt reads nothing more, keeps nothing and
// finds nothing, and it ends with that error, however many rooms in between went on without.
//
//   Result<Outline> Document::outline() const {
//     return attempted([&] { return read_outline(*core_); });
//   }
//
// An attempt also counts the values that it follows and what it makes of them, so that a file of a
// few bytes, in which everything is shared by everything, does not keep it busy for ever.
//
// Attempts within one another are one. Threads: belongs to its thread; share_out takes its workers
// into the attempt of whoever shares out.
#pragma once

#include <atomic>
#include <cstdint>
#include <mutex>
#include <optional>
#include <set>
#include <type_traits>
#include <utility>

#include "lumvet/base/result.h"

namespace lumvet {

// Whether an error tells of the moment rather than of the file.
constexpr bool stops(ErrorCode code) {
  return code == ErrorCode::io || code == ErrorCode::need_more_data || code == ErrorCode::limit ||
         code == ErrorCode::cancelled;
}

class Attempt {
 public:
  // What threads working at one attempt share.
  struct State {
    std::atomic<bool> is_stopped = false;
    std::mutex mutex;
    std::optional<Error> error;  // the first that stopped it
    // Bytes followed, and those that the files at work entitle to.
    std::atomic<std::uint64_t> followed = 0;
    std::atomic<std::uint64_t> allowed = 0;
    std::atomic<const void*> last_file = nullptr;
    std::set<const void*> files;  // that have entitled
  };

  Attempt() : before_(now()), lost_before_(lost().load(std::memory_order_relaxed)) {
    if (before_ == nullptr) now() = &own_;
  }
  ~Attempt() { now() = before_; }
  Attempt(const Attempt&) = delete;
  Attempt& operator=(const Attempt&) = delete;

  // Notes an error on the attempt of this thread, if there is one and the error stops anything.
  static void note(const Error& error);
  // Nothing while all goes well, and outside of any attempt.
  static std::optional<Error> stopped_by();
  // Counts bytes of values that are looked at or made of others. False once that is more than the
  // files at work entitle to, which stops the attempt with `limit`.
  static bool follow(std::uint64_t bytes) {
    constexpr std::uint64_t kPortion = 4096;  // that threads count by themselves
    std::uint64_t& counted = uncounted();
    counted += bytes;
    return counted < kPortion ? !is_stopped() : count_followed();
  }
  // The same for a look at a value of a file, which entitles to that many bytes, once.
  static bool follow_in(const void* file, std::uint64_t allowed) {
    constexpr std::uint64_t kLook = 32;
    State* state = now();
    if (state == nullptr) return true;
    if (state->last_file.load(std::memory_order_relaxed) != file) entitle(*state, file, allowed);
    return follow(kLook);
  }
  // A file that is mapped became shorter, and zeros were read in its place: by whom cannot be said,
  // so that every attempt which is under way ends with an io error. Signal handlers may call it.
  static void note_lost_bytes() { lost().fetch_add(1, std::memory_order_relaxed); }
  static bool is_stopped() {
    const State* state = now();
    return state != nullptr && state->is_stopped.load(std::memory_order_relaxed);
  }

  // A helper thread works at an attempt of another, or, for null, at none: what an application does
  // when it is called back is its own affair.
  class Within {
   public:
    explicit Within(State* state) : before_(std::exchange(now(), state)) {}
    ~Within() { now() = before_; }
    Within(const Within&) = delete;
    Within& operator=(const Within&) = delete;

   private:
    State* before_;
  };
  static State* state() { return now(); }
  // Whether bytes were lost since this began.
  bool has_lost_bytes() const { return lost().load(std::memory_order_relaxed) != lost_before_; }

 private:
  // Not inline, here and below: of several shared libraries each would have one of its own.
  static State*& now();
  static std::uint64_t& uncounted();
  static bool count_followed();
  static void entitle(State& state, const void* file, std::uint64_t allowed);
  static std::atomic<std::uint64_t>& lost();

  State* before_;
  std::uint64_t lost_before_;
  State own_;
};

// Of code limit, and noted.
Error met_limit(std::string message);

namespace attempting {
template <typename T>
struct Answer {
  using type = Result<T>;
};
template <typename T>
struct Answer<Result<T>> {
  using type = Result<T>;
};
}  // namespace attempting

// What work() gives, or what stopped it.
template <typename Work>
auto attempted(Work&& work) -> typename attempting::Answer<std::invoke_result_t<Work&>>::type {
  using Answer = typename attempting::Answer<std::invoke_result_t<Work&>>::type;
  const Attempt attempt;
  Answer answer = work();
  if (attempt.has_lost_bytes())
    Attempt::note(Error(ErrorCode::io, "a file was shortened while it was read; open it again"));
  if (!Attempt::is_stopped() || (!answer.ok() && stops(answer.error().code()))) return answer;
  return *Attempt::stopped_by();
}

// Calls an application's function, outside of any attempt.
template <typename Function, typename... Arguments>
decltype(auto) called_back(const Function& function, Arguments&&... arguments) {
  const Attempt::Within none(nullptr);
  return function(std::forward<Arguments>(arguments)...);
}

}  // namespace lumvet

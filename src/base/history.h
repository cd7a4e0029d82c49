// SPDX-License-Identifier: Apache-2.0
// States, one after each step, of which the latest may be left and returned to.
//
// Threads: const methods may run concurrently; anything else needs exclusive access.
#pragma once

#include <cstddef>
#include <string>
#include <utility>
#include <vector>

namespace lumvet {

template <typename State>
class History {
 public:
  explicit History(State first) { entries_.push_back({"", std::move(first)}); }

  const State& now() const { return entries_[at_].state; }
  // A step, told in words. What was taken back before it is gone.
  void take(std::string what, State state) {
    entries_.resize(at_ + 1, entries_.front());
    entries_.push_back({std::move(what), std::move(state)});
    ++at_;
  }

  bool can_undo() const { return at_ > 0; }
  bool can_redo() const { return at_ + 1 < entries_.size(); }
  // Nothing happens when there is nothing to leave or to return to.
  void undo() { at_ -= can_undo() ? 1 : 0; }
  void redo() { at_ += can_redo() ? 1 : 0; }
  // What was done and not taken back, oldest first.
  std::vector<std::string> steps() const {
    std::vector<std::string> done;
    for (std::size_t i = 1; i <= at_; ++i) done.push_back(entries_[i].what);
    return done;
  }

 private:
  struct Entry {
    std::string what;
    State state;
  };
  std::vector<Entry> entries_;
  std::size_t at_ = 0;
};

}  // namespace lumvet

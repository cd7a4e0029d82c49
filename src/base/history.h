// SPDX-License-Identifier: Apache-2.0
// States, one after each step, of which the latest may be left and returned to.
//
// Threads: const methods may run concurrently; anything else needs exclusive access.
#pragma once

#include <cstddef>
#include <optional>
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
    if (group_ && group_has_begun_) {
      entries_[at_].state = std::move(state);
      return;
    }
    entries_.resize(at_ + 1, entries_.front());
    entries_.push_back({group_ ? *group_ : std::move(what), std::move(state)});
    ++at_;
    group_has_begun_ = group_.has_value();
  }
  // The steps until the group ends are one, told in its words. Groups within it change nothing.
  void begin_group(std::string what) {
    if (depth_++ > 0) return;
    group_ = std::move(what);
    group_has_begun_ = false;
  }
  void end_group() {
    if (depth_ > 0 && --depth_ == 0) group_.reset();
  }

  bool can_undo() const { return at_ > 0; }
  bool can_redo() const { return at_ + 1 < entries_.size(); }
  // Nothing happens when there is nothing to leave or to return to. A step that is left is whole.
  void undo() {
    at_ -= can_undo() ? 1 : 0;
    group_has_begun_ = false;
  }
  void redo() {
    at_ += can_redo() ? 1 : 0;
    group_has_begun_ = false;
  }
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
  int depth_ = 0;  // of groups within one another
  std::optional<std::string> group_;
  bool group_has_begun_ = false;  // its first step was taken
};

}  // namespace lumvet

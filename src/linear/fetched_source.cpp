// SPDX-License-Identifier: Apache-2.0
#include "linear/fetched_source.h"

#include <algorithm>
#include <utility>

namespace lumvet::linear {

void Ranges::add(std::uint64_t begin, std::uint64_t end) {
  if (begin >= end) return;
  auto next = ends_.upper_bound(begin);
  if (next != ends_.begin() && std::prev(next)->second >= begin) {
    --next;
    begin = next->first;
  }
  while (next != ends_.end() && next->first <= end) {
    end = std::max(end, next->second);
    next = ends_.erase(next);
  }
  ends_[begin] = end;
}

std::vector<std::pair<std::uint64_t, std::uint64_t>> Ranges::missing(std::uint64_t begin,
                                                                     std::uint64_t end) const {
  std::vector<std::pair<std::uint64_t, std::uint64_t>> gaps;
  auto next = ends_.upper_bound(begin);
  if (next != ends_.begin()) begin = std::max(begin, std::prev(next)->second);
  for (; begin < end; ++next) {
    const std::uint64_t until = next == ends_.end() ? end : std::min(end, next->first);
    if (begin < until) gaps.emplace_back(begin, until);
    if (next == ends_.end()) break;
    begin = std::max(begin, next->second);
  }
  return gaps;
}

Status FetchedSource::read(std::uint64_t offset, std::span<std::uint8_t> into) const {
  fetch(offset, into.size());
  return whole_->read(offset, into);
}

Result<ByteSlice> FetchedSource::slice(std::uint64_t offset, std::uint64_t length) const {
  fetch(offset, length);
  return whole_->slice(offset, length);
}

void FetchedSource::begin_at(std::size_t turn) {
  const std::lock_guard lock(mutex_);
  turn_ = turn;
}

std::size_t FetchedSource::turns() const {
  const std::lock_guard lock(mutex_);
  return turns_.size();
}

Turns FetchedSource::take() {
  const std::lock_guard lock(mutex_);
  turn_ = 0;
  return std::exchange(turns_, {});
}

void FetchedSource::fetch(std::uint64_t offset, std::uint64_t length) const {
  const std::uint64_t size = whole_->size();
  if (offset >= size || length == 0) return;
  const std::uint64_t end = std::min(size, offset + std::min(length, size - offset));
  const std::lock_guard lock(mutex_);
  const auto gaps = there_.missing(offset, end);
  if (gaps.empty()) return;
  if (turns_.size() <= turn_) turns_.resize(turn_ + 1);
  for (const auto& [begin, until] : gaps) {
    const std::uint64_t last = std::min(size, (until + piece_ - 1) / piece_ * piece_);
    for (const auto& [from, to] : there_.missing(begin / piece_ * piece_, last)) {
      turns_[turn_].add(from, to);
      there_.add(from, to);
    }
  }
  ++turn_;
}

}  // namespace lumvet::linear

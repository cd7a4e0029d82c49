// SPDX-License-Identifier: Apache-2.0
// A list that grows without moving what is in it: nothing is copied while it becomes long, and the
// memory of no more than one piece of it is ever asked for at once.
//
// Threads: as a vector.
#pragma once

#include <cstddef>
#include <iterator>
#include <vector>

namespace lumvet {

template <typename T>
class ChunkedList {
 public:
  class Iterator {
   public:
    using iterator_category = std::forward_iterator_tag;
    using value_type = T;
    using difference_type = std::ptrdiff_t;
    using pointer = const T*;
    using reference = const T&;

    Iterator() = default;
    Iterator(const ChunkedList* list, std::size_t at) : list_(list), at_(at) {}
    const T& operator*() const { return (*list_)[at_]; }
    const T* operator->() const { return &(*list_)[at_]; }
    Iterator& operator++() {
      ++at_;
      return *this;
    }
    Iterator operator++(int) {
      Iterator before = *this;
      ++at_;
      return before;
    }
    bool operator==(const Iterator&) const = default;

   private:
    const ChunkedList* list_ = nullptr;
    std::size_t at_ = 0;
  };

  std::size_t size() const { return end_ - dropped_; }
  bool empty() const { return size() == 0; }
  const T& operator[](std::size_t i) const { return at(dropped_ + i); }
  T& operator[](std::size_t i) { return chunks_[(dropped_ + i) / kChunk][(dropped_ + i) % kChunk]; }
  const T& back() const { return at(end_ - 1); }
  Iterator begin() const { return {this, 0}; }
  Iterator end() const { return {this, size()}; }

  void push_back(T value) {
    if (end_ % kChunk == 0) {
      chunks_.emplace_back();
      if (end_ > 0) chunks_.back().reserve(kChunk);  // short lists stay small
    }
    chunks_.back().push_back(std::move(value));
    ++end_;
  }
  void drop_first() { ++dropped_; }
  // How many were dropped: what was the nth when it was added is at n without those.
  std::size_t dropped() const { return dropped_; }
  // Keeps the first `count`.
  void truncate(std::size_t count) {
    end_ = dropped_ + count;
    chunks_.resize((end_ + kChunk - 1) / kChunk);
    if (end_ % kChunk != 0) {
      auto& last = chunks_.back();
      last.erase(last.begin() + static_cast<std::ptrdiff_t>(end_ % kChunk), last.end());
    }
  }

 private:
  static constexpr std::size_t kChunk = 256;

  const T& at(std::size_t i) const { return chunks_[i / kChunk][i % kChunk]; }

  std::vector<std::vector<T>> chunks_;  // all full but the last
  std::size_t end_ = 0;
  std::size_t dropped_ = 0;  // at the beginning, though still there
};

}  // namespace lumvet

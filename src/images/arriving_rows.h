// SPDX-License-Identifier: Apache-2.0
// The rows of an image that are decoded when they are asked for, from the first on, by whoever
// asks: drawing may begin at the top while a second thread decodes what is further down.
//
// Threads: internally synchronized.
#pragma once

#include <atomic>
#include <functional>
#include <mutex>

namespace lumvet::images {

class ArrivingRows {
 public:
  // `decode` decodes some more and tells how many of the `rows` are there; at the end it says all.
  // One thread calls it at a time.
  ArrivingRows(int rows, std::function<int()> decode) : rows_(rows), decode_(std::move(decode)) {}

  // Returns once the row is there.
  void need(int row) {
    if (row >= there_.load(std::memory_order_acquire)) decode_until(row);
  }
  // Decodes what is left, for others to find it there; returns early once cancelled.
  void run_ahead();

 private:
  void decode_until(int row);
  // With `decoding_` held.
  void decode_some() {
    const int there = decode_();
    if (there == rows_) decode_ = nullptr;  // and what it kept for that
    there_.store(there, std::memory_order_release);
  }
  void tell_others();

  const int rows_;
  std::function<int()> decode_;
  std::mutex decoding_;
  std::atomic<int> there_ = 0;
  std::atomic<unsigned> turn_ = 0;  // changes when rows have come, or somebody stops decoding
};

}  // namespace lumvet::images

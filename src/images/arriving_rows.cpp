// SPDX-License-Identifier: Apache-2.0
#include "images/arriving_rows.h"

#include "base/allowance.h"

namespace lumvet::images {

void ArrivingRows::tell_others() {
  turn_.fetch_add(1, std::memory_order_release);
  turn_.notify_all();
}

void ArrivingRows::decode_until(int row) {
  for (;;) {
    const unsigned turn = turn_.load(std::memory_order_acquire);
    if (row < there_.load(std::memory_order_acquire)) return;
    if (std::unique_lock lock(decoding_, std::try_to_lock); lock) {
      while (row >= there_.load(std::memory_order_relaxed)) decode_some();
      lock.unlock();
      tell_others();
      return;
    }
    turn_.wait(turn);  // whoever decodes changes it when done, after letting go
  }
}

void ArrivingRows::run_ahead() {
  constexpr int kBatch = 16;
  while (there_.load(std::memory_order_acquire) < rows_ && Allowance::goes_on_now()) {
    {
      const std::lock_guard lock(decoding_);
      for (int i = 0; i < kBatch && there_.load(std::memory_order_relaxed) < rows_; ++i)
        decode_some();
    }
    tell_others();
  }
}

}  // namespace lumvet::images

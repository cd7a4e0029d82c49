// SPDX-License-Identifier: Apache-2.0
// What filters that go byte by byte share: their input as single bytes, and their output kept until
// it is asked for.
//
// Threads: one thread at a time.
#pragma once

#include <algorithm>

#include "filters/decoder.h"

namespace lumvet::filters {

class ByteFeed {
 public:
  explicit ByteFeed(DecodingPtr input) : input_(std::move(input)) {}

  // The next byte, or nothing at the end. An error of the input ends it, too, and is kept.
  std::optional<std::uint8_t> next() {
    if (at_ == chunk_.size() && !refill()) return std::nullopt;
    return chunk_[at_++];
  }
  std::optional<std::uint8_t> peek() {
    if (at_ == chunk_.size() && !refill()) return std::nullopt;
    return chunk_[at_];
  }

  std::uint64_t position() const { return before_ + at_; }
  const std::optional<Error>& error() const { return error_; }

 private:
  bool refill() {
    if (ended_) return false;
    before_ += chunk_.size();
    at_ = 0;
    constexpr std::size_t kChunk = 16 * 1024;
    chunk_.resize(kChunk);
    const Result<std::size_t> read = input_->read(chunk_);
    if (!read.ok()) error_ = read.error();
    chunk_.resize(read.ok() ? *read : 0);
    ended_ = chunk_.size() < kChunk;
    return !chunk_.empty();
  }

  DecodingPtr input_;
  Bytes chunk_;
  std::size_t at_ = 0;
  std::uint64_t before_ = 0;  // bytes in front of the chunk
  bool ended_ = false;
  std::optional<Error> error_;
};

class BytewiseDecoding : public Decoding {
 public:
  explicit BytewiseDecoding(DecodingPtr input) : feed_(std::move(input)) {}

  Result<std::size_t> read(std::span<std::uint8_t> out) final {
    std::size_t filled = 0;
    while (filled < out.size()) {
      if (given_ == ready_.size()) {
        ready_.clear();
        given_ = 0;
        while (!ended_ && ready_.size() < kPiece) ended_ = !produce(ready_);
        if (feed_.error()) return *feed_.error();
        if (ready_.empty()) break;
      }
      const std::size_t part = std::min(out.size() - filled, ready_.size() - given_);
      std::copy_n(ready_.begin() + static_cast<std::ptrdiff_t>(given_), part,
                  out.begin() + static_cast<std::ptrdiff_t>(filled));
      given_ += part;
      filled += part;
    }
    return filled;
  }

 protected:
  // Appends a little; false once there is no more.
  virtual bool produce(Bytes& out) = 0;
  ByteFeed& feed() { return feed_; }

 private:
  static constexpr std::size_t kPiece = 16 * 1024;

  ByteFeed feed_;
  Bytes ready_;
  std::size_t given_ = 0;
  bool ended_ = false;
};

}  // namespace lumvet::filters

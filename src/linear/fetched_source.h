// SPDX-License-Identifier: Apache-2.0
// A source that notes which of its bytes are read, as if each had to be asked for first.
//
// Threads: const methods may run concurrently.
#pragma once

#include <map>
#include <mutex>
#include <vector>

#include "lumvet/io/byte_source.h"

namespace lumvet::linear {

// Ranges of a file, those that touch as one.
class Ranges {
 public:
  void add(std::uint64_t begin, std::uint64_t end);
  // What of a range is not among them, in order, as pairs of begin and end.
  std::vector<std::pair<std::uint64_t, std::uint64_t>> missing(std::uint64_t begin,
                                                               std::uint64_t end) const;
  std::vector<std::pair<std::uint64_t, std::uint64_t>> all() const {
    return {ends_.begin(), ends_.end()};
  }

 private:
  std::map<std::uint64_t, std::uint64_t> ends_;  // by where they begin
};

// What was asked for, by turn: the requests of one turn are made together, those of the next once
// their answers have come.
using Turns = std::vector<Ranges>;

class FetchedSource final : public ByteSource {
 public:
  // `piece`: bytes to whose multiples requests are widened.
  FetchedSource(std::shared_ptr<const ByteSource> whole, std::uint64_t piece)
      : whole_(std::move(whole)), piece_(piece) {}

  std::uint64_t size() const override { return whole_->size(); }
  std::string name() const override { return whole_->name(); }
  Status read(std::uint64_t offset, std::span<std::uint8_t> into) const override;
  Result<ByteSlice> slice(std::uint64_t offset, std::uint64_t length) const override;

  // What is read from now on could have been asked for at this turn; what that lacks, at the next.
  void begin_at(std::size_t turn);
  std::size_t turns() const;  // so far
  Turns take();               // and counts from 0 again

 private:
  void fetch(std::uint64_t offset, std::uint64_t length) const;

  std::shared_ptr<const ByteSource> whole_;
  std::uint64_t piece_;
  mutable std::mutex mutex_;
  mutable Ranges there_;
  mutable Turns turns_;
  mutable std::size_t turn_ = 0;
};

}  // namespace lumvet::linear

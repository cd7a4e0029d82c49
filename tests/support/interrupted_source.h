// SPDX-License-Identifier: Apache-2.0
// Sources whose bytes are not there when they are first asked for.
#pragma once

#include <mutex>
#include <set>

#include "lumvet/io/byte_source.h"

namespace test {

// Over bytes in memory; what is asked for goes by `admit` first.
class InterruptedSource : public lumvet::ByteSource {
 public:
  explicit InterruptedSource(std::shared_ptr<const lumvet::ByteSource> whole)
      : whole_(std::move(whole)) {}
  std::uint64_t size() const override { return whole_->size(); }
  std::string name() const override { return whole_->name(); }
  lumvet::Status read(std::uint64_t offset, std::span<std::uint8_t> into) const override {
    LUMVET_RETURN_IF_ERROR(admitted(offset, into.size()));
    return whole_->read(offset, into);
  }
  lumvet::Result<lumvet::ByteSlice> slice(std::uint64_t offset,
                                          std::uint64_t length) const override {
    LUMVET_RETURN_IF_ERROR(admitted(offset, length));
    return whole_->slice(offset, length);
  }

 protected:
  virtual lumvet::Status admit(std::uint64_t begin, std::uint64_t end) const = 0;

 private:
  lumvet::Status admitted(std::uint64_t offset, std::uint64_t length) const {
    if (offset > whole_->size() || length == 0) return lumvet::Done{};
    const std::lock_guard lock(mutex_);
    return admit(offset, offset + std::min(length, whole_->size() - offset));
  }

  std::shared_ptr<const lumvet::ByteSource> whole_;
  mutable std::mutex mutex_;
};

// As over a network: each piece of the file has to be asked for once before it is there. Further
// pieces can be taken away again.
class ArrivingSource final : public InterruptedSource {
 public:
  ArrivingSource(std::shared_ptr<const lumvet::ByteSource> whole, std::uint64_t piece)
      : InterruptedSource(std::move(whole)), piece_(piece) {}
  void forget_all() { there_.clear(); }

 protected:
  lumvet::Status admit(std::uint64_t begin, std::uint64_t end) const override {
    bool all_there = true;
    for (std::uint64_t piece = begin / piece_; piece * piece_ < end; ++piece)
      all_there = !there_.insert(piece).second && all_there;
    if (all_there) return lumvet::Done{};
    return lumvet::Error(lumvet::ErrorCode::need_more_data, "the test's bytes have not arrived")
        .at_offset(begin);
  }

 private:
  std::uint64_t piece_;
  mutable std::set<std::uint64_t> there_;
};

// Fails at one of its readings, counted from 0, and never again.
class FailingOnceSource final : public InterruptedSource {
 public:
  FailingOnceSource(std::shared_ptr<const lumvet::ByteSource> whole, std::uint64_t at)
      : InterruptedSource(std::move(whole)), at_(at) {}
  std::uint64_t readings() const { return readings_; }

 protected:
  lumvet::Status admit(std::uint64_t begin, std::uint64_t) const override {
    if (readings_++ != at_) return lumvet::Done{};
    return lumvet::Error(lumvet::ErrorCode::io, "the test's disk failed for a moment")
        .at_offset(begin);
  }

 private:
  std::uint64_t at_;
  mutable std::uint64_t readings_ = 0;
};

}  // namespace test

// SPDX-License-Identifier: Apache-2.0
// The rows of a cross-reference stream. Opening a document needs the first few, so the rest is
// unpacked only when an object further on is looked up.
//
// Threads: const methods may run concurrently.
#pragma once

#include "base/findings_list.h"
#include "base/kept_when_clean.h"
#include "lumvet/base/limits.h"
#include "lumvet/objects/object.h"

namespace lumvet::file {

class XrefRows {
 public:
  // Errors: as the stream's filters meet them.
  static Result<std::shared_ptr<const XrefRows>> read(const Stream& stream, const Limits& limits,
                                                      Findings& findings);

  // The bytes of one row; empty when the data ends before it.
  ByteSlice row(std::uint64_t at, std::size_t size) const;
  // As many bytes as there can be.
  std::uint64_t most_bytes() const { return most_bytes_; }

 private:
  XrefRows(const Stream& stream, const Limits& limits) : stream_(stream), limits_(limits) {}
  ByteSlice unpack_all() const;

  Stream stream_;
  Limits limits_;
  Bytes beginning_;
  bool is_whole_ = false;  // all was unpacked at once
  std::uint64_t most_bytes_ = 0;
  ByteSlice whole_;  // when it is
  mutable KeptWhenClean<ByteSlice> unpacked_;
};

}  // namespace lumvet::file

// SPDX-License-Identifier: Apache-2.0
// The content streams of a page, decoded and put together (ISO 32000-2, 7.8.2) a window at a time,
// so that a page's content need not fit into memory.
//
//   ContentFeed feed(page);
//   while (...) { use feed.window() up to `used`; feed.advance(used); }
//
// Threads: one thread at a time.
#pragma once

#include <set>
#include <utility>

#include "base/budget.h"
#include "file/object_store.h"
#include "filters/stream_decoder.h"
#include "lumvet/document/page.h"

namespace lumvet::document {

class ContentFeed {
 public:
  // Bytes that a window has at least, while there are so many.
  static constexpr std::size_t kWindow = 1 << 18;

  explicit ContentFeed(const Page& page);

  // Valid until the next advance().
  ByteView window() const { return window_; }
  // Whether anything comes behind the window.
  bool has_more() const { return pieces_ != nullptr || next_ < parts_.size(); }
  // Bytes that the streams read so far take in the file, those of each stream once.
  std::uint64_t encoded() const { return encoded_; }
  // Forgets the first `used` bytes of the window and reads on: to kWindow bytes, and at least twice
  // as many as are left. What cannot be decoded is left out with a finding. Errors: io,
  // need_more_data, limit.
  Status advance(std::size_t used);

 private:
  Status open_next();
  Status read_piece();
  Status pass_over(const Error& error, const Object& part);

  int page_;  // from 0
  const file::ObjectStore& store_;
  Array parts_;
  std::size_t next_ = 0;
  std::set<std::pair<const ByteSource*, std::uint64_t>> opened_;  // by where they begin
  std::uint64_t encoded_ = 0;
  Budget budget_;
  filters::DecodingPtr pieces_;  // of the stream that is being read
  Stream stream_;
  Bytes window_;
};

}  // namespace lumvet::document

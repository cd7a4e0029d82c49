// SPDX-License-Identifier: Apache-2.0
// Rows of an image's samples, from bytes that are all there or that come piece by piece, so that a
// large image is never held whole in its packed form.
//
// Threads: one thread at a time.
#pragma once

#include <algorithm>

#include "filters/decoder.h"
#include "lumvet/io/byte_source.h"

namespace lumvet::images {

class RowFeed {
 public:
  RowFeed() = default;
  explicit RowFeed(ByteSlice bytes) : bytes_(std::move(bytes)) {}
  explicit RowFeed(filters::DecodingPtr pieces) : pieces_(std::move(pieces)) {}

  // The next `size` bytes, fewer where the data ends; they live until the next call. Errors: as
  // the filters below meet them.
  Result<ByteView> next(std::size_t size) {
    if (!pieces_) {
      const ByteView rest = bytes_.view().subspan(static_cast<std::size_t>(given_));
      const ByteView row = rest.first(std::min(size, rest.size()));
      given_ += row.size();
      return row;
    }
    row_.resize(size);
    LUMVET_TRY(const std::size_t there, pieces_->read(row_));
    given_ += there;
    return ByteView(row_).first(there);
  }

  bool comes_in_pieces() const { return pieces_ != nullptr; }
  std::uint64_t given() const { return given_; }  // bytes so far
  std::optional<filters::Damage> damage() const {
    return pieces_ ? pieces_->damage() : std::nullopt;
  }

 private:
  ByteSlice bytes_;
  filters::DecodingPtr pieces_;
  Bytes row_;
  std::uint64_t given_ = 0;
};

}  // namespace lumvet::images

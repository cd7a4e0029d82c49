// SPDX-License-Identifier: Apache-2.0
// A codec that gives whole rows, read in pieces of any size.
//
// Threads: one thread at a time.
#pragma once

#include <algorithm>

#include "filters/decoder.h"

namespace lumvet::images {

class RowDecoding : public filters::Decoding {
 public:
  // Whole rows straight to where they belong, what is left by way of one kept here.
  Result<std::size_t> read(std::span<std::uint8_t> out) final {
    std::size_t given = 0;
    while (given < out.size()) {
      if (left_ == 0 && out.size() - given >= row_size()) {
        if (!next_row(out.subspan(given, row_size()))) break;
        given += row_size();
        continue;
      }
      if (left_ == 0) {
        row_.resize(row_size());
        if (!next_row(row_)) break;
        left_ = row_size();
      }
      const std::size_t part = std::min(out.size() - given, left_);
      std::copy_n(row_.data() + (row_size() - left_), part, out.data() + given);
      left_ -= part;
      given += part;
    }
    return given;
  }

 private:
  virtual std::size_t row_size() const = 0;  // bytes
  // Fills `row`; false behind the last.
  virtual bool next_row(std::span<std::uint8_t> row) = 0;

  Bytes row_;
  std::size_t left_ = 0;  // bytes of it that nobody has read yet
};

}  // namespace lumvet::images

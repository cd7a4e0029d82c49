// SPDX-License-Identifier: Apache-2.0
// The rows of a PNG image filtered and deflated in slices, on several threads (ISO/IEC 15948, 9 and
// 10). The bytes are the same for any number of threads.
//
// Threads: one thread at a time.
#pragma once

#include <cstdint>
#include <functional>

#include "lumvet/base/bytes.h"
#include "lumvet/base/result.h"

namespace lumvet::raster {

class PngRows {
 public:
  // `pixel_bytes` is 0 for rows of single bits. What is deflated goes to `give`, piece by piece.
  PngRows(std::size_t row_bytes, std::size_t pixel_bytes, int threads,
          std::function<Status(ByteView)> give);

  // The next row, from the top. Errors: those of `give`.
  Status add(const std::uint8_t* row);
  // Errors: those of `give`.
  Status finish();

 private:
  // Rows that are filtered and deflated by themselves; the deflater looks back into those before.
  struct Slice {
    std::size_t first = 0;  // row of those that are kept
    std::size_t count = 0;
    Bytes filtered = {};
    Bytes deflated = {};
    std::uint32_t check = 0;  // Adler-32
  };

  Status deflate_kept(bool is_last);
  void filter(Slice& slice) const;
  static void deflate(Slice& slice, ByteView before, bool is_last);

  std::size_t row_bytes_;
  std::size_t pixel_bytes_;
  int threads_;
  std::function<Status(ByteView)> give_;
  std::size_t slice_rows_;
  Bytes kept_;  // rows not yet deflated, with the one before them in front
  std::size_t kept_rows_ = 0;
  Bytes before_;  // the end of what was filtered last
  std::uint32_t check_ = 1;
  bool has_begun_ = false;
};

}  // namespace lumvet::raster

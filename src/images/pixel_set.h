// SPDX-License-Identifier: Apache-2.0
// Some of the pixels of an image.
//
// Threads: const methods may run concurrently.
#pragma once

#include <algorithm>
#include <vector>

namespace lumvet::images {

class PixelSet {
 public:
  struct Span {
    int begin = 0;
    int end = 0;  // the first that is not in it
  };

  PixelSet(int width, int height) : width_(width), rows_(static_cast<std::size_t>(height)) {}

  int width() const { return width_; }
  int height() const { return static_cast<int>(rows_.size()); }
  // Those of a row from `begin` on and before `end`, as far as there are such.
  void add(int row, int begin, int end) {
    begin = std::max(begin, 0);
    end = std::min(end, width_);
    if (row < 0 || row >= height() || begin >= end) return;
    rows_[static_cast<std::size_t>(row)].push_back({begin, end});
    is_empty_ = false;
  }
  const std::vector<Span>& row(int row) const { return rows_[static_cast<std::size_t>(row)]; }
  bool is_empty() const { return is_empty_; }
  // Whether one of them lies in these columns and rows.
  bool meets(int left, int top, int right, int bottom) const {
    for (int y = std::max(top, 0); y < std::min(bottom, height()); ++y)
      for (const Span& span : row(y))
        if (span.begin < right && span.end > left) return true;
    return false;
  }

 private:
  int width_;
  bool is_empty_ = true;
  std::vector<std::vector<Span>> rows_;
};

}  // namespace lumvet::images

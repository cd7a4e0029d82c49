// SPDX-License-Identifier: Apache-2.0
// One row of samples after the other becomes part of an image.
//
// Threads: one thread at a time.
#pragma once

#include <functional>

#include "images/row_feed.h"
#include "images/row_reducer.h"

namespace lumvet::images {

class ImageRows {
 public:
  // Is given what there is of a row; what there is not stays blank. Keeps what it needs itself.
  using Convert = std::function<void(ByteView row, std::uint8_t* out)>;

  struct Plan {
    RowFeed rows;
    std::size_t row_bytes = 0;
    int width = 0;   // samples, of which
    int height = 0;  // samples
    int by = 1;      // each way become one
    std::uint8_t blank = 0;
    Convert convert;
  };

  // `image` has its kind, outlives this and stays where it is; its size is set here.
  ImageRows(Image& image, Plan plan)
      : plan_(std::move(plan)), reducer_(image, plan_.width, plan_.height, plan_.by) {}

  bool at_end() const { return taken_ == plan_.height; }
  // Takes a row more. Errors: as the feed's.
  Status next();
  // Those of the image that are made.
  int rows_made() const { return at_end() ? (plan_.height - 1) / plan_.by + 1 : taken_ / plan_.by; }
  const RowFeed& feed() const { return plan_.rows; }

 private:
  Plan plan_;
  RowReducer reducer_;
  int taken_ = 0;
};

}  // namespace lumvet::images

// SPDX-License-Identifier: Apache-2.0
// The bounds that hostile files meet. Each field names the attack it stops.
//
//   lumvet::Document::open("upload.pdf", {.limits = {.decoded_bytes = 64 << 20}});
//
// Threads: a value.
#pragma once

#include <cstdint>

namespace lumvet {

struct Limits {
  // Arrays within arrays, page trees within page trees, forms within forms: a stack overflow.
  // The deepest nesting met in real documents is about 30.
  int nesting = 200;
  // Cross references that announce more objects than a machine can hold. A 30,000-page manual
  // has about 200,000.
  std::uint64_t objects = 8'388'608;
  // One stream that unpacks to far more than it weighs.
  std::uint64_t decoded_bytes = std::uint64_t{1} << 30;
  // An image or a raster with dimensions chosen to exhaust memory. A1 at 600 dpi is 280 million.
  std::uint64_t pixels = 400'000'000;
  // Operators of one page, forms included: forms that call forms that call forms.
  std::uint64_t operators = 20'000'000;
  // Milliseconds for interpreting one page; 0 is without end.
  std::uint64_t page_milliseconds = 60'000;
};

}  // namespace lumvet

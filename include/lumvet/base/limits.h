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
  // Arrays within arrays, forms within forms, fields below fields, structure elements within
  // structure elements: a stack overflow. The deepest nesting met in real documents is about 30.
  int nesting = 200;
  // Page trees within page trees. Trees 50 deep have been met.
  int page_tree_depth = 200;
  // Name and number trees within one another. A million names need four levels.
  int name_tree_depth = 100;
  // References that lead to references, which no writer needs.
  int reference_chain = 32;
  // Object streams that extend one another, or whose lengths lie in further ones.
  int object_stream_depth = 32;
  // Cross references that announce more objects than a machine can hold. A 30,000-page manual
  // has about 200,000.
  std::uint64_t objects = 8'388'608;
  // One stream that unpacks to far more than it weighs.
  std::uint64_t decoded_bytes = std::uint64_t{1} << 30;
  // The same in proportion: bytes for each byte of the file, from 16 MiB on. One filter gives at
  // most about 2,700 (LZW) or 1,032 (Flate); filters within filters multiply.
  std::uint64_t decoded_ratio = 4000;
  // An image or a raster with dimensions chosen to exhaust memory. A1 at 600 dpi is 280 million.
  std::uint64_t pixels = 400'000'000;
  // Operators of one page, forms included: forms that call forms that call forms.
  std::uint64_t operators = 20'000'000;
  // The same in proportion: operators for each byte that the page's streams take in the file, from
  // two million on. Content that is packed 700 to 1 and forms within forms multiply; of real pages,
  // forms drawn a thousand times included, few have more than one.
  std::uint64_t operator_ratio = 40;
  // Milliseconds for interpreting one page, and as many again for drawing each million pixels; 0 is
  // without end.
  std::uint64_t page_milliseconds = 10'000;
  // Bytes of memory for one page while it is interpreted and drawn, without fonts and images, which
  // are kept, and without the raster: patterns, groups and masks made to multiply.
  std::uint64_t page_memory = std::uint64_t{1} << 30;
  // Values that are looked at in one call, and what is made of them, in bytes: a node that is
  // shared by its parents level by level, a string that thousands of entries share.
  std::uint64_t followed_bytes = std::uint64_t{128} << 20;
  // The same in proportion: bytes for each byte of the file, where that is more.
  std::uint64_t followed_ratio = 256;
  // What is kept of objects once read, so that they need not be read again, and as much again of
  // fonts and images made from them; beyond it the ones that were not used lately are dropped. No
  // error is ever made of it.
  std::uint64_t kept_bytes = std::uint64_t{256} << 20;
};

}  // namespace lumvet

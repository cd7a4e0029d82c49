// SPDX-License-Identifier: Apache-2.0
// Eight pixels of four bytes at a time, in the vectors of the compiler: what a machine lacks is
// done in halves. Only for functions that are LUMVET_WIDE, into which all of this goes.
//
// Threads: no state.
#pragma once

#include <cstdint>
#include <cstring>

#include "base/simd.h"

namespace lumvet::raster {

struct EightPixels {
  static constexpr int kCount = 8;
  static constexpr int kBytes = 32;
  using Words = std::uint32_t __attribute__((vector_size(32)));
  using Halves = std::uint16_t __attribute__((vector_size(32)));
  using Quads = std::uint64_t __attribute__((vector_size(32)));
  using Bytes = std::uint8_t __attribute__((vector_size(32)));

  // The bytes of each half word, in 16 bits.
  Halves low;
  Halves high;

  LUMVET_INSIDE void load(const std::uint8_t* bytes) {
    Halves all;
    std::memcpy(&all, bytes, sizeof all);
    low = all & 0xFF;
    high = all >> 8;
  }
  // Every byte of a pixel is the same.
  LUMVET_INSIDE void spread(const std::uint8_t* values) {
    std::uint64_t eight;
    std::memcpy(&eight, values, sizeof eight);
    const Bytes all = reinterpret_cast<Bytes>(Quads{eight, eight, eight, eight});
    const Bytes four_times =
        __builtin_shufflevector(all, all, 0, 0, 0, 0, 1, 1, 1, 1, 2, 2, 2, 2, 3, 3, 3, 3, 20, 20,
                                20, 20, 21, 21, 21, 21, 22, 22, 22, 22, 23, 23, 23, 23);
    low = reinterpret_cast<Halves>(four_times) & 0xFF;
    high = low;
  }
  // Every byte is 255 less the fourth of its pixel.
  LUMVET_INSIDE void take_rest_of(const EightPixels& pixels) {
    Words words = reinterpret_cast<Words>(pixels.high) >> 16;
    words |= words << 16;
    low = 255 - reinterpret_cast<Halves>(words);
    high = low;
  }
  LUMVET_INSIDE void make_opaque() {
    high = reinterpret_cast<Halves>(reinterpret_cast<Words>(high) | 0x00FF0000u);
  }
  LUMVET_INSIDE void invert() {
    low = 255 - low;
    high = 255 - high;
  }
  // Times `by` / 255, rounded.
  LUMVET_INSIDE void multiply(const EightPixels& by) {
    low = low * by.low + 128;
    low = (low + (low >> 8)) >> 8;
    high = high * by.high + 128;
    high = (high + (high >> 8)) >> 8;
  }
  // `part`, in 1/256, of the way to others, rounded.
  LUMVET_INSIDE void go_toward(const EightPixels& to, const EightPixels& part) {
    low = (low * (256 - part.low) + to.low * part.low + 128) >> 8;
    high = (high * (256 - part.high) + to.high * part.high + 128) >> 8;
  }
  LUMVET_INSIDE void add(const EightPixels& other) {
    low += other.low;
    high += other.high;
  }
  LUMVET_INSIDE void store(std::uint8_t* bytes) const {
    const Halves all = low | high << 8;
    std::memcpy(bytes, &all, sizeof all);
  }
};

}  // namespace lumvet::raster

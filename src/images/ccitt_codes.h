// SPDX-License-Identifier: Apache-2.0
// The code words of facsimile coding (ITU-T T.4, tables 2 and 3; T.6, table 4).
#pragma once

#include <array>
#include <cstdint>

namespace lumvet::images {

struct RunCode {
  std::int16_t run = -1;    // pixels; 64 and more are followed by another code; -1: no code word
  std::uint8_t length = 0;  // bits
};

// By the next 13 bits.
constexpr unsigned kRunBits = 13;
using RunTable = std::array<RunCode, 1u << kRunBits>;
const RunTable& white_runs();
const RunTable& black_runs();

enum class Mode : std::uint8_t { none, pass, horizontal, vertical, extension };

struct ModeCode {
  Mode mode = Mode::none;
  std::int8_t shift = 0;    // of vertical: -3 to 3
  std::uint8_t length = 0;  // bits
};

// By the next 7 bits.
constexpr unsigned kModeBits = 7;
const std::array<ModeCode, 1u << kModeBits>& modes();

}  // namespace lumvet::images

// SPDX-License-Identifier: Apache-2.0
#include "images/ccitt_codes.h"

#include <string_view>

namespace lumvet::images {
namespace {

// Terminating codes for runs of 0 to 63 pixels, then make-up codes for 64, 128, … 1728.
constexpr std::array<std::string_view, 64 + 27> kWhite = {
    "00110101",  "000111",    "0111",      "1000",      "1011",      "1100",      "1110",
    "1111",      "10011",     "10100",     "00111",     "01000",     "001000",    "000011",
    "110100",    "110101",    "101010",    "101011",    "0100111",   "0001100",   "0001000",
    "0010111",   "0000011",   "0000100",   "0101000",   "0101011",   "0010011",   "0100100",
    "0011000",   "00000010",  "00000011",  "00011010",  "00011011",  "00010010",  "00010011",
    "00010100",  "00010101",  "00010110",  "00010111",  "00101000",  "00101001",  "00101010",
    "00101011",  "00101100",  "00101101",  "00000100",  "00000101",  "00001010",  "00001011",
    "01010010",  "01010011",  "01010100",  "01010101",  "00100100",  "00100101",  "01011000",
    "01011001",  "01011010",  "01011011",  "01001010",  "01001011",  "00110010",  "00110011",
    "00110100",  "11011",     "10010",     "010111",    "0110111",   "00110110",  "00110111",
    "01100100",  "01100101",  "01101000",  "01100111",  "011001100", "011001101", "011010010",
    "011010011", "011010100", "011010101", "011010110", "011010111", "011011000", "011011001",
    "011011010", "011011011", "010011000", "010011001", "010011010", "011000",    "010011011"};

constexpr std::array<std::string_view, 64 + 27> kBlack = {"0000110111",
                                                          "010",
                                                          "11",
                                                          "10",
                                                          "011",
                                                          "0011",
                                                          "0010",
                                                          "00011",
                                                          "000101",
                                                          "000100",
                                                          "0000100",
                                                          "0000101",
                                                          "0000111",
                                                          "00000100",
                                                          "00000111",
                                                          "000011000",
                                                          "0000010111",
                                                          "0000011000",
                                                          "0000001000",
                                                          "00001100111",
                                                          "00001101000",
                                                          "00001101100",
                                                          "00000110111",
                                                          "00000101000",
                                                          "00000010111",
                                                          "00000011000",
                                                          "000011001010",
                                                          "000011001011",
                                                          "000011001100",
                                                          "000011001101",
                                                          "000001101000",
                                                          "000001101001",
                                                          "000001101010",
                                                          "000001101011",
                                                          "000011010010",
                                                          "000011010011",
                                                          "000011010100",
                                                          "000011010101",
                                                          "000011010110",
                                                          "000011010111",
                                                          "000001101100",
                                                          "000001101101",
                                                          "000011011010",
                                                          "000011011011",
                                                          "000001010100",
                                                          "000001010101",
                                                          "000001010110",
                                                          "000001010111",
                                                          "000001100100",
                                                          "000001100101",
                                                          "000001010010",
                                                          "000001010011",
                                                          "000000100100",
                                                          "000000110111",
                                                          "000000111000",
                                                          "000000100111",
                                                          "000000101000",
                                                          "000001011000",
                                                          "000001011001",
                                                          "000000101011",
                                                          "000000101100",
                                                          "000001011010",
                                                          "000001100110",
                                                          "000001100111",
                                                          "0000001111",
                                                          "000011001000",
                                                          "000011001001",
                                                          "000001011011",
                                                          "000000110011",
                                                          "000000110100",
                                                          "000000110101",
                                                          "0000001101100",
                                                          "0000001101101",
                                                          "0000001001010",
                                                          "0000001001011",
                                                          "0000001001100",
                                                          "0000001001101",
                                                          "0000001110010",
                                                          "0000001110011",
                                                          "0000001110100",
                                                          "0000001110101",
                                                          "0000001110110",
                                                          "0000001110111",
                                                          "0000001010010",
                                                          "0000001010011",
                                                          "0000001010100",
                                                          "0000001010101",
                                                          "0000001011010",
                                                          "0000001011011",
                                                          "0000001100100",
                                                          "0000001100101"};

// For both colors: 1792, 1856, … 2560.
constexpr std::array<std::string_view, 13> kLong = {
    "00000001000",  "00000001100",  "00000001101",  "000000010010", "000000010011",
    "000000010100", "000000010101", "000000010110", "000000010111", "000000011100",
    "000000011101", "000000011110", "000000011111"};

// Calls `put` for every value of `bits` bits that begins with the code word.
template <typename Put>
void for_each_completion(std::string_view word, unsigned bits, Put put) {
  unsigned value = 0;
  for (const char bit : word) value = value << 1 | (bit == '1' ? 1u : 0u);
  const unsigned free = bits - static_cast<unsigned>(word.size());
  for (unsigned rest = 0; rest < (1u << free); ++rest) put(value << free | rest);
}

RunTable run_table(const std::array<std::string_view, 64 + 27>& words) {
  RunTable table{};
  const auto add = [&](std::string_view word, std::size_t run) {
    for_each_completion(word, kRunBits, [&](unsigned value) {
      table[value] = {static_cast<std::int16_t>(run), static_cast<std::uint8_t>(word.size())};
    });
  };
  for (std::size_t i = 0; i < words.size(); ++i) add(words[i], i < 64 ? i : (i - 63) * 64);
  for (std::size_t i = 0; i < kLong.size(); ++i) add(kLong[i], 1792 + i * 64);
  return table;
}

}  // namespace

const RunTable& white_runs() {
  static const RunTable table = run_table(kWhite);
  return table;
}

const RunTable& black_runs() {
  static const RunTable table = run_table(kBlack);
  return table;
}

const std::array<ModeCode, 1u << kModeBits>& modes() {
  static const auto table = [] {
    struct Word {
      std::string_view word;
      Mode mode;
      int shift;
    };
    constexpr std::array<Word, 10> kWords = {{{"0001", Mode::pass, 0},
                                              {"001", Mode::horizontal, 0},
                                              {"1", Mode::vertical, 0},
                                              {"011", Mode::vertical, 1},
                                              {"000011", Mode::vertical, 2},
                                              {"0000011", Mode::vertical, 3},
                                              {"010", Mode::vertical, -1},
                                              {"000010", Mode::vertical, -2},
                                              {"0000010", Mode::vertical, -3},
                                              {"0000001", Mode::extension, 0}}};
    std::array<ModeCode, 1u << kModeBits> made{};
    for (const Word& word : kWords)
      for_each_completion(word.word, kModeBits, [&](unsigned value) {
        made[value] = {word.mode, static_cast<std::int8_t>(word.shift),
                       static_cast<std::uint8_t>(word.word.size())};
      });
    return made;
  }();
  return table;
}

}  // namespace lumvet::images

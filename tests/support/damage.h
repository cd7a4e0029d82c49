// SPDX-License-Identifier: Apache-2.0
// Damaged copies of a good file, in the ways that files are damaged.
#pragma once

#include <random>
#include <string>
#include <vector>

namespace test {

enum class DamageKind {
  truncated_tail,
  wrong_offsets,
  flipped_bytes,
  wrong_lengths,
  wrong_references,  // cycles above all
  huge_numbers,
  lost_piece,
  moved_piece,
  converted_line_ends,
};

inline const char* name_of(DamageKind kind) {
  constexpr const char* kNames[] = {"truncated tail", "wrong offsets",    "flipped bytes",
                                    "wrong lengths",  "wrong references", "huge numbers",
                                    "lost piece",     "moved piece",      "converted line ends"};
  return kNames[static_cast<int>(kind)];
}

class Damager {
 public:
  explicit Damager(unsigned seed) : random_(seed) {}

  std::string damaged(std::string bytes, DamageKind kind) {
    switch (kind) {
      case DamageKind::truncated_tail:
        bytes.resize(bytes.size() - 1 - below(bytes.size() / 4));
        break;
      case DamageKind::wrong_offsets: wrong_offsets(bytes); break;
      case DamageKind::flipped_bytes:
        for (std::size_t i = 0; i < 1 + below(40); ++i)
          bytes[below(bytes.size())] = static_cast<char>(random_());
        break;
      case DamageKind::wrong_lengths: change_numbers_behind(bytes, "/Length", 3); break;
      case DamageKind::wrong_references: wrong_references(bytes); break;
      case DamageKind::huge_numbers: huge_numbers(bytes); break;
      case DamageKind::lost_piece: bytes.erase(below(bytes.size()), 1 + below(2000)); break;
      case DamageKind::moved_piece: {
        const std::size_t length = std::min<std::size_t>(below(400), bytes.size() / 2);
        const std::string piece = bytes.substr(below(bytes.size() - length), length);
        bytes.replace(below(bytes.size() - length), length, piece);
        break;
      }
      case DamageKind::converted_line_ends: convert_line_ends(bytes); break;
    }
    return bytes;
  }

 private:
  std::size_t below(std::size_t end) { return end == 0 ? 0 : random_() % end; }
  static bool is_digit(char c) { return c >= '0' && c <= '9'; }

  std::vector<std::size_t> places_of(const std::string& bytes, const std::string& word) const {
    std::vector<std::size_t> places;
    for (std::size_t at = bytes.find(word); at != std::string::npos; at = bytes.find(word, at + 1))
      places.push_back(at);
    return places;
  }

  // Other digits in the number that follows some of the places where the word stands.
  void change_numbers_behind(std::string& bytes, const std::string& word, std::size_t most) {
    const auto places = places_of(bytes, word);
    if (places.empty()) return;
    for (std::size_t i = 0; i < 1 + below(most); ++i) {
      std::size_t at = places[below(places.size())] + word.size();
      while (at < bytes.size() && !is_digit(bytes[at])) ++at;
      for (; at < bytes.size() && is_digit(bytes[at]); ++at)
        if (below(2) == 0) bytes[at] = static_cast<char>('0' + below(10));
    }
  }

  // In the table or in the stream of cross references, or where they are said to be.
  void wrong_offsets(std::string& bytes) {
    if (below(3) == 0) return change_numbers_behind(bytes, "startxref", 1);
    const std::size_t table = bytes.rfind("\nxref");
    if (table != std::string::npos) {
      for (std::size_t i = 0; i < 1 + below(10); ++i) {
        const std::size_t at = table + 6 + below(bytes.size() - table - 6);
        if (is_digit(bytes[at])) bytes[at] = static_cast<char>('0' + below(10));
      }
      return;
    }
    const std::size_t stream = bytes.rfind("stream\n", bytes.rfind("startxref") - 20);
    if (stream == std::string::npos) return;
    for (std::size_t i = 0; i < 1 + below(4); ++i)
      bytes[stream + 7 + below(bytes.size() - stream - 50)] = static_cast<char>(random_());
  }

  void wrong_references(std::string& bytes) {
    const auto places = places_of(bytes, " 0 R");
    if (places.empty()) return;
    for (std::size_t i = 0; i < 1 + below(10); ++i) {
      const std::size_t from = places[below(places.size())];
      const std::size_t to = places[below(places.size())];
      if (from > 2 && to > 2)
        std::copy_n(bytes.begin() + static_cast<long>(from) - 2, 2,
                    bytes.begin() + static_cast<long>(to) - 2);
    }
  }

  void huge_numbers(std::string& bytes) {
    for (std::size_t i = 0; i < 1 + below(5); ++i) {
      std::size_t at = below(bytes.size());
      while (at < bytes.size() && !is_digit(bytes[at])) ++at;
      constexpr const char* kNumbers[] = {"99999999", "2147483648",          "4294967297",
                                          "-1",       "9223372036854775808", "1e9"};
      if (at < bytes.size()) bytes.replace(at, 1 + below(4), kNumbers[below(6)]);
    }
  }

  // As a transfer in text mode does it: all, or from some place on.
  void convert_line_ends(std::string& bytes) {
    std::string out;
    const std::size_t from = below(2) == 0 ? 0 : below(bytes.size());
    const bool to_two = below(2) == 0;
    for (std::size_t i = 0; i < bytes.size(); ++i) {
      if (i >= from && to_two && bytes[i] == '\n') out += '\r';
      if (i >= from && !to_two && bytes[i] == '\r') continue;
      out += bytes[i];
    }
    bytes = std::move(out);
  }

  std::mt19937 random_;
};

}  // namespace test

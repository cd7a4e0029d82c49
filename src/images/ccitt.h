// SPDX-License-Identifier: Apache-2.0
// Facsimile rows one by one, groups 3 and 4 (ISO 32000-2, 7.4.6; ITU-T T.4 and T.6).
//
// Threads: one thread at a time.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "lumvet/objects/object.h"

namespace lumvet::images {

struct CcittParameters {
  int k = 0;  // below 0: group 4; 0: group 3, one dimension; above: group 3, mixed
  int columns = 1728;
  int rows = 0;  // 0: until the data ends
  bool end_of_line = false;
  bool byte_align = false;
  bool end_of_block = true;
  bool black_is_1 = false;

  // Errors: malformed for sizes that make no sense.
  static Result<CcittParameters> from(const Dict& dict);
  std::size_t row_bytes() const { return (static_cast<std::size_t>(columns) + 7) / 8; }
};

class CcittRows {
 public:
  CcittRows(const CcittParameters& parameters, ByteView input);

  // Writes the next row as row_bytes() bytes; false behind the last. A damaged row is repeated
  // from the one above where the data shows where the next begins; otherwise it is the last.
  bool next(std::span<std::uint8_t> row);

  int damaged_rows() const { return damaged_; }
  std::uint64_t first_damage() const { return first_damage_; }  // bytes into the input
  // Whether the data ended where the parameters do not say that it may.
  bool is_cut_off() const { return cut_off_; }

 private:
  unsigned peek(unsigned bits) const;
  void skip(unsigned bits) { position_ += bits; }
  bool at_end() const { return position_ >= input_.size() * 8; }
  bool pass_end_of_line();
  bool find_end_of_line();
  bool is_end_of_block();
  std::optional<int> read_run(bool black);
  bool read_one_dimensional();
  bool read_two_dimensional();
  bool add_change(int at);
  void paint(std::span<std::uint8_t> row) const;

  CcittParameters parameters_;
  ByteView input_;
  std::uint64_t position_ = 0;  // bits
  // So many columns' ends stand behind the last change of a row.
  static constexpr std::size_t kBehind = 4;
  std::vector<int> above_;    // where the color changes in the row above, white first
  std::vector<int> changes_;  // in this row
  std::size_t count_ = 0;     // of them
  int rows_done_ = 0;
  int damaged_ = 0;
  std::uint64_t first_damage_ = 0;
  bool has_marks_ = false;  // end-of-line codes were met
  bool ended_ = false;
  bool cut_off_ = false;
};

}  // namespace lumvet::images

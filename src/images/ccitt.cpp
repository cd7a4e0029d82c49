// SPDX-License-Identifier: Apache-2.0
#include "images/ccitt.h"

#include <algorithm>

#include "base/allowance.h"
#include "images/ccitt_codes.h"
#include "images/codec.h"
#include "images/row_decoding.h"

namespace lumvet::images {
namespace {

constexpr unsigned kEndOfLineBits = 12;  // eleven zeros and a one

}  // namespace

Result<CcittParameters> CcittParameters::from(const Dict& dict) {
  CcittParameters p;
  const std::int64_t columns = dict["Columns"].as_integer(1728);
  const std::int64_t rows = dict["Rows"].as_integer(0);
  constexpr std::int64_t kMostSide = 1 << 24;
  if (columns < 1 || columns > kMostSide || rows < 0 || rows > kMostSide)
    return Error(ErrorCode::malformed, "a facsimile image with impossible dimensions");
  p.k = static_cast<int>(std::clamp<std::int64_t>(dict["K"].as_integer(0), -1, 1));
  p.columns = static_cast<int>(columns);
  p.rows = static_cast<int>(rows);
  p.end_of_line = dict["EndOfLine"].as_bool();
  p.byte_align = dict["EncodedByteAlign"].as_bool();
  p.end_of_block = dict["EndOfBlock"].as_bool(true);
  p.black_is_1 = dict["BlackIs1"].as_bool();
  return p;
}

CcittRows::CcittRows(const CcittParameters& parameters, ByteView input)
    : parameters_(parameters),
      input_(input),
      above_(2 * static_cast<std::size_t>(parameters.columns) + 2 * kBehind, parameters.columns),
      changes_(above_.size()) {}

// Zeros behind the end, which are no code word.
unsigned CcittRows::peek(unsigned bits) const {
  const std::size_t first = position_ / 8;
  std::uint32_t window = 0;
  if (first + 4 <= input_.size()) {  // one load, as compilers see
    const std::uint8_t* four = input_.data() + first;
    window = std::uint32_t{four[0]} << 24 | std::uint32_t{four[1]} << 16 |
             std::uint32_t{four[2]} << 8 | four[3];
  } else {
    for (std::size_t i = first; i < input_.size(); ++i)
      window |= std::uint32_t{input_[i]} << (24 - 8 * (i - first));
  }
  return window << (position_ % 8) >> (32 - bits);
}

// Passes zeros used as fill and the end-of-line code behind them; false, and nothing is passed,
// when something else comes.
bool CcittRows::pass_end_of_line() {
  const std::uint64_t before = position_;
  if (peek(kEndOfLineBits - 1) != 0) return false;
  while (!at_end() && peek(1) == 0) skip(1);
  if (!at_end()) {
    skip(1);
    return true;
  }
  position_ = before;
  return false;
}

// Looks for the next end-of-line code after damage, and stops in front of it.
bool CcittRows::find_end_of_line() {
  unsigned zeros = 0;
  for (; !at_end(); skip(1)) {
    if (peek(1) == 0) {
      ++zeros;
    } else if (zeros >= kEndOfLineBits - 1) {
      position_ -= zeros;
      return true;
    } else {
      zeros = 0;
    }
  }
  return false;
}

// Two end-of-line codes of group 4, or six of group 3; two will do there as well, since an empty
// row cannot be meant.
bool CcittRows::is_end_of_block() {
  const std::uint64_t before = position_;
  if (pass_end_of_line()) {
    if (parameters_.k > 0) skip(1);
    if (peek(kEndOfLineBits) == 1) return true;
  }
  position_ = before;
  return false;
}

std::optional<int> CcittRows::read_run(bool black) {
  const RunTable& codes = black ? black_runs() : white_runs();
  int total = 0;
  for (;;) {
    const RunCode code = codes[peek(kRunBits)];
    if (code.run < 0 || at_end()) return std::nullopt;
    skip(code.length);
    total += code.run;
    if (code.run < 64) return total;
    if (total > parameters_.columns) return std::nullopt;
  }
}

// False where the color would change in front of where it changed last, or behind the row, or more
// often than a row has pixels and empty runs that anybody would write.
bool CcittRows::add_change(int at) {
  if (at > parameters_.columns || at < (count_ == 0 ? 0 : changes_[count_ - 1]) ||
      count_ + kBehind >= changes_.size())
    return false;
  changes_[count_++] = at;
  return true;
}

bool CcittRows::read_one_dimensional() {
  int at = 0;
  for (bool black = false; at < parameters_.columns; black = !black) {
    const auto run = read_run(black);
    if (!run) return false;
    at += *run;
    if (!add_change(at)) return false;
  }
  return true;
}

bool CcittRows::read_two_dimensional() {
  const int columns = parameters_.columns;
  const auto& codes = modes();
  int a0 = -1;  // in front of the first pixel
  bool black = false;
  // Where the row above changes to the color that this row does not have at a0 (T.4, 4.2.1.1):
  // even changes are to black, odd ones to white. What stands behind its last change is never
  // passed.
  const int* const begin = above_.data();
  const int* next_above = begin;
  while (a0 < columns) {
    while (*next_above <= a0) next_above += 2;
    const int b1 = next_above[0];
    const int b2 = next_above[1];
    const ModeCode code = codes[peek(kModeBits)];
    if (code.mode == Mode::none || code.mode == Mode::extension || at_end()) return false;
    skip(code.length);
    if (code.mode == Mode::pass) {
      a0 = b2;
    } else if (code.mode == Mode::vertical) {
      a0 = b1 + code.shift;
      if (!add_change(a0)) return false;
      black = !black;
      next_above += next_above == begin ? 1 : -1;  // of changes to the other color
    } else {
      for (const bool color : {black, !black}) {
        const auto run = read_run(color);
        if (!run) return false;
        a0 = std::max(a0, 0) + *run;
        if (!add_change(a0)) return false;
      }
    }
  }
  return true;
}

bool CcittRows::next(std::span<std::uint8_t> row) {
  const bool limited = parameters_.rows > 0;
  if (ended_ || (limited && rows_done_ >= parameters_.rows)) return false;
  if (parameters_.end_of_block && is_end_of_block()) {
    ended_ = true;
    return false;
  }
  // Fill in front of an end-of-line code may be such that the code ends at a byte, not begins. But
  // in data without such codes, fill and the zeros of a run's code word look like one.
  const bool may_be_marked =
      parameters_.k >= 0 &&
      (rows_done_ == 0 || has_marks_ || parameters_.end_of_line || !parameters_.byte_align);
  bool marked = may_be_marked && pass_end_of_line();
  if (!marked && parameters_.byte_align) {
    position_ = (position_ + 7) / 8 * 8;
    marked = may_be_marked && pass_end_of_line();
  }
  if (has_marks_ && !marked && !at_end()) {  // damage made the row before come out too short
    if (damaged_++ == 0) first_damage_ = position_ / 8;
    if (find_end_of_line()) marked = pass_end_of_line();
  }
  has_marks_ = has_marks_ || marked;
  if (at_end()) {
    ended_ = true;
    cut_off_ = parameters_.end_of_block || limited;
    return false;
  }
  bool two_dimensional = parameters_.k < 0;
  if (parameters_.k > 0) {
    two_dimensional = peek(1) == 0;
    skip(1);
  }
  count_ = 0;
  if (two_dimensional ? read_two_dimensional() : read_one_dimensional()) {
    std::fill_n(changes_.begin() + static_cast<std::ptrdiff_t>(count_), kBehind,
                parameters_.columns);
    std::swap(above_, changes_);
  } else {
    if (damaged_++ == 0) first_damage_ = position_ / 8;
    // The row above stands in for this one; without marks nobody knows where the next begins.
    ended_ = !(has_marks_ || parameters_.end_of_line) || !find_end_of_line();
    if (ended_ && rows_done_ == 0) return false;
  }
  ++rows_done_;
  paint(row);
  return true;
}

void CcittRows::paint(std::span<std::uint8_t> row) const {
  const std::uint8_t white = parameters_.black_is_1 ? 0x00 : 0xFF;
  std::fill(row.begin(), row.end(), white);
  for (std::size_t i = 0; above_[i] < parameters_.columns; i += 2) {
    const auto from = static_cast<std::size_t>(above_[i]);
    const auto to = static_cast<std::size_t>(above_[i + 1]);
    if (from == to) continue;
    // The bits from the first on, and those up to the last, which may be in one byte.
    const unsigned first = 0xFFu >> from % 8;
    const unsigned last = 0xFF00u >> ((to - 1) % 8 + 1);
    std::uint8_t* const begin = &row[from / 8];
    std::uint8_t* const end = &row[(to - 1) / 8];
    if (begin == end) {
      *begin = static_cast<std::uint8_t>(*begin ^ (first & last));
      continue;
    }
    *begin = static_cast<std::uint8_t>(*begin ^ first);
    std::fill(begin + 1, end, static_cast<std::uint8_t>(~white));
    *end = static_cast<std::uint8_t>(*end ^ last);
  }
}

namespace {

class CcittDecoding final : public RowDecoding {
 public:
  CcittDecoding(const CcittParameters& parameters, ByteSlice input)
      : parameters_(parameters), input_(std::move(input)), rows_(parameters, input_.view()) {}

 private:
  std::size_t row_size() const override { return parameters_.row_bytes(); }
  bool next_row(std::span<std::uint8_t> row) override {
    const bool is_there = rows_.next(row);
    if (is_there) ++given_rows_;
    if (is_there && given_rows_ != parameters_.rows) return true;
    if (rows_.damaged_rows() > 0)
      note_damage(std::to_string(rows_.damaged_rows()) + " rows of a facsimile image are damaged",
                  rows_.first_damage());
    else if (given_rows_ < parameters_.rows)
      note_damage("a facsimile image ends after " + std::to_string(given_rows_) + " of " +
                      std::to_string(parameters_.rows) + " rows",
                  input_.size());
    return is_there;
  }

  CcittParameters parameters_;
  ByteSlice input_;
  CcittRows rows_;
  int given_rows_ = 0;
};

// The dictionary says how many rows are wanted when the parameters do not.
Result<CcittParameters> parameters_of(const Dict& dict, int height, std::uint64_t most_pixels) {
  LUMVET_TRY(CcittParameters parameters, CcittParameters::from(dict));
  if (parameters.rows == 0 || height > 0) parameters.rows = height;
  const auto columns = static_cast<std::uint64_t>(parameters.columns);
  if (columns * static_cast<std::uint64_t>(std::max(parameters.rows, 1)) > most_pixels)
    return too_many_pixels("facsimile", columns, static_cast<std::uint64_t>(parameters.rows));
  return parameters;
}

}  // namespace

Result<SampleRows> start_ccitt(ByteSlice input, const Dict& dict, int height,
                               std::uint64_t most_pixels) {
  LUMVET_TRY(const CcittParameters parameters, parameters_of(dict, height, most_pixels));
  SampleRows rows{.width = parameters.columns,
                  .height = parameters.rows,
                  .components = 1,
                  .bits = 1,
                  .whole_width = parameters.columns,
                  .whole_height = parameters.rows};
  rows.bytes = std::make_unique<CcittDecoding>(parameters, std::move(input));
  return rows;
}

Result<Samples> decode_ccitt(const CodecRequest& request) {
  LUMVET_TRY(const CcittParameters parameters,
             parameters_of(request.parameters, request.height, request.most_pixels));
  const std::uint64_t most_rows =
      parameters.rows > 0 ? static_cast<std::uint64_t>(parameters.rows)
                          : request.most_pixels / static_cast<std::uint64_t>(parameters.columns);
  CcittDecoding rows(parameters, ByteSlice(request.input, nullptr));
  Samples samples{.width = parameters.columns, .components = 1, .bits = 1};
  constexpr std::size_t kSomeRows = 64;
  const std::size_t some = kSomeRows * parameters.row_bytes();
  for (std::size_t given = some; given == some;) {
    LUMVET_RETURN_IF_ERROR(go_on_now());
    const std::size_t before = samples.bytes.size();
    samples.bytes.resize(before + some);
    LUMVET_TRY(given, rows.read(std::span(samples.bytes).subspan(before)));
    samples.bytes.resize(before + given);
    samples.height += static_cast<int>(given / parameters.row_bytes());
    if (static_cast<std::uint64_t>(samples.height) > most_rows)
      return too_many_pixels("facsimile", static_cast<std::uint64_t>(samples.width),
                             static_cast<std::uint64_t>(samples.height));
  }
  if (rows.damage()) {
    samples.damage = rows.damage()->what;
    samples.damage_offset = rows.damage()->offset;
  }
  return samples;
}

}  // namespace lumvet::images

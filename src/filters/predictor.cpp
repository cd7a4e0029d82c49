// SPDX-License-Identifier: Apache-2.0
#include "filters/predictor.h"

#include "base/attempt.h"

#include <algorithm>
#include <cstdlib>
#include <cstring>
#include <tuple>

namespace lumvet::filters {
namespace {

struct RowShape {
  std::size_t colors;
  std::size_t bits;
  std::size_t columns;
  std::size_t row_bytes() const { return (colors * bits * columns + 7) / 8; }
  std::size_t pixel_bytes() const { return (colors * bits + 7) / 8; }
};

std::uint8_t byte_of(unsigned value) { return static_cast<std::uint8_t>(value & 0xFF); }

// TIFF 6.0, section 14: each component is the difference to the one before.
void undo_tiff_row(const RowShape& shape, std::span<std::uint8_t> row) {
  if (shape.bits == 8) {
    for (std::size_t i = shape.colors; i < row.size(); ++i)
      row[i] = byte_of(row[i] + row[i - shape.colors]);
    return;
  }
  if (shape.bits == 16) {
    for (std::size_t i = 2 * shape.colors; i + 1 < row.size(); i += 2) {
      const std::size_t before = i - 2 * shape.colors;
      const unsigned sum = (row[i] << 8 | row[i + 1]) + (row[before] << 8 | row[before + 1]);
      row[i] = byte_of(sum >> 8);
      row[i + 1] = byte_of(sum);
    }
    return;
  }
  const unsigned mask = (1u << shape.bits) - 1;
  const auto shift_of = [&](std::size_t sample) {
    return static_cast<unsigned>(8 - shape.bits - sample * shape.bits % 8);
  };
  for (std::size_t i = shape.colors; i < shape.colors * shape.columns; ++i) {
    const std::size_t before = i - shape.colors;
    std::uint8_t& byte = row[i * shape.bits / 8];
    if (&byte >= row.data() + row.size()) break;
    const unsigned left = row[before * shape.bits / 8] >> shift_of(before);
    const unsigned sum = ((byte >> shift_of(i)) + left) & mask;
    byte = byte_of((byte & ~(mask << shift_of(i))) | sum << shift_of(i));
  }
}

std::uint8_t paeth(int left, int up, int up_left) {
  const int estimate = left + up - up_left;
  const int to_left = std::abs(estimate - left);
  const int to_up = std::abs(estimate - up);
  const int to_up_left = std::abs(estimate - up_left);
  if (to_left <= to_up && to_left <= to_up_left) return static_cast<std::uint8_t>(left);
  return static_cast<std::uint8_t>(to_up <= to_up_left ? up : up_left);
}

// PNG (ISO/IEC 15948), clause 9: `above` is the row before, all zero for the first.
void undo_png_row(unsigned kind, std::size_t pixel, std::span<std::uint8_t> row,
                  std::span<const std::uint8_t> above) {
  const std::size_t n = row.size();
  const std::size_t first = std::min(pixel, n);
  switch (kind) {
    case 1:
      for (std::size_t i = pixel; i < n; ++i) row[i] = byte_of(row[i] + row[i - pixel]);
      break;
    case 2:
      for (std::size_t i = 0; i < n; ++i) row[i] = byte_of(row[i] + above[i]);
      break;
    case 3:
      for (std::size_t i = 0; i < first; ++i) row[i] = byte_of(row[i] + above[i] / 2u);
      for (std::size_t i = pixel; i < n; ++i)
        row[i] = byte_of(row[i] + (row[i - pixel] + above[i]) / 2u);
      break;
    case 4:
      for (std::size_t i = 0; i < first; ++i) row[i] = byte_of(row[i] + above[i]);
      for (std::size_t i = pixel; i < n; ++i)
        row[i] = byte_of(row[i] + paeth(row[i - pixel], above[i], above[i - pixel]));
      break;
    default: break;
  }
}

// Adds eight bytes to eight bytes, each by itself.
std::uint64_t add_bytes(std::uint64_t a, std::uint64_t b) {
  constexpr std::uint64_t kHigh = 0x8080808080808080;
  return ((a & ~kHigh) + (b & ~kHigh)) ^ ((a ^ b) & kHigh);
}

// Rows of up to eight bytes, each predicted by the one above: the rows of cross-reference streams,
// of which opening a document needs thousands. Stops at the first row of another kind and gives the
// places it came to.
std::pair<std::size_t, std::size_t> undo_narrow_up(std::size_t row_bytes, Bytes& bytes) {
  constexpr std::size_t kWord = sizeof(std::uint64_t);
  std::uint64_t above = 0;
  std::size_t from = 0;
  std::size_t to = 0;
  while (from + 1 + kWord <= bytes.size() && bytes[from] == 2) {
    std::uint64_t row = 0;
    std::memcpy(&row, bytes.data() + from + 1, kWord);
    above = add_bytes(row, above);
    // Once the rows have moved apart, a whole word does no harm to what is still to be read.
    std::memcpy(bytes.data() + to, &above, from - to >= kWord ? kWord : row_bytes);
    from += row_bytes + 1;
    to += row_bytes;
  }
  return {from, to};
}

// Each row has its kind in front; the rows move together as that byte goes.
void undo_png(const RowShape& shape, Bytes& bytes) {
  const std::size_t row_bytes = shape.row_bytes();
  Bytes zero(row_bytes);
  std::span<const std::uint8_t> above = zero;
  std::size_t from = 0;
  std::size_t to = 0;
  if (row_bytes <= sizeof(std::uint64_t)) {
    std::tie(from, to) = undo_narrow_up(row_bytes, bytes);
    if (to > 0) above = std::span(bytes).subspan(to - row_bytes, row_bytes);
  }
  while (from < bytes.size()) {
    const unsigned kind = bytes[from++];
    const std::size_t there = std::min(row_bytes, bytes.size() - from);
    if (there == 0) break;
    std::copy_n(bytes.begin() + static_cast<std::ptrdiff_t>(from), there,
                bytes.begin() + static_cast<std::ptrdiff_t>(to));
    const std::span<std::uint8_t> row(bytes.data() + to, there);
    undo_png_row(kind, shape.pixel_bytes(), row, above);
    above = row;
    from += there;
    to += there;
  }
  bytes.resize(to);
}

// A few rows at a time.
class Predicted final : public Decoding {
 public:
  Predicted(DecodingPtr input, bool is_png, const RowShape& shape)
      : input_(std::move(input)), is_png_(is_png), shape_(shape), above_(shape.row_bytes()) {
    constexpr std::size_t kPiece = 4096;
    packed_row_ = shape.row_bytes() + (is_png ? 1 : 0);
    rows_.resize(packed_row_ * std::max<std::size_t>(1, kPiece / packed_row_));
  }

  Result<std::size_t> read(std::span<std::uint8_t> out) override {
    std::size_t filled = 0;
    while (filled < out.size()) {
      if (given_ == there_) {
        if (ended_) break;
        LUMVET_RETURN_IF_ERROR(next_rows());
        continue;
      }
      const std::size_t part = std::min(out.size() - filled, there_ - given_);
      std::copy_n(rows_.begin() + static_cast<std::ptrdiff_t>(given_), part,
                  out.begin() + static_cast<std::ptrdiff_t>(filled));
      given_ += part;
      filled += part;
    }
    return filled;
  }

 private:
  // Undoes them in place, from the front, as their first bytes go.
  Status next_rows() {
    LUMVET_TRY(const std::size_t read, input_->read(rows_));
    if (input_->damage()) note_damage(input_->damage()->what, input_->damage()->offset);
    ended_ = read < rows_.size();
    given_ = 0;
    there_ = 0;
    const std::size_t kind_bytes = is_png_ ? 1 : 0;
    for (std::size_t at = 0; at + kind_bytes < read; at += packed_row_) {
      const unsigned kind = rows_[at];
      const std::size_t length = std::min(packed_row_, read - at) - kind_bytes;
      const std::span<std::uint8_t> row(rows_.data() + there_, length);
      std::memmove(row.data(), rows_.data() + at + kind_bytes, length);
      if (is_png_)
        undo_png_row(kind, shape_.pixel_bytes(), row, above_);
      else
        undo_tiff_row(shape_, row);
      std::copy(row.begin(), row.end(), above_.begin());
      there_ += length;
    }
    return Done{};
  }

  DecodingPtr input_;
  bool is_png_;
  RowShape shape_;
  std::size_t packed_row_ = 0;  // bytes
  Bytes rows_;                  // as they come, then undone
  Bytes above_;
  std::size_t there_ = 0;
  std::size_t given_ = 0;
  bool ended_ = false;
};

struct Prediction {
  enum class Kind { none, tiff, png } kind = Kind::none;
  RowShape shape;
};

Result<Prediction> read_parameters(const Dict& parameters) {
  const std::int64_t predictor = parameters["Predictor"].as_integer(1);
  if (predictor <= 1) return Prediction{};
  const std::int64_t colors = parameters["Colors"].as_integer(1);
  const std::int64_t bits = parameters["BitsPerComponent"].as_integer(8);
  const std::int64_t columns = parameters["Columns"].as_integer(1);
  const bool known_bits = bits == 1 || bits == 2 || bits == 4 || bits == 8 || bits == 16;
  constexpr std::int64_t kMostColors = 1024;
  constexpr std::int64_t kMostColumns = 1 << 28;
  if (!known_bits || colors < 1 || colors > kMostColors || columns < 1 || columns > kMostColumns)
    return Error(ErrorCode::malformed, "predictor parameters that make no sense");
  if (predictor != 2 && predictor < 10)
    return Error(ErrorCode::malformed,
                 "predictor " + std::to_string(predictor) + " does not exist");
  return Prediction{predictor == 2 ? Prediction::Kind::tiff : Prediction::Kind::png,
                    {static_cast<std::size_t>(colors), static_cast<std::size_t>(bits),
                     static_cast<std::size_t>(columns)}};
}

}  // namespace

Status undo_predictor(const Dict& parameters, Bytes& bytes) {
  LUMVET_TRY(Prediction prediction, read_parameters(parameters));
  RowShape& shape = prediction.shape;
  if (prediction.kind == Prediction::Kind::png) {
    // A row longer than all the data still has a row of zeros above it.
    if (shape.row_bytes() > bytes.size() + 1)
      shape.columns = std::max<std::size_t>(1, bytes.size() * 8 / (shape.colors * shape.bits) + 1);
    undo_png(shape, bytes);
  } else if (prediction.kind == Prediction::Kind::tiff) {
    for (std::size_t at = 0; at < bytes.size(); at += shape.row_bytes())
      undo_tiff_row(shape,
                    std::span(bytes).subspan(at, std::min(shape.row_bytes(), bytes.size() - at)));
  }
  return Done{};
}

Result<DecodingPtr> predicted(DecodingPtr input, const Dict& parameters) {
  LUMVET_TRY(const Prediction prediction, read_parameters(parameters));
  if (prediction.kind == Prediction::Kind::none) return input;
  constexpr std::size_t kLongestRow = std::size_t{1} << 26;  // bytes
  if (prediction.shape.row_bytes() > kLongestRow)
    return met_limit("predictor rows of more than 64 MiB");
  return DecodingPtr(std::make_unique<Predicted>(
      std::move(input), prediction.kind == Prediction::Kind::png, prediction.shape));
}

}  // namespace lumvet::filters

// SPDX-License-Identifier: Apache-2.0
#include "linear/hint_tables.h"

#include <algorithm>
#include <bit>
#include <limits>

namespace lumvet::linear {
namespace {

constexpr int kWord = 32;
constexpr int kHalf = 16;
constexpr std::uint64_t kMostShared = 50'000'000;  // uses of shared objects by pages
constexpr std::uint64_t kDenominator = 4;          // of fractions, which are not used

class BitWriter {
 public:
  void put(std::uint64_t value, int bits) {
    for (int bit = bits; bit-- > 0;) {
      if (used_ == 0) bytes_.push_back(0);
      if ((value >> bit & 1) != 0) bytes_.back() |= static_cast<std::uint8_t>(0x80u >> used_);
      used_ = (used_ + 1) % 8;
    }
  }
  // Every column begins with a byte.
  void align() { used_ = 0; }
  std::uint64_t size() const { return bytes_.size(); }
  Bytes take() { return std::move(bytes_); }

 private:
  Bytes bytes_;
  int used_ = 0;
};

class BitReader {
 public:
  explicit BitReader(ByteView bytes, std::uint64_t from = 0) : bytes_(bytes), bit_(from * 8) {}

  std::uint64_t get(std::uint64_t bits) {
    std::uint64_t value = 0;
    if (bits > 64 || bit_ + bits > bytes_.size() * 8) {
      is_over_ = true;
      return 0;
    }
    for (std::uint64_t i = 0; i < bits; ++i, ++bit_)
      value = value << 1 | (bytes_[bit_ / 8] >> (7 - bit_ % 8) & 1u);
    return value;
  }
  void align() { bit_ = (bit_ + 7) / 8 * 8; }
  bool is_over() const { return is_over_; }
  // Whether so many numbers can still follow.
  bool has(std::uint64_t numbers, std::uint64_t bits) const {
    return bits == 0 || numbers <= (bytes_.size() * 8 - std::min(bit_, bytes_.size() * 8)) / bits;
  }

 private:
  ByteView bytes_;
  std::uint64_t bit_;
  bool is_over_ = false;
};

int bits_for(std::uint64_t value) { return static_cast<int>(std::bit_width(value)); }

// A column of numbers as what each is beyond the least.
struct Column {
  std::uint64_t least = 0;
  int bits = 0;
};

template <typename Rows, typename Value>
Column column_of(const Rows& rows, const Value& value) {
  std::uint64_t least = std::numeric_limits<std::uint64_t>::max();
  std::uint64_t most = 0;
  for (const auto& row : rows) {
    least = std::min<std::uint64_t>(least, value(row));
    most = std::max<std::uint64_t>(most, value(row));
  }
  return rows.empty() ? Column() : Column{least, bits_for(most - least)};
}

template <typename Rows, typename Value>
void put_column(const Rows& rows, const Column& column, const Value& value, BitWriter& bits) {
  for (const auto& row : rows) bits.put(value(row) - column.least, column.bits);
  bits.align();
}

void put_pages(const HintTables& tables, BitWriter& bits) {
  const auto& pages = tables.pages;
  const auto objects = [](const PageHint& page) { return page.objects; };
  const auto length = [](const PageHint& page) { return page.length; };
  const auto content_offset = [](const PageHint& page) { return page.content_offset; };
  const auto content_length = [](const PageHint& page) { return page.content_length; };
  const Column object_column = column_of(pages, objects);
  const Column length_column = column_of(pages, length);
  const Column offset_column = column_of(pages, content_offset);
  const Column content_column = column_of(pages, content_length);
  std::uint64_t most_shared = 0;
  std::uint64_t greatest = 0;
  for (const PageHint& page : pages) {
    most_shared = std::max<std::uint64_t>(most_shared, page.shared.size());
    for (const std::uint64_t place : page.shared) greatest = std::max(greatest, place);
  }
  const int count_bits = bits_for(most_shared);
  const int place_bits = std::max(bits_for(greatest), most_shared > 1 ? 1 : 0);
  bits.put(object_column.least, kWord);
  bits.put(tables.first_page_place, kWord);
  bits.put(static_cast<std::uint64_t>(object_column.bits), kHalf);
  bits.put(length_column.least, kWord);
  bits.put(static_cast<std::uint64_t>(length_column.bits), kHalf);
  bits.put(offset_column.least, kWord);
  bits.put(static_cast<std::uint64_t>(offset_column.bits), kHalf);
  bits.put(content_column.least, kWord);
  bits.put(static_cast<std::uint64_t>(content_column.bits), kHalf);
  bits.put(static_cast<std::uint64_t>(count_bits), kHalf);
  bits.put(static_cast<std::uint64_t>(place_bits), kHalf);
  bits.put(0, kHalf);  // of numerators
  bits.put(kDenominator, kHalf);
  put_column(pages, object_column, objects, bits);
  put_column(pages, length_column, length, bits);
  for (const PageHint& page : pages) bits.put(page.shared.size(), count_bits);
  bits.align();
  for (const PageHint& page : pages)
    for (const std::uint64_t place : page.shared) bits.put(place, place_bits);
  bits.align();
  put_column(pages, offset_column, content_offset, bits);
  put_column(pages, content_column, content_length, bits);
}

void put_shared(const HintTables& tables, BitWriter& bits) {
  const auto length = [](const SharedHint& group) { return group.length; };
  const Column lengths = column_of(tables.shared, length);
  std::uint64_t most_objects = 1;
  for (const SharedHint& group : tables.shared)
    most_objects = std::max(most_objects, group.objects);
  const int object_bits = bits_for(most_objects - 1);
  bits.put(tables.first_shared_object, kWord);
  bits.put(tables.first_shared_place, kWord);
  bits.put(tables.first_page_groups, kWord);
  bits.put(tables.shared.size(), kWord);
  bits.put(static_cast<std::uint64_t>(object_bits), kHalf);
  bits.put(lengths.least, kWord);
  bits.put(static_cast<std::uint64_t>(lengths.bits), kHalf);
  put_column(tables.shared, lengths, length, bits);
  for (std::size_t i = 0; i < tables.shared.size(); ++i) bits.put(0, 1);  // without signatures
  bits.align();
  for (const SharedHint& group : tables.shared) bits.put(group.objects - 1, object_bits);
  bits.align();
}

Error damaged(const char* what) {
  return Error(ErrorCode::malformed,
               std::string("the hint table of ") + what + " ends too early or makes no sense");
}

Status read_pages(BitReader& bits, std::uint64_t count, HintTables& tables) {
  Column objects;
  Column lengths;
  Column offsets;
  Column contents;
  objects.least = bits.get(kWord);
  tables.first_page_place = bits.get(kWord);
  objects.bits = static_cast<int>(bits.get(kHalf));
  lengths.least = bits.get(kWord);
  lengths.bits = static_cast<int>(bits.get(kHalf));
  offsets.least = bits.get(kWord);
  offsets.bits = static_cast<int>(bits.get(kHalf));
  contents.least = bits.get(kWord);
  contents.bits = static_cast<int>(bits.get(kHalf));
  const std::uint64_t count_bits = bits.get(kHalf);
  const std::uint64_t place_bits = bits.get(kHalf);
  const std::uint64_t numerator_bits = bits.get(kHalf);
  bits.get(kHalf);
  if (bits.is_over() || count_bits > kWord || place_bits > kWord || numerator_bits > kWord)
    return damaged("pages");
  tables.pages.resize(count);
  const auto column = [&](const Column& stated, auto PageHint::*member) -> Status {
    if (stated.bits > kWord) return damaged("pages");
    for (PageHint& page : tables.pages)
      page.*member = stated.least + bits.get(static_cast<std::uint64_t>(stated.bits));
    bits.align();
    return bits.is_over() ? Status(damaged("pages")) : Status(Done{});
  };
  LUMVET_RETURN_IF_ERROR(column(objects, &PageHint::objects));
  LUMVET_RETURN_IF_ERROR(column(lengths, &PageHint::length));
  std::uint64_t all = 0;
  for (PageHint& page : tables.pages) {
    const std::uint64_t shared = bits.get(count_bits);
    all += shared;
    // Places without bits are all the same, of which a page needs one.
    const bool is_too_many = place_bits == 0 ? shared > 1 : !bits.has(all, place_bits);
    if (all > kMostShared || is_too_many) return damaged("pages");
    page.shared.resize(shared);
  }
  bits.align();
  for (PageHint& page : tables.pages)
    for (std::uint64_t& place : page.shared) place = bits.get(place_bits);
  bits.align();
  for (std::uint64_t i = 0; i < all; ++i) bits.get(numerator_bits);
  bits.align();
  LUMVET_RETURN_IF_ERROR(column(offsets, &PageHint::content_offset));
  return column(contents, &PageHint::content_length);
}

Status read_shared(BitReader& bits, HintTables& tables) {
  tables.first_shared_object = bits.get(kWord);
  tables.first_shared_place = bits.get(kWord);
  tables.first_page_groups = bits.get(kWord);
  const std::uint64_t count = bits.get(kWord);
  const std::uint64_t object_bits = bits.get(kHalf);
  const std::uint64_t least = bits.get(kWord);
  const std::uint64_t length_bits = bits.get(kHalf);
  // Each has a bit at least.
  if (bits.is_over() || length_bits > kWord || object_bits > kWord || !bits.has(count, 1))
    return damaged("shared objects");
  tables.shared.resize(count);
  for (SharedHint& group : tables.shared) group.length = least + bits.get(length_bits);
  bits.align();
  std::uint64_t signatures = 0;
  for (std::uint64_t i = 0; i < count; ++i) signatures += bits.get(1);
  bits.align();
  constexpr int kSignature = 64;  // twice
  for (std::uint64_t i = 0; i < 2 * signatures && !bits.is_over(); ++i) bits.get(kSignature);
  for (SharedHint& group : tables.shared) group.objects = 1 + bits.get(object_bits);
  return bits.is_over() ? Status(damaged("shared objects")) : Status(Done{});
}

}  // namespace

HintBytes written(const HintTables& tables) {
  HintBytes hints;
  BitWriter bits;
  put_pages(tables, bits);
  hints.shared_table = bits.size();
  put_shared(tables, bits);
  for (const RangeHint& range : tables.ranges) {
    hints.ranges.emplace_back(range.key, bits.size());
    for (const std::uint64_t value : {range.first_object, range.place, range.objects, range.length})
      bits.put(value, kWord);
  }
  hints.bytes = bits.take();
  return hints;
}

Result<HintTables> read_hints(ByteView bytes, std::uint64_t pages, std::uint64_t shared_table,
                              const std::vector<std::pair<char, std::uint64_t>>& ranges) {
  HintTables tables;
  BitReader bits(bytes);
  LUMVET_RETURN_IF_ERROR(read_pages(bits, pages, tables));
  BitReader shared(bytes, std::min<std::uint64_t>(shared_table, bytes.size()));
  LUMVET_RETURN_IF_ERROR(read_shared(shared, tables));
  for (const auto& [key, at] : ranges) {
    BitReader range(bytes, std::min<std::uint64_t>(at, bytes.size()));
    RangeHint hint{key, 0, 0, 0, 0};
    for (std::uint64_t* value : {&hint.first_object, &hint.place, &hint.objects, &hint.length})
      *value = range.get(kWord);
    if (range.is_over()) return damaged("a range of objects");
    tables.ranges.push_back(hint);
  }
  return tables;
}

}  // namespace lumvet::linear

// SPDX-License-Identifier: Apache-2.0
#include "file/xref_section.h"
#include "base/digits.h"
#include "base/findings_list.h"

#include <algorithm>

#include "base/attempt.h"
#include "file/object_reader.h"
#include "objects/parser.h"

namespace lumvet::file {
namespace {

constexpr std::size_t kRow = 20;         // bytes of a table's row, its line end included
constexpr std::size_t kRowContent = 18;  // "0000000015 00000 n"

// A row that is missing or damaged leads nowhere, which makes the store look for the object.
constexpr XrefEntry kUnreadable{~std::uint64_t{0}, 0, XrefEntry::Kind::in_file};

std::uint64_t digits_of(ByteView bytes) {
  std::uint64_t value = 0;
  for (const std::uint8_t byte : bytes) value = value * 10 + (byte - std::uint64_t{'0'});
  return value;
}

bool are_digits(ByteView bytes) {
  return std::all_of(bytes.begin(), bytes.end(), [](std::uint8_t byte) { return is_digit(byte); });
}

bool is_row(ByteView row) {
  return row.size() >= kRowContent && are_digits(row.first(10)) && row[10] == ' ' &&
         are_digits(row.subspan(11, 5)) && row[16] == ' ' && (row[17] == 'n' || row[17] == 'f');
}

void skip_white(ByteView bytes, std::size_t& at) {
  while (at < bytes.size() && objects::is_white(bytes[at])) ++at;
}

std::optional<std::uint64_t> read_digits(ByteView bytes, std::size_t& at) {
  skip_white(bytes, at);
  const std::size_t start = at;
  constexpr std::size_t kMostDigits = 19;
  while (at < bytes.size() && is_digit(bytes[at]) && at - start < kMostDigits) ++at;
  if (at == start) return std::nullopt;
  return digits_of(bytes.subspan(start, at - start));
}

// Whether `count` rows of exactly the right width stand at `at`, as far as the first, the last and
// what comes behind them show.
bool has_plain_rows(ByteView bytes, std::size_t at, std::uint64_t count) {
  if (count == 0 || count > (bytes.size() - at + kRow - kRowContent) / kRow) return false;
  const std::size_t last = at + (count - 1) * kRow;
  if (!is_row(bytes.subspan(at)) || !is_row(bytes.subspan(last))) return false;
  std::size_t behind = last + kRowContent;
  skip_white(bytes, behind);
  if (behind < last + kRow && behind < bytes.size()) return false;
  return behind >= bytes.size() || is_digit(bytes[behind]) || bytes[behind] == 't';
}

}  // namespace

XrefSection XrefSection::of(std::vector<XrefEntry> entries) {
  XrefSection section;
  section.end_ = entries.size();
  section.ranges_ = {{0, entries.size(), 0, Form::listed}};
  section.listed_ = std::move(entries);
  return section;
}

Status XrefSection::add(const Range& range, const Limits& limits) {
  if (range.count == 0) return Done{};
  if (range.first >= limits.objects || range.count > limits.objects - range.first)
    return met_limit("object number " + std::to_string(range.first + range.count - 1) +
                     " is beyond Limits::objects");
  end_ = std::max(end_, range.first + range.count);
  ranges_.push_back(range);
  return Done{};
}

// Sorts the ranges, so that one is found quickly. Where they overlap, what comes first counts.
void XrefSection::settle() {
  const auto before = [](const Range& a, const Range& b) { return a.first < b.first; };
  const auto overlap = [](const Range& a, const Range& b) { return a.first + a.count > b.first; };
  std::vector<Range> sorted = ranges_;
  std::stable_sort(sorted.begin(), sorted.end(), before);
  if (std::adjacent_find(sorted.begin(), sorted.end(), overlap) == sorted.end()) {
    ranges_ = std::move(sorted);
    return;
  }
  std::vector<XrefEntry> entries(end_);
  for (const Range& range : ranges_)
    for (std::uint64_t i = 0; i < range.count; ++i)
      if (XrefEntry& entry = entries[range.first + i]; entry.kind == XrefEntry::Kind::missing)
        entry = entry_at(range, i);
  ranges_ = {{0, entries.size(), 0, Form::listed}};
  listed_ = std::move(entries);
}

XrefEntry XrefSection::find(std::uint64_t number) const {
  auto range = std::upper_bound(ranges_.begin(), ranges_.end(), number,
                                [](std::uint64_t n, const Range& r) { return n < r.first; });
  if (range == ranges_.begin()) return {};
  --range;
  return number - range->first < range->count ? entry_at(*range, number - range->first)
                                              : XrefEntry{};
}

XrefEntry XrefSection::entry_at(const Range& range, std::uint64_t index) const {
  switch (range.form) {
    case Form::text: return text_entry(range.at + index * kRow);
    case Form::binary:
      return binary_entry(range.at + index * (widths_[0] + widths_[1] + widths_[2]));
    case Form::listed: break;
  }
  return listed_[range.at + index];
}

XrefEntry XrefSection::text_entry(std::uint64_t at) const {
  const ByteView row = text_.view().subspan(at);
  if (!is_row(row)) return kUnreadable;
  XrefEntry entry{digits_of(row.first(10)),
                  static_cast<std::uint32_t>(digits_of(row.subspan(11, 5))),
                  row[17] == 'n' ? XrefEntry::Kind::in_file : XrefEntry::Kind::free};
  if (entry.where != 0) entry.where += shift_;
  return entry;
}

XrefEntry XrefSection::binary_entry(std::uint64_t at) const {
  const ByteSlice slice = rows_->row(at, widths_[0] + widths_[1] + widths_[2]);
  const ByteView row = slice.view();
  if (row.empty()) return kUnreadable;
  std::array<std::uint64_t, 3> fields = {1, 0, 0};  // the type is 1 when its field has no width
  std::size_t next = 0;
  for (std::size_t field = 0; field < 3; ++field) {
    if (widths_[field] > 0) fields[field] = 0;
    for (std::size_t i = 0; i < widths_[field]; ++i)
      fields[field] = fields[field] << 8 | row[next++];
  }
  XrefEntry entry;
  entry.where = fields[1];
  entry.detail = static_cast<std::uint32_t>(fields[2]);
  switch (fields[0]) {
    case 0: entry.kind = XrefEntry::Kind::free; break;
    case 1:
      entry.kind = XrefEntry::Kind::in_file;
      entry.where += shift_;
      break;
    case 2: entry.kind = XrefEntry::Kind::in_stream; break;
    default: break;  // types to come read as null objects (7.5.8.3)
  }
  return entry;
}

Result<XrefSection> XrefSection::read_table(const ByteSlice& bytes, std::size_t at,
                                            std::uint64_t base, std::uint64_t shift,
                                            const Limits& limits, Findings& findings) {
  XrefSection section;
  section.text_ = bytes;
  section.shift_ = shift;
  LUMVET_RETURN_IF_ERROR(section.read_subsections(at, base, limits, findings));
  objects::Parser parser(bytes.view(), at, objects::References::allowed, limits.nesting);
  const Result<objects::Parsed> word = parser.next();
  if (!word.ok() || word->keyword != "trailer")
    return Error(ErrorCode::malformed, "a cross-reference table without a trailer")
        .at_offset(base + at);
  LUMVET_TRY(const Object trailer, parser.value());
  section.trailer_ = trailer.as_dict();
  section.settle();
  return section;
}

Status XrefSection::read_subsections(std::size_t& at, std::uint64_t base, const Limits& limits,
                                     Findings& findings) {
  const ByteView bytes = text_.view();
  while (const auto first = read_digits(bytes, at)) {
    const auto count = read_digits(bytes, at);
    if (!count)
      return Error(ErrorCode::malformed, "a cross-reference table without an entry count")
          .at_offset(base + at);
    skip_white(bytes, at);
    Range range{*first, *count, at, Form::text};
    constexpr std::string_view kHeadOfFreeList = "0000000000 65535 f";
    if (*first == 1 && *count > 0 && as_text(bytes.subspan(at)).starts_with(kHeadOfFreeList)) {
      findings.add(
          {"a cross-reference table counts its objects from 1; 0 was taken", base + at, {}});
      range.first = 0;
    }
    if (has_plain_rows(bytes, at, *count)) {
      LUMVET_RETURN_IF_ERROR(add(range, limits));
      at = std::min(at + *count * kRow, bytes.size());
    } else {
      LUMVET_TRY(at, list_rows(range, at, base, limits, findings));
    }
  }
  return Done{};
}

// Rows of other widths, one by one. Gives the place behind the last that is one.
Result<std::size_t> XrefSection::list_rows(Range range, std::size_t at, std::uint64_t base,
                                           const Limits& limits, Findings& findings) {
  const ByteView bytes = text_.view();
  const std::uint64_t stated = range.count;
  range.form = Form::listed;
  range.at = listed_.size();
  range.count = 0;
  for (; range.count < stated && range.count < limits.objects; ++range.count) {
    const std::size_t entry_at = at;
    const auto where = read_digits(bytes, at);
    const auto generation = read_digits(bytes, at);
    skip_white(bytes, at);
    const char letter = at < bytes.size() ? static_cast<char>(bytes[at]) : '\0';
    if (!where || !generation || (letter != 'n' && letter != 'f')) {
      findings.add({"a cross-reference table is shorter than it says", base + entry_at, {}});
      is_short_ = true;
      at = entry_at;
      break;
    }
    ++at;
    listed_.push_back({*where == 0 ? 0 : *where + shift_, static_cast<std::uint32_t>(*generation),
                       letter == 'n' ? XrefEntry::Kind::in_file : XrefEntry::Kind::free});
  }
  LUMVET_RETURN_IF_ERROR(add(range, limits));
  return at;
}

Result<XrefSection> XrefSection::read_stream(const std::shared_ptr<const ByteSource>& source,
                                             std::uint64_t offset, std::uint64_t shift,
                                             const Limits& limits, Findings& findings) {
  const LengthLookup no_lookup = [](ObjectId) { return Object(); };
  LUMVET_TRY(const IndirectObject object,
             read_object_at(source, offset, no_lookup, limits.nesting, findings));
  const Stream* stream = object.value.as_stream();
  if (stream == nullptr || !stream->dict["Type"].is_name("XRef"))
    return Error(ErrorCode::malformed, "there is no cross-reference stream where one is said to be")
        .at_offset(offset);
  XrefSection section;
  section.is_stream_ = true;
  section.shift_ = shift;
  section.trailer_ = stream->dict;
  LUMVET_TRY(section.rows_, XrefRows::read(*stream, limits, findings));
  LUMVET_RETURN_IF_ERROR(section.read_index(offset, limits, findings));
  section.settle();
  return section;
}

Status XrefSection::read_index(std::uint64_t offset, const Limits& limits, Findings& findings) {
  const Array& stated = trailer_["W"].as_array();
  for (std::size_t i = 0; i < 3; ++i) {
    const std::int64_t width = i < stated.size() ? stated[i].as_integer() : -1;
    if (width < 0 || width > 8)
      return Error(ErrorCode::malformed, "a cross-reference stream with impossible field widths")
          .at_offset(offset);
    widths_[i] = static_cast<std::size_t>(width);
  }
  const std::size_t row = widths_[0] + widths_[1] + widths_[2];
  if (row == 0)
    return Error(ErrorCode::malformed, "a cross-reference stream with empty rows")
        .at_offset(offset);
  Array index = trailer_["Index"].as_array();
  if (index.size() < 2) index = {Object(0), trailer_["Size"]};
  std::uint64_t at = 0;
  for (std::size_t pair = 0; pair + 1 < index.size() && !is_short_; pair += 2) {
    const std::int64_t first = index[pair].as_integer(-1);
    const std::int64_t count = index[pair + 1].as_integer(-1);
    if (first < 0 || count < 0)
      return Error(ErrorCode::malformed, "a cross-reference stream with an impossible /Index")
          .at_offset(offset);
    const std::uint64_t there = (rows_->most_bytes() - at) / row;
    const auto wanted = static_cast<std::uint64_t>(count);
    if (wanted > there) {
      findings.add({"a cross-reference stream is shorter than it says", offset, {}});
      is_short_ = true;
    }
    LUMVET_RETURN_IF_ERROR(add(
        {static_cast<std::uint64_t>(first), std::min(wanted, there), at, Form::binary}, limits));
    at += std::min(wanted, there) * row;
  }
  return Done{};
}

}  // namespace lumvet::file

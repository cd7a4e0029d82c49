// SPDX-License-Identifier: Apache-2.0
#include "linear/linear_file.h"

#include <algorithm>

#include "document/inside.h"
#include "document/revisions.h"

namespace lumvet::linear {
namespace {

std::uint64_t not_negative(const Object& number) {
  return static_cast<std::uint64_t>(std::max<std::int64_t>(0, number.as_integer()));
}

}  // namespace

std::optional<LinearFile> LinearFile::of(const Document& document) {
  auto parameters = document::linear_parameters(store_of(document));
  if (!parameters) return std::nullopt;
  return LinearFile(*std::move(parameters));
}

std::uint64_t LinearFile::number(const char* key) const { return not_negative(parameters_[key]); }

std::uint64_t LinearFile::number_at(const char* key, std::size_t i) const {
  const Array& items = parameters_[key].as_array();
  return i < items.size() ? not_negative(items[i]) : 0;
}

Result<HintTables> LinearFile::tables(const Document& document) const {
  const file::ObjectStore& store = store_of(document);
  const std::string unreadable =
      "/H, the hint stream at " + std::to_string(hints_at()) + ", cannot be read: ";
  const std::uint64_t place = hints_at() + store.header().offset;
  std::optional<std::uint32_t> number;
  for (std::uint32_t i = 0; i < store.size() && !number; ++i) {
    const file::XrefEntry entry = store.entry_of(i);
    if (entry.kind == file::XrefEntry::Kind::in_file && entry.where == place) number = i;
  }
  const Object stream =
      number ? store_of(document).resolve(Object(ObjectId{*number, 0})) : Object();
  if (!stream.is_stream()) return Error(ErrorCode::malformed, unreadable + "no stream is there");
  const auto bytes = document.decoded(stream);
  if (!bytes.ok()) return Error(bytes.error().code(), unreadable + bytes.error().message());
  std::vector<std::pair<char, std::uint64_t>> others;
  for (const char key : {'O', 'A', 'E', 'V', 'I', 'C', 'L'})
    if (const Object& at = stream.as_dict()[std::string(1, key)]; at.is_integer())
      others.emplace_back(key, not_negative(at));
  return read_hints(bytes->view(), static_cast<std::uint64_t>(document.page_count()),
                    not_negative(stream.as_dict()["S"]), others);
}

std::vector<FileRange> LinearFile::page_ranges(const HintTables& tables) const {
  std::vector<FileRange> ranges(tables.pages.size());
  std::uint64_t at = tables.first_page_place;
  const auto place = [&](std::size_t page) {
    const std::uint64_t end = at + tables.pages[page].length;
    ranges[page] = {real(at), real(end)};
    at = end;
  };
  const std::uint64_t first = first_page();
  if (first < ranges.size()) place(first);
  for (std::size_t page = 0; page < ranges.size(); ++page)
    if (page != first) place(page);
  return ranges;
}

std::vector<FileRange> LinearFile::group_ranges(const HintTables& tables) const {
  std::vector<FileRange> ranges;
  std::uint64_t at = tables.first_page_place;
  for (std::size_t i = 0; i < tables.shared.size(); ++i) {
    if (i == tables.first_page_groups) at = tables.first_shared_place;
    const std::uint64_t end = at + tables.shared[i].length;
    ranges.push_back({real(at), real(end)});
    at = end;
  }
  return ranges;
}

}  // namespace lumvet::linear

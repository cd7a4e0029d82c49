// SPDX-License-Identifier: Apache-2.0
#include "compose/data_rows.h"

namespace lumvet::compose {
namespace {

constexpr char kEnd = '\0';
constexpr char kMeant = '\1';  // the next byte is one of the value

}  // namespace

void DataRows::add(const Fields& row) {
  std::vector<std::string> names;
  names.reserve(row.size());
  for (const auto& [name, value] : row) names.push_back(name);
  const auto [known, is_new] =
      known_names_.emplace(names, static_cast<std::uint32_t>(names_.size()));
  if (is_new) names_.push_back(std::move(names));
  rows_.push_back({values_.size(), known->second});
  for (const auto& [name, value] : row) {
    for (const char c : value) {
      if (c == kEnd || c == kMeant) values_ += kMeant;
      values_ += c;
    }
    values_ += kEnd;
  }
}

Fields DataRows::row(std::size_t number) const {
  const Row& row = rows_[number];
  Fields fields;
  std::size_t at = row.begin;
  for (const std::string& name : names_[row.names]) {
    std::string value;
    for (; values_[at] != kEnd; ++at) {
      if (values_[at] == kMeant) ++at;
      value += values_[at];
    }
    ++at;
    fields.emplace_hint(fields.end(), name, std::move(value));
  }
  return fields;
}

}  // namespace lumvet::compose

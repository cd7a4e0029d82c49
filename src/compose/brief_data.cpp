// SPDX-License-Identifier: Apache-2.0
#include "compose/brief_data.h"

#include <algorithm>

#include "compose/brief_node.h"
#include "lumvet/compose/brief.h"

namespace lumvet {
namespace compose {
namespace {

std::string text_of_value(const Json& value) {
  if (value.is_string()) return value.get<std::string>();
  return value.is_null() ? std::string() : value.dump();
}

Fields fields_of(const Json& row) {
  Fields fields;
  if (!row.is_object()) {
    fields["value"] = text_of_value(row);
    return fields;
  }
  for (const auto& [name, value] : row.items())
    if (!value.is_structured()) fields[name] = text_of_value(value);
  return fields;
}

std::vector<Fields> rows_of(const Json& list) {
  std::vector<Fields> rows;
  rows.reserve(list.size());
  for (const Json& row : list) rows.push_back(fields_of(row));
  return rows;
}

}  // namespace

BriefData::BriefData(std::string_view json) : is_empty_(json.empty()) {
  if (is_empty_) return;
  const Json data = json_of(json, "the data");
  if (data.is_array()) {
    rows_["rows"] = rows_of(data);
    return;
  }
  if (!data.is_object())
    throw ResultError(Error(ErrorCode::invalid_argument,
                            "the data is neither an object of values and lists, nor a list"));
  values_ = fields_of(data);
  for (const auto& [name, value] : data.items())
    if (value.is_array()) rows_[name] = rows_of(value);
}

const std::vector<Fields>* BriefData::rows(const std::string& name) const {
  const auto found = rows_.find(name);
  return found == rows_.end() ? nullptr : &found->second;
}

std::string BriefData::names() const {
  std::string names;
  for (const auto& [name, rows] : rows_) names += (names.empty() ? "'" : ", '") + name + "'";
  return names;
}

}  // namespace compose

Result<std::string> data_of_csv(std::string_view csv) {
  if (csv.starts_with("\xEF\xBB\xBF")) csv.remove_prefix(3);
  // Where commas are the signs of fractions, semicolons part fields.
  const std::string_view head = csv.substr(0, csv.find('\n'));
  const char between =
      std::count(head.begin(), head.end(), ';') > std::count(head.begin(), head.end(), ',') ? ';'
                                                                                            : ',';
  std::vector<std::vector<std::string>> rows;
  std::vector<std::size_t> lines;  // where each row begins
  std::size_t line = 1;
  for (std::size_t at = 0; at < csv.size();) {
    std::vector<std::string> row;
    lines.push_back(line);
    for (bool goes_on = true; goes_on;) {
      std::string field;
      if (at < csv.size() && csv[at] == '"') {
        const std::size_t begun = line;
        for (++at;; ++at) {
          if (at >= csv.size())
            return Error(ErrorCode::malformed,
                         "the quotes that begin in line " + std::to_string(begun) + " do not end");
          if (csv[at] == '"' && (at + 1 >= csv.size() || csv[at + 1] != '"')) break;
          if (csv[at] == '"') ++at;
          if (csv[at] == '\n') ++line;
          field += csv[at];
        }
        ++at;
      }
      while (at < csv.size() && csv[at] != between && csv[at] != '\n' && csv[at] != '\r')
        field += csv[at++];
      row.push_back(std::move(field));
      goes_on = at < csv.size() && csv[at] == between;
      if (goes_on) ++at;
    }
    if (at < csv.size() && csv[at] == '\r') ++at;
    if (at < csv.size() && csv[at] == '\n') ++at;
    ++line;
    const bool is_blank = row.size() == 1 && row[0].empty();
    if (is_blank)
      lines.pop_back();
    else
      rows.push_back(std::move(row));
  }
  compose::Json data = compose::Json::array();
  for (std::size_t i = 1; i < rows.size(); ++i) {
    if (rows[i].size() != rows[0].size())
      return Error(ErrorCode::malformed,
                   "line " + std::to_string(lines[i]) + " has " + std::to_string(rows[i].size()) +
                       " fields, and the first " + std::to_string(rows[0].size()));
    compose::Json row = compose::Json::object();
    for (std::size_t k = 0; k < rows[i].size(); ++k) row[rows[0][k]] = rows[i][k];
    data.push_back(std::move(row));
  }
  // Bytes that are no UTF-8 become U+FFFD.
  return data.dump(-1, ' ', false, compose::Json::error_handler_t::replace);
}

}  // namespace lumvet

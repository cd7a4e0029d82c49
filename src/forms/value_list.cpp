// SPDX-License-Identifier: Apache-2.0
#include "lumvet/forms/value_list.h"

#include <nlohmann/json.hpp>

#include "base/csv.h"
#include "base/text_place.h"
#include "lumvet/document/field_format.h"

namespace lumvet {
namespace {

using Json = nlohmann::ordered_json;

Error wrong(const std::string& name, const char* what) {
  return Error(ErrorCode::malformed, "the value of '" + name + "' " + what);
}

Result<std::string> text_of(const std::string& name, const Json& json) {
  if (json.is_string()) return json.get<std::string>();
  if (json.is_boolean()) return std::string(json.get<bool>() ? "on" : "off");
  if (json.is_number_integer()) return json.dump();
  if (json.is_number()) return number_text(json.get<double>());
  return wrong(name, "is no text, number, true or false");
}

Result<FieldValue> value_of(std::string name, const Json& json) {
  FieldValue value{std::move(name), {}};
  if (json.is_null()) return value;
  if (!json.is_array()) {
    LUMVET_TRY(std::string text, text_of(value.name, json));
    value.values.push_back(std::move(text));
    return value;
  }
  value.values.reserve(json.size());
  for (const Json& one : json) {
    LUMVET_TRY(std::string text, text_of(value.name, one));
    value.values.push_back(std::move(text));
  }
  return value;
}

Result<Json> parsed(std::string_view text) {
  try {
    return Json::parse(text);
  } catch (const Json::parse_error& error) {
    return Error(ErrorCode::malformed,
                 text_place(text, error.byte > 0 ? error.byte - 1 : 0) + ": this is no JSON");
  }
}

Result<std::vector<FieldValue>> values_in(const Json& json) {
  if (!json.is_object())
    return Error(ErrorCode::malformed,
                 "values of fields are an object, by the names of the fields");
  std::vector<FieldValue> values;
  struct Open {
    std::string prefix;
    const Json* object;
    Json::const_iterator next;
  };
  std::vector<Open> open{{"", &json, json.cbegin()}};
  while (!open.empty()) {
    Open& top = open.back();
    if (top.next == top.object->cend()) {
      open.pop_back();
      continue;
    }
    const std::string name = top.prefix + top.next.key();
    const Json& held = *top.next;
    ++top.next;
    if (held.is_object()) {
      open.push_back({name + ".", &held, held.cbegin()});
      continue;
    }
    LUMVET_TRY(FieldValue value, value_of(name, held));
    values.push_back(std::move(value));
  }
  return values;
}

std::string joined(const std::vector<std::string>& values) {
  std::string all;
  for (std::size_t i = 0; i < values.size(); ++i) all += (i > 0 ? "\n" : "") + values[i];
  return all;
}

}  // namespace

std::string values_as_json(const std::vector<FieldValue>& values) {
  Json object = Json::object();
  for (const FieldValue& value : values) {
    if (value.values.size() == 1)
      object[value.name] = value.values[0];
    else
      object[value.name] = value.values.empty() ? Json("") : Json(value.values);
  }
  return object.dump(2, ' ', false, Json::error_handler_t::replace) + "\n";
}

std::string values_as_table(const std::vector<FieldValue>& values) {
  std::string head;
  std::string line;
  for (std::size_t i = 0; i < values.size(); ++i) {
    head += (i > 0 ? "," : "") + csv_cell(values[i].name);
    line += (i > 0 ? "," : "") + csv_cell(joined(values[i].values));
  }
  return head + "\r\n" + line + "\r\n";
}

Result<std::vector<FieldValue>> read_values(std::string_view json) {
  LUMVET_TRY(const Json read, parsed(json));
  return values_in(read);
}

Result<std::vector<std::vector<FieldValue>>> read_value_rows(std::string_view json) {
  LUMVET_TRY(const Json read, parsed(json));
  std::vector<std::vector<FieldValue>> rows;
  const std::size_t count = read.is_array() ? read.size() : 1;
  rows.reserve(count);
  for (std::size_t i = 0; i < count; ++i) {
    LUMVET_TRY(auto values, values_in(read.is_array() ? read[i] : read));
    rows.push_back(std::move(values));
  }
  return rows;
}

Result<std::vector<std::vector<FieldValue>>> read_value_table(std::string_view table) {
  LUMVET_TRY(const auto lines, read_csv(table));
  if (lines.size() < 2)
    return Error(ErrorCode::invalid_argument,
                 "the table has no values: its first line names the fields, and each further one "
                 "has the values of a document");
  const std::vector<std::string>& head = lines[0];
  std::vector<std::vector<FieldValue>> rows;
  rows.reserve(lines.size() - 1);
  for (std::size_t i = 1; i < lines.size(); ++i) {
    if (lines[i].size() != head.size())
      return Error(ErrorCode::malformed, "line " + std::to_string(i + 1) + " of the table has " +
                                             std::to_string(lines[i].size()) +
                                             " cells; its head has " + std::to_string(head.size()));
    std::vector<FieldValue> row;
    row.reserve(head.size());
    for (std::size_t at = 0; at < head.size(); ++at)
      if (!head[at].empty()) row.push_back({head[at], {lines[i][at]}});
    rows.push_back(std::move(row));
  }
  return rows;
}

}  // namespace lumvet

// SPDX-License-Identifier: Apache-2.0
#include "compose/brief_data.h"

#include <algorithm>

#include "compose/brief_node.h"
#include "lumvet/compose/brief.h"

namespace lumvet {
namespace compose {
namespace {

// Takes data as it is read, without all of its JSON being in memory: values, and rows of lists.
// What lies deeper within them is left out.
class DataReader : public nlohmann::json_sax<Json> {
 public:
  DataReader(std::string_view text, Fields& values, std::map<std::string, DataRows>& rows)
      : text_(text), values_(values), rows_(rows) {}

  bool null() override { return take({}); }
  bool boolean(bool value) override { return take(value ? "true" : "false"); }
  bool number_integer(std::int64_t value) override { return take(std::to_string(value)); }
  bool number_unsigned(std::uint64_t value) override { return take(std::to_string(value)); }
  bool number_float(double value, const std::string& /*text*/) override {
    return take(Json(value).dump());
  }
  bool string(std::string& value) override { return take(std::move(value)); }
  bool binary(Json::binary_t& /*value*/) override { return take({}); }

  bool start_object(std::size_t /*size*/) override {
    if (deeper_ > 0 || where_ == Where::row || where_ == Where::values) return skip();
    if (where_ == Where::list) {
      where_ = Where::row;
      return true;
    }
    is_object_ = true;
    where_ = Where::values;
    return true;
  }
  bool key(std::string& name) override {
    if (deeper_ == 0) name_ = std::move(name);
    return true;
  }
  bool end_object() override {
    if (deeper_ > 0) return leave();
    if (where_ == Where::row) {
      list_->add(row_);
      row_.clear();
      where_ = Where::list;
    }
    return true;
  }
  bool start_array(std::size_t /*size*/) override {
    if (deeper_ > 0 || where_ == Where::row) return skip();
    if (where_ == Where::list)
      throw ResultError(Error(ErrorCode::invalid_argument,
                              "a row of the data is a list; rows are objects, or single values"));
    list_ = &rows_[where_ == Where::outside ? "rows" : name_];
    *list_ = DataRows();
    where_ = Where::list;
    return true;
  }
  bool end_array() override {
    if (deeper_ > 0) return leave();
    where_ = is_object_ ? Where::values : Where::outside;
    return true;
  }
  bool parse_error(std::size_t byte, const std::string& /*token*/,
                   const nlohmann::detail::exception& /*error*/) override {
    throw_no_json(text_, byte, "the data");
  }

 private:
  enum class Where { outside, values, list, row };

  bool skip() {
    ++deeper_;
    return true;
  }
  bool leave() {
    --deeper_;
    return true;
  }
  bool take(std::string value) {
    if (deeper_ > 0) return true;
    switch (where_) {
      case Where::outside:
        throw ResultError(Error(ErrorCode::invalid_argument,
                                "the data is neither an object of values and lists, nor a list"));
      case Where::values: values_[name_] = std::move(value); break;
      case Where::list: list_->add({{"value", std::move(value)}}); break;
      case Where::row: row_[name_] = std::move(value); break;
    }
    return true;
  }

  std::string_view text_;
  Fields& values_;
  std::map<std::string, DataRows>& rows_;
  Where where_ = Where::outside;
  bool is_object_ = false;  // all of it
  std::size_t deeper_ = 0;  // than what is taken
  std::string name_;
  DataRows* list_ = nullptr;
  Fields row_;
};

}  // namespace

BriefData::BriefData(std::string_view json) : is_empty_(json.empty()) {
  if (is_empty_) return;
  DataReader reader(json, values_, rows_);
  Json::sax_parse(json, &reader);
}

const DataRows* BriefData::rows(const std::string& name) const {
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
  std::vector<std::string> names;
  std::string data = "[";
  std::size_t line = 1;
  // Bytes that are no UTF-8 become U+FFFD.
  const auto quoted = [](const std::string& text) {
    return compose::Json(text).dump(-1, ' ', false, compose::Json::error_handler_t::replace);
  };
  for (std::size_t at = 0; at < csv.size();) {
    std::vector<std::string> row;
    const std::size_t first_line = line;
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
    if (row.size() == 1 && row[0].empty()) continue;  // a blank line
    if (names.empty()) {
      for (const std::string& name : row) names.push_back(quoted(name));
      continue;
    }
    if (row.size() != names.size())
      return Error(ErrorCode::malformed,
                   "line " + std::to_string(first_line) + " has " + std::to_string(row.size()) +
                       " fields, and the first " + std::to_string(names.size()));
    data += data.size() > 1 ? ",{" : "{";
    for (std::size_t k = 0; k < row.size(); ++k)
      data.append(k > 0 ? "," : "").append(names[k]).append(":").append(quoted(row[k]));
    data += '}';
  }
  return data + "]";
}

}  // namespace lumvet

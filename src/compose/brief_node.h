// SPDX-License-Identifier: Apache-2.0
// A brief's JSON, value by value, each of which knows where it stands. What is wrong is thrown as a
// ResultError, which the functions of brief.h turn into what they return.
//
// Threads: one thread at a time.
#pragma once

#include <nlohmann/json.hpp>

#include <initializer_list>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "compose/fields.h"
#include "lumvet/base/result.h"

namespace lumvet::compose {

using Json = nlohmann::ordered_json;

// Throws malformed, with line and column of a byte, counted from 1.
[[noreturn]] void throw_no_json(std::string_view text, std::size_t byte, const std::string& what);
// Throws the same.
Json json_of(std::string_view text, const std::string& what);

class BriefNode {
 public:
  BriefNode(std::string_view text, const Json& json) : text_(text), json_(&json) {}

  const Json& json() const { return *json_; }
  [[noreturn]] void fail(const std::string& what,
                         ErrorCode code = ErrorCode::invalid_argument) const;

  // Of objects. Throws for keys that are none of these, with the nearest.
  void allow(std::initializer_list<std::string_view> keys) const;
  bool has(const char* key) const { return json_->contains(key); }
  BriefNode at(const char* key) const;
  std::optional<BriefNode> find(const char* key) const;
  std::vector<BriefNode> items() const;  // of a list
  std::vector<std::pair<std::string, BriefNode>> members() const;

  std::string text() const;  // as it stands
  double number() const;
  double number(double least, double most) const;
  int integer(int least, int most) const;
  bool truth() const;

 private:
  BriefNode(std::string_view text, const Json& json, std::vector<std::string> path)
      : text_(text), json_(&json), path_(std::move(path)) {}

  std::string_view text_;
  const Json* json_;
  std::vector<std::string> path_;  // keys, and places in lists from 0
};

// "the nearest is 'bars'"; all that there are, where none is near.
std::string meant_by(const std::string& word, const std::vector<std::string>& known);

}  // namespace lumvet::compose

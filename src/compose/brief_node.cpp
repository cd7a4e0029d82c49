// SPDX-License-Identifier: Apache-2.0
#include "compose/brief_node.h"

#include <algorithm>
#include <cmath>

#include "base/text_place.h"
#include "lumvet/base/nearest_word.h"

namespace lumvet::compose {
namespace {

// Walks through JSON that is well formed.
class Walk {
 public:
  explicit Walk(std::string_view text) : text_(text) {}

  // The byte at which the value of a path begins.
  std::size_t find(const std::vector<std::string>& path) {
    skip_blanks();
    for (const std::string& step : path)
      if (!enter(step)) break;
    return at_;
  }

 private:
  char now() const { return at_ < text_.size() ? text_[at_] : '\0'; }
  void skip_blanks() {
    while (at_ < text_.size() &&
           std::string_view(" \t\r\n").find(text_[at_]) != std::string_view::npos)
      ++at_;
  }
  // Over a string, to behind it; gives it with its escapes taken as they are.
  std::string_view skip_string() {
    const std::size_t begin = ++at_;
    while (at_ < text_.size() && text_[at_] != '"') at_ += text_[at_] == '\\' ? 2 : 1;
    const std::string_view inside = text_.substr(begin, std::min(at_, text_.size()) - begin);
    ++at_;
    return inside;
  }
  void skip_value() {
    int depth = 0;
    do {
      skip_blanks();
      if (now() == '"') {
        skip_string();
      } else {
        const char c = now();
        if (c == '{' || c == '[') ++depth;
        if (c == '}' || c == ']') --depth;
        ++at_;
        if (depth == 0 && c != '}' && c != ']')
          while (at_ < text_.size() &&
                 std::string_view(",]} \t\r\n").find(now()) == std::string_view::npos)
            ++at_;
      }
    } while (depth > 0 && at_ < text_.size());
  }
  bool enter(const std::string& step) {
    const bool is_object = now() == '{';
    if (!is_object && now() != '[') return false;
    const std::size_t back = at_++;
    for (std::size_t place = 0; at_ < text_.size(); ++place) {
      skip_blanks();
      if (now() == '}' || now() == ']') break;
      std::string key = std::to_string(place);
      if (is_object) {
        key = std::string(skip_string());
        skip_blanks();
        ++at_;  // the colon
        skip_blanks();
      }
      if (key == step) return true;
      skip_value();
      skip_blanks();
      if (now() == ',') ++at_;
    }
    at_ = back;
    return false;
  }

  std::string_view text_;
  std::size_t at_ = 0;
};

const char* kind_of(const Json& json) {
  if (json.is_object()) return "an object";
  if (json.is_array()) return "a list";
  if (json.is_string()) return "a text";
  if (json.is_number()) return "a number";
  if (json.is_boolean()) return "true or false";
  return "null";
}

}  // namespace

Json json_of(std::string_view text, const std::string& what) {
  try {
    return Json::parse(text);
  } catch (const Json::parse_error& error) {
    throw_no_json(text, error.byte, what);
  }
}

void throw_no_json(std::string_view text, std::size_t byte, const std::string& what) {
  throw ResultError(Error(ErrorCode::malformed, what + " is no JSON: it goes wrong at " +
                                                    text_place(text, byte > 0 ? byte - 1 : 0)));
}

std::string meant_by(const std::string& word, const std::vector<std::string>& known) {
  if (const auto nearest = nearest_word(word, known)) return "the nearest is '" + *nearest + "'";
  std::string all;
  for (const std::string& name : known) all += (all.empty() ? "" : ", ") + name;
  return "there are " + all;
}

void BriefNode::fail(const std::string& what, ErrorCode code) const {
  std::string path;
  for (const std::string& step : path_) path += "/" + step;
  throw ResultError(Error(code, what + " (" + text_place(text_, Walk(text_).find(path_)) +
                                    (path.empty() ? "" : ", at " + path) + ")"));
}

void BriefNode::allow(std::initializer_list<std::string_view> keys) const {
  if (!json_->is_object()) fail(std::string("an object is wanted here, not ") + kind_of(*json_));
  for (const auto& [key, value] : json_->items()) {
    if (std::find(keys.begin(), keys.end(), key) != keys.end()) continue;
    at(key.c_str())
        .fail("'" + key + "' means nothing here; " + meant_by(key, {keys.begin(), keys.end()}));
  }
}

BriefNode BriefNode::at(const char* key) const {
  std::vector<std::string> path = path_;
  path.emplace_back(key);
  return {text_, json_->at(key), std::move(path)};
}

std::optional<BriefNode> BriefNode::find(const char* key) const {
  if (!json_->is_object() || !json_->contains(key)) return std::nullopt;
  return at(key);
}

std::vector<BriefNode> BriefNode::items() const {
  if (!json_->is_array()) fail(std::string("a list is wanted here, not ") + kind_of(*json_));
  std::vector<BriefNode> items;
  items.reserve(json_->size());
  for (std::size_t i = 0; i < json_->size(); ++i) {
    std::vector<std::string> path = path_;
    path.push_back(std::to_string(i));
    items.push_back({text_, (*json_)[i], std::move(path)});
  }
  return items;
}

std::vector<std::pair<std::string, BriefNode>> BriefNode::members() const {
  if (!json_->is_object()) fail(std::string("an object is wanted here, not ") + kind_of(*json_));
  std::vector<std::pair<std::string, BriefNode>> members;
  for (const auto& [key, value] : json_->items()) members.emplace_back(key, at(key.c_str()));
  return members;
}

std::string BriefNode::text() const {
  if (!json_->is_string()) fail(std::string("a text is wanted here, not ") + kind_of(*json_));
  return json_->get<std::string>();
}
double BriefNode::number() const {
  if (!json_->is_number()) fail(std::string("a number is wanted here, not ") + kind_of(*json_));
  return json_->get<double>();
}
double BriefNode::number(double least, double most) const {
  const double value = number();
  if (value >= least && value <= most) return value;
  fail("a number from " + std::to_string(std::lround(least)) + " to " +
       std::to_string(std::lround(most)) + " is wanted here");
}
int BriefNode::integer(int least, int most) const {
  const double value = number(least, most);
  if (value != std::floor(value)) fail("a whole number is wanted here");
  return static_cast<int>(value);
}
bool BriefNode::truth() const {
  if (!json_->is_boolean())
    fail(std::string("true or false is wanted here, not ") + kind_of(*json_));
  return json_->get<bool>();
}

}  // namespace lumvet::compose

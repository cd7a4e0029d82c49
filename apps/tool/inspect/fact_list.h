// SPDX-License-Identifier: Apache-2.0
// Facts with long lists in them, which are never in memory as JSON all at once.
#pragma once

#include <functional>
#include <memory>
#include <ostream>
#include <string>
#include <utility>
#include <vector>

#include "../json.h"

namespace tool {

// A list whose entries become JSON one after the other, as they are asked for.
class FactList {
 public:
  FactList() = default;
  FactList(std::size_t size, std::function<Json(std::size_t)> entry)
      : size_(size), entry_(std::move(entry)) {}

  // An entry of the list for each of the values, which it keeps.
  template <typename Value>
  static FactList of(std::vector<Value> values, Json (*facts)(const Value&)) {
    const auto kept = std::make_shared<const std::vector<Value>>(std::move(values));
    return {kept->size(), [kept, facts](std::size_t i) { return facts((*kept)[i]); }};
  }

  std::size_t size() const { return size_; }
  bool empty() const { return size_ == 0; }

  class Iterator {
   public:
    Iterator(const FactList& list, std::size_t place) : list_(&list), place_(place) {}
    Json operator*() const { return list_->entry_(place_); }
    Iterator& operator++() {
      ++place_;
      return *this;
    }
    bool operator!=(const Iterator& other) const { return place_ != other.place_; }

   private:
    const FactList* list_;
    std::size_t place_;
  };
  Iterator begin() const { return {*this, 0}; }
  Iterator end() const { return {*this, size_}; }

 private:
  std::size_t size_ = 0;
  std::function<Json(std::size_t)> entry_;
};

// Facts of one thing: a value, a list, or an object whose last key is a list.
struct Facts {
  Facts(Json json) : value(std::move(json)) {}                          // NOLINT(*-explicit-*)
  Facts(FactList entries) : list(std::move(entries)), is_list(true) {}  // NOLINT(*-explicit-*)
  Facts(Json object, std::string list_key, FactList entries)
      : value(std::move(object)), key(std::move(list_key)), list(std::move(entries)) {}

  const Json& operator[](const char* name) const { return value[name]; }

  Json value;
  std::string key;  // of the list within the object, or empty
  FactList list;
  bool is_list = false;
};

// Over several lines, as print_json does; lines after the first begin with `indent` blanks.
void print_json(const Facts& facts, std::size_t indent, std::ostream& out);
// An object with these facts of its own, then these under their names.
void print_json(const Json& own, const std::vector<std::pair<std::string, Facts>>& named,
                std::size_t indent, std::ostream& out);

}  // namespace tool

// SPDX-License-Identifier: Apache-2.0
#include "lumvet/objects/object.h"

#include <algorithm>
#include <cmath>

#include "base/attempt.h"

namespace lumvet {

Object::Object(Array array) : value_(std::make_shared<const Array>(std::move(array))) {}
Object::Object(Dict dict) : value_(std::make_shared<const Dict>(std::move(dict))) {}
Object::Object(Stream stream) : value_(std::make_shared<const Stream>(std::move(stream))) {}

bool Object::as_bool(bool otherwise) const {
  const bool* value = std::get_if<bool>(&value_);
  return value ? *value : otherwise;
}

std::int64_t Object::as_integer(std::int64_t otherwise) const {
  if (const auto* value = std::get_if<std::int64_t>(&value_)) return *value;
  if (const auto* value = std::get_if<double>(&value_)) {
    constexpr double kFits = 9.2e18;
    if (std::abs(*value) < kFits) return static_cast<std::int64_t>(*value);
  }
  return otherwise;
}

double Object::as_number(double otherwise) const {
  if (const auto* value = std::get_if<double>(&value_)) return *value;
  if (const auto* value = std::get_if<std::int64_t>(&value_)) return static_cast<double>(*value);
  return otherwise;
}

std::string_view Object::as_name() const& {
  const Name* value = std::get_if<Name>(&value_);
  return value ? std::string_view(value->text) : std::string_view();
}

std::string_view Object::as_string() const& {
  const String* value = std::get_if<String>(&value_);
  return value ? std::string_view(value->bytes) : std::string_view();
}

const Array& Object::as_array() const& {
  static const Array kEmpty;
  const ArrayPtr* value = std::get_if<ArrayPtr>(&value_);
  return value ? **value : kEmpty;
}

const Dict& Object::as_dict() const& {
  static const Dict kEmpty;
  if (const DictPtr* value = std::get_if<DictPtr>(&value_)) return **value;
  if (const StreamPtr* value = std::get_if<StreamPtr>(&value_)) return (*value)->dict;
  return kEmpty;
}

std::string Object::as_name() const&& {
  const Object& self = *this;
  return std::string(self.as_name());
}

std::string Object::as_string() const&& {
  const Object& self = *this;
  Attempt::follow(self.as_string().size());
  return std::string(self.as_string());
}

Array Object::as_array() const&& {
  const Object& self = *this;
  Attempt::follow(self.as_array().size() * sizeof(Object));
  return self.as_array();
}

Dict Object::as_dict() const&& {
  const Object& self = *this;
  Attempt::follow(self.as_dict().size() * sizeof(Dict::Entry));
  return self.as_dict();
}

const Stream* Object::as_stream() const {
  const StreamPtr* value = std::get_if<StreamPtr>(&value_);
  return value ? value->get() : nullptr;
}

ObjectId Object::as_reference() const {
  const ObjectId* value = std::get_if<ObjectId>(&value_);
  return value ? *value : ObjectId{};
}

bool Object::operator==(const Object& other) const {
  if (value_.index() != other.value_.index()) return false;
  if (is_array()) return as_array() == other.as_array();
  if (const Stream* mine = as_stream()) {
    const Stream* theirs = other.as_stream();
    return mine->dict == theirs->dict && mine->source == theirs->source &&
           mine->offset == theirs->offset && mine->length == theirs->length;
  }
  if (is_dict()) return as_dict() == other.as_dict();
  return value_ == other.value_;
}

namespace {

bool key_less(const Dict::Entry& entry, std::string_view key) { return entry.first < key; }

}  // namespace

Dict::Dict(std::initializer_list<Entry> entries) : Dict(std::vector<Entry>(entries)) {}

Dict::Dict(std::vector<Entry> entries) : entries_(std::move(entries)) {
  const auto is_out_of_order = [](const Entry& a, const Entry& b) { return a.first >= b.first; };
  const auto is_null = [](const Entry& entry) { return entry.second.is_null(); };
  if (std::adjacent_find(entries_.begin(), entries_.end(), is_out_of_order) == entries_.end() &&
      std::none_of(entries_.begin(), entries_.end(), is_null))
    return;
  std::stable_sort(entries_.begin(), entries_.end(),
                   [](const Entry& a, const Entry& b) { return a.first < b.first; });
  std::size_t kept = 0;
  for (std::size_t i = 0; i < entries_.size(); ++i) {
    const bool later_one_follows =
        i + 1 < entries_.size() && entries_[i + 1].first == entries_[i].first;
    if (later_one_follows || entries_[i].second.is_null()) continue;
    if (kept != i) entries_[kept] = std::move(entries_[i]);
    ++kept;
  }
  entries_.resize(kept);
}

const Object& Dict::operator[](std::string_view key) const {
  static const Object kNull;
  const auto found = std::lower_bound(entries_.begin(), entries_.end(), key, key_less);
  return found != entries_.end() && found->first == key ? found->second : kNull;
}

void Dict::set(std::string_view key, Object value) {
  if (value.is_null()) return remove(key);
  const auto found = std::lower_bound(entries_.begin(), entries_.end(), key, key_less);
  if (found != entries_.end() && found->first == key)
    found->second = std::move(value);
  else
    entries_.emplace(found, std::string(key), std::move(value));
}

void Dict::remove(std::string_view key) {
  const auto found = std::lower_bound(entries_.begin(), entries_.end(), key, key_less);
  if (found != entries_.end() && found->first == key) entries_.erase(found);
}

Stream Stream::of(Dict dict, Bytes bytes) {
  const std::uint64_t length = bytes.size();
  return {std::move(dict), make_buffer_source(std::move(bytes)), 0, length};
}

}  // namespace lumvet

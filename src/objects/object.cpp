// SPDX-License-Identifier: Apache-2.0
#include "lumvet/objects/object.h"

#include <algorithm>
#include <cmath>

#include "base/attempt.h"

namespace lumvet {

Object::Object(Array array)
    : kind_(Kind::array), array_(std::make_shared<const Array>(std::move(array))) {}
Object::Object(Dict dict)
    : kind_(Kind::dict), dict_(std::make_shared<const Dict>(std::move(dict))) {}
Object::Object(Stream stream)
    : kind_(Kind::stream), stream_(std::make_shared<const Stream>(std::move(stream))) {}

void Object::copy(const Object& other) {
  switch (other.kind_) {
    case Kind::null: break;
    case Kind::boolean: boolean_ = other.boolean_; break;
    case Kind::integer: integer_ = other.integer_; break;
    case Kind::real: real_ = other.real_; break;
    case Kind::reference: reference_ = other.reference_; break;
    case Kind::name:
    case Kind::string: new (&text_) std::string(other.text_); break;
    case Kind::array: new (&array_) ArrayPtr(other.array_); break;
    case Kind::dict: new (&dict_) DictPtr(other.dict_); break;
    case Kind::stream: new (&stream_) StreamPtr(other.stream_); break;
  }
  kind_ = other.kind_;
}

void Object::release() noexcept {
  switch (std::exchange(kind_, Kind::null)) {
    case Kind::name:
    case Kind::string: text_.~basic_string(); break;
    case Kind::array: array_.~ArrayPtr(); break;
    case Kind::dict: dict_.~DictPtr(); break;
    case Kind::stream: stream_.~StreamPtr(); break;
    case Kind::null:
    case Kind::boolean:
    case Kind::integer:
    case Kind::real:
    case Kind::reference: break;
  }
}

bool Object::as_bool(bool otherwise) const { return is_bool() ? boolean_ : otherwise; }

std::int64_t Object::as_integer(std::int64_t otherwise) const {
  if (is_integer()) return integer_;
  constexpr double kFits = 9.2e18;
  if (kind_ == Kind::real && std::abs(real_) < kFits) return static_cast<std::int64_t>(real_);
  return otherwise;
}

double Object::as_number(double otherwise) const {
  if (kind_ == Kind::real) return real_;
  return is_integer() ? static_cast<double>(integer_) : otherwise;
}

std::string_view Object::as_name() const& {
  return is_name() ? std::string_view(text_) : std::string_view();
}

std::string_view Object::as_string() const& {
  return is_string() ? std::string_view(text_) : std::string_view();
}

const Array& Object::as_array() const& {
  static const Array kEmpty;
  return is_array() ? *array_ : kEmpty;
}

const Dict& Object::as_dict() const& {
  static const Dict kEmpty;
  if (is_dict()) return *dict_;
  return is_stream() ? stream_->dict : kEmpty;
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

const Stream* Object::as_stream() const { return is_stream() ? stream_.get() : nullptr; }

ObjectId Object::as_reference() const { return is_reference() ? reference_ : ObjectId(); }

bool Object::operator==(const Object& other) const {
  if (kind_ != other.kind_) return false;
  switch (kind_) {
    case Kind::null: return true;
    case Kind::boolean: return boolean_ == other.boolean_;
    case Kind::integer: return integer_ == other.integer_;
    case Kind::real: return real_ == other.real_;
    case Kind::reference: return reference_ == other.reference_;
    case Kind::name:
    case Kind::string: return text_ == other.text_;
    case Kind::array: return *array_ == *other.array_;
    case Kind::dict: return *dict_ == *other.dict_;
    case Kind::stream: break;
  }
  return stream_->dict == other.stream_->dict && stream_->source == other.stream_->source &&
         stream_->offset == other.stream_->offset && stream_->length == other.stream_->length;
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
  constexpr std::size_t kFew = 32;  // of which most differ in length or first letter
  if (entries_.size() <= kFew) {
    for (const Entry& entry : entries_)
      if (entry.first.size() == key.size() && entry.first == key) return entry.second;
    return kNull;
  }
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

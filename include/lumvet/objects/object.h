// SPDX-License-Identifier: Apache-2.0
// The values a document is made of (ISO 32000-2, 7.3).
//
//   Dict info;
//   info.set("Title", Object::string("Day 12"));
//   info["Title"].as_string();          // "Day 12"
//   info["Author"].is_null();           // true: what is missing reads as null
//
// Arrays, dictionaries and streams inside an Object are shared and never change; copying an Object
// is cheap. Threads: values; immutable, share freely.
#pragma once

#include <memory>
#include <string>
#include <string_view>
#include <utility>
#include <variant>
#include <vector>

#include "lumvet/base/bytes.h"
#include "lumvet/base/error.h"
#include "lumvet/base/export.h"
#include "lumvet/base/result.h"
#include "lumvet/io/byte_source.h"

namespace lumvet {

class Dict;
class Object;
struct Stream;
using Array = std::vector<Object>;

class LUMVET_EXPORT Object {
 public:
  Object() = default;  // null
  Object(bool value) : value_(value) {}
  Object(int value) : value_(std::int64_t{value}) {}
  Object(std::int64_t value) : value_(value) {}
  Object(double value) : value_(value) {}
  Object(ObjectId reference) : value_(reference) {}
  Object(Array array);
  Object(Dict dict);
  Object(Stream stream);
  Object(const char*) = delete;  // say name() or string()
  static Object name(std::string_view text) { return Object(Value(Name{std::string(text)})); }
  static Object string(std::string_view bytes) { return Object(Value(String{std::string(bytes)})); }

  bool is_null() const { return std::holds_alternative<std::monostate>(value_); }
  bool is_bool() const { return std::holds_alternative<bool>(value_); }
  bool is_integer() const { return std::holds_alternative<std::int64_t>(value_); }
  bool is_number() const { return is_integer() || std::holds_alternative<double>(value_); }
  bool is_name() const { return std::holds_alternative<Name>(value_); }
  bool is_name(std::string_view text) const { return is_name() && as_name() == text; }
  bool is_string() const { return std::holds_alternative<String>(value_); }
  bool is_array() const { return std::holds_alternative<ArrayPtr>(value_); }
  bool is_dict() const { return std::holds_alternative<DictPtr>(value_); }
  bool is_stream() const { return std::holds_alternative<StreamPtr>(value_); }
  bool is_reference() const { return std::holds_alternative<ObjectId>(value_); }

  // Each gives its kind, or the stated stand-in when the object is of another kind. What is
  // borrowed lives as long as the object; of an object about to go, a copy is given instead.
  bool as_bool(bool otherwise = false) const;
  std::int64_t as_integer(std::int64_t otherwise = 0) const;  // reals are cut towards zero
  double as_number(double otherwise = 0) const;
  std::string_view as_name() const&;  // ""
  std::string as_name() const&&;
  std::string_view as_string() const&;  // the bytes, ""
  std::string as_string() const&&;
  const Array& as_array() const&;  // empty
  Array as_array() const&&;
  const Dict& as_dict() const&;  // empty; of a stream, its dictionary
  Dict as_dict() const&&;
  const Stream* as_stream() const;  // nullptr
  ObjectId as_reference() const;    // 0 0

  // The same value; streams are the same when they share their bytes.
  bool operator==(const Object& other) const;

 private:
  struct Name {
    std::string text = {};
    bool operator==(const Name&) const = default;
  };
  struct String {
    std::string bytes = {};
    bool operator==(const String&) const = default;
  };
  using ArrayPtr = std::shared_ptr<const Array>;
  using DictPtr = std::shared_ptr<const Dict>;
  using StreamPtr = std::shared_ptr<const Stream>;
  using Value = std::variant<std::monostate, bool, std::int64_t, double, Name, String, ArrayPtr,
                             DictPtr, StreamPtr, ObjectId>;
  explicit Object(Value value) : value_(std::move(value)) {}

  Value value_;
};

// Keys with values, kept in the order of the keys' bytes, so that writing one is deterministic.
class LUMVET_EXPORT Dict {
 public:
  using Entry = std::pair<std::string, Object>;

  Dict() = default;
  Dict(std::initializer_list<Entry> entries);
  // Of keys given twice the later value is kept.
  explicit Dict(std::vector<Entry> entries);

  // Null when the key is missing.
  const Object& operator[](std::string_view key) const;
  bool contains(std::string_view key) const { return !(*this)[key].is_null(); }
  // Setting null removes the key (ISO 32000-2, 7.3.7).
  void set(std::string_view key, Object value);
  void remove(std::string_view key);

  bool is_empty() const { return entries_.empty(); }
  std::size_t size() const { return entries_.size(); }
  auto begin() const { return entries_.begin(); }
  auto end() const { return entries_.end(); }
  bool operator==(const Dict&) const = default;

 private:
  std::vector<Entry> entries_;
};

// A dictionary and bytes, still encoded, that are read only when asked for.
struct LUMVET_EXPORT Stream {
  Dict dict = {};
  std::shared_ptr<const ByteSource> source = {};
  std::uint64_t offset = 0;
  std::uint64_t length = 0;

  static Stream of(Dict dict, Bytes bytes);
  // The encoded bytes. Errors: io, need_more_data.
  Result<ByteSlice> encoded() const { return source->slice(offset, length); }
};

// As it is written in a file; of a stream, its dictionary.
LUMVET_EXPORT std::string to_text(const Object& object);

}  // namespace lumvet

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
#include <new>
#include <string>
#include <string_view>
#include <utility>
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
  Object() noexcept : integer_(0) {}  // null
  Object(bool value) : kind_(Kind::boolean), boolean_(value) {}
  Object(int value) : Object(std::int64_t{value}) {}
  Object(std::int64_t value) : kind_(Kind::integer), integer_(value) {}
  Object(double value) : kind_(Kind::real), real_(value) {}
  Object(ObjectId reference) : kind_(Kind::reference), reference_(reference) {}
  Object(Array array);
  Object(Dict dict);
  Object(Stream stream);
  Object(const char*) = delete;  // say name() or string()
  static Object name(std::string_view text) { return Object(Kind::name, std::string(text)); }
  static Object string(std::string_view bytes) { return Object(Kind::string, std::string(bytes)); }

  Object(const Object& other) : integer_(0) { copy(other); }
  Object(Object&& other) noexcept : integer_(0) { take(other); }
  Object& operator=(const Object& other) { return *this = Object(other); }
  Object& operator=(Object&& other) noexcept {
    if (this == &other) return *this;
    forget();
    take(other);
    return *this;
  }
  ~Object() { forget(); }

  bool is_null() const { return kind_ == Kind::null; }
  bool is_bool() const { return kind_ == Kind::boolean; }
  bool is_integer() const { return kind_ == Kind::integer; }
  bool is_number() const { return is_integer() || kind_ == Kind::real; }
  bool is_name() const { return kind_ == Kind::name; }
  bool is_name(std::string_view text) const { return is_name() && text_ == text; }
  bool is_string() const { return kind_ == Kind::string; }
  bool is_array() const { return kind_ == Kind::array; }
  bool is_dict() const { return kind_ == Kind::dict; }
  bool is_stream() const { return kind_ == Kind::stream; }
  bool is_reference() const { return kind_ == Kind::reference; }

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
  // Those up to `reference` are plain numbers.
  enum class Kind : std::uint8_t {
    null,
    boolean,
    integer,
    real,
    reference,
    name,
    string,
    array,
    dict,
    stream
  };
  using ArrayPtr = std::shared_ptr<const Array>;
  using DictPtr = std::shared_ptr<const Dict>;
  using StreamPtr = std::shared_ptr<const Stream>;

  Object(Kind kind, std::string text) : kind_(kind), text_(std::move(text)) {}

  // These fill an object that is null.
  void copy(const Object& other);
  void take(Object& other) noexcept {
    kind_ = std::exchange(other.kind_, Kind::null);
    switch (kind_) {
      case Kind::name:
      case Kind::string:
        new (&text_) std::string(std::move(other.text_));
        other.text_.~basic_string();
        break;
      case Kind::array:
        new (&array_) ArrayPtr(std::move(other.array_));
        other.array_.~ArrayPtr();
        break;
      case Kind::dict:
        new (&dict_) DictPtr(std::move(other.dict_));
        other.dict_.~DictPtr();
        break;
      case Kind::stream:
        new (&stream_) StreamPtr(std::move(other.stream_));
        other.stream_.~StreamPtr();
        break;
      case Kind::null: break;
      case Kind::boolean: boolean_ = other.boolean_; break;
      case Kind::integer: integer_ = other.integer_; break;
      case Kind::real: real_ = other.real_; break;
      case Kind::reference: reference_ = other.reference_; break;
    }
  }
  void forget() noexcept {
    if (kind_ > Kind::reference) release();
  }
  void release() noexcept;

  Kind kind_ = Kind::null;
  union {
    bool boolean_;
    std::int64_t integer_;
    double real_;
    ObjectId reference_;
    std::string text_;  // of names and strings
    ArrayPtr array_;
    DictPtr dict_;
    StreamPtr stream_;
  };
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

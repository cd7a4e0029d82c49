// SPDX-License-Identifier: Apache-2.0
// A value or the reason why there is none.
//
//   Result<Document> opened = Document::open("report.pdf");
//   if (!opened) return complain(opened.error());
//   opened->page_count();
//
// Threads: as its value.
#pragma once

#include <new>
#include <optional>
#include <stdexcept>
#include <type_traits>
#include <utility>

#include "lumvet/base/assert.h"
#include "lumvet/base/error.h"

namespace lumvet {

// Thrown by Result::value() for callers who prefer exceptions. The library itself never throws it.
class ResultError : public std::runtime_error {
 public:
  explicit ResultError(Error error)
      : std::runtime_error(error.to_string()), error_(std::move(error)) {}
  const Error& error() const { return error_; }

 private:
  Error error_;
};

namespace results {
template <typename T>
constexpr bool is_question = std::is_same_v<T, bool>;
template <typename T>
constexpr bool is_question<std::optional<T>> = true;

// Throws it as a ResultError.
[[noreturn]] LUMVET_EXPORT void fail(const Error& error);
// That of a success.
LUMVET_EXPORT const Error& no_error();
}  // namespace results

template <typename T>
class [[nodiscard]] Result {
 public:
  Result(T value) : value_(std::move(value)), ok_(true) {}
  Result(Error error) : error_(std::move(error)), ok_(false) {}
  Result(const Result& other) requires std::is_copy_constructible_v<T> : ok_(other.ok_) {
    if (ok_)
      new (&value_) T(other.value_);
    else
      new (&error_) Error(other.error_);
  }
  Result(Result&& other) noexcept(std::is_nothrow_move_constructible_v<T>) : ok_(other.ok_) {
    take(other);
  }
  Result& operator=(Result other) noexcept requires std::is_nothrow_move_constructible_v<T> {
    forget();
    ok_ = other.ok_;
    take(other);
    return *this;
  }
  ~Result() { forget(); }

  bool ok() const { return ok_; }
  // Not where the value itself may be false or nothing, and would be meant by most who ask.
  explicit operator bool() const requires(!results::is_question<T>) { return ok(); }

  // The value; throws ResultError when there is none. Of a temporary it is given away, so that
  // `for (const auto& entry : document.outline().value())` lasts as long as its loop.
  T& value() & {
    require();
    return value_;
  }
  const T& value() const& {
    require();
    return value_;
  }
  T value() && {
    require();
    return std::move(value_);
  }
  // The value, or something in its stead.
  T value_or(T otherwise) const& { return ok() ? value_ : std::move(otherwise); }
  T value_or(T otherwise) && { return ok() ? std::move(value_) : std::move(otherwise); }

  // Only after ok(): as value(), but that asking without a value is a mistake.
  T& operator*() & { return *known(); }
  const T& operator*() const& { return *known(); }
  T operator*() && { return std::move(*known()); }
  T* operator->() { return known(); }
  const T* operator->() const { return known(); }

  // Only after !ok(); of a success, an invalid_argument that says so.
  const Error& error() const& { return *reason(); }
  Error error() && { return ok() ? *reason() : std::move(error_); }

 private:
  void require() const {
    if (!ok()) results::fail(error_);
  }
  T* known() {
    LUMVET_ASSERT(ok(), "the value of a failed call was used");
    require();
    return &value_;
  }
  const T* known() const { return const_cast<Result*>(this)->known(); }
  const Error* reason() const {
    LUMVET_ASSERT(!ok(), "the error of a successful call was used");
    return ok() ? &results::no_error() : &error_;
  }

  // What `other` has, of which it is known already whether it is a value.
  void take(Result& other) {
    if (ok_)
      new (&value_) T(std::move(other.value_));
    else
      new (&error_) Error(std::move(other.error_));
  }
  void forget() {
    if (ok_)
      value_.~T();
    else
      error_.~Error();
  }

  union {
    T value_;
    Error error_;
  };
  bool ok_;
};

// Success that carries nothing, or an Error.
struct Done {};
using Status = Result<Done>;

}  // namespace lumvet

// Evaluates an expression that gives a Result; on error returns it from the calling function,
// otherwise the value initializes `declaration`.
#define LUMVET_TRY(declaration, expression) \
  LUMVET_TRY_NAMED(declaration, expression, LUMVET_JOIN(lumvet_try_, __LINE__))
#define LUMVET_TRY_NAMED(declaration, expression, name) \
  auto name = (expression);                             \
  if (!name.ok()) return std::move(name).error();       \
  declaration = *std::move(name)
#define LUMVET_JOIN(a, b) LUMVET_JOIN_NOW(a, b)
#define LUMVET_JOIN_NOW(a, b) a##b

// The same for a Status, whose value is not wanted.
#define LUMVET_RETURN_IF_ERROR(expression)                      \
  do {                                                          \
    if (auto lumvet_status = (expression); !lumvet_status.ok()) \
      return std::move(lumvet_status).error();                  \
  } while (false)

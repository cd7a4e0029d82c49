// SPDX-License-Identifier: Apache-2.0
// A value or the reason why there is none.
//
//   Result<Document> opened = Document::open("report.pdf");
//   if (!opened) return complain(opened.error());
//   opened->page_count();
//
// Threads: as its value.
#pragma once

#include <stdexcept>
#include <utility>
#include <variant>

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

template <typename T>
class [[nodiscard]] Result {
 public:
  Result(T value) : state_(std::in_place_index<0>, std::move(value)) {}
  Result(Error error) : state_(std::in_place_index<1>, std::move(error)) {}

  bool ok() const { return state_.index() == 0; }
  explicit operator bool() const { return ok(); }

  // The value; throws ResultError when there is none.
  T& value() & {
    require();
    return *std::get_if<0>(&state_);
  }
  const T& value() const& {
    require();
    return *std::get_if<0>(&state_);
  }
  T&& value() && {
    require();
    return std::move(*std::get_if<0>(&state_));
  }

  // Only after ok().
  T& operator*() & { return *std::get_if<0>(&state_); }
  const T& operator*() const& { return *std::get_if<0>(&state_); }
  T&& operator*() && { return std::move(*std::get_if<0>(&state_)); }
  T* operator->() { return std::get_if<0>(&state_); }
  const T* operator->() const { return std::get_if<0>(&state_); }

  // Only after !ok().
  const Error& error() const& { return *std::get_if<1>(&state_); }
  Error&& error() && { return std::move(*std::get_if<1>(&state_)); }

 private:
  void require() const {
    if (!ok()) throw ResultError(error());
  }

  std::variant<T, Error> state_;
};

// Success that carries nothing, or an Error.
struct Done {};
using Status = Result<Done>;

}  // namespace lumvet

// Evaluates an expression that gives a Result; on error returns it from the calling function,
// otherwise the value initialises `declaration`.
#define LUMVET_TRY(declaration, expression) \
  LUMVET_TRY_NAMED(declaration, expression, LUMVET_JOIN(lumvet_try_, __LINE__))
#define LUMVET_TRY_NAMED(declaration, expression, name) \
  auto name = (expression);                             \
  if (!name.ok()) return std::move(name).error();       \
  declaration = *std::move(name)
#define LUMVET_JOIN(a, b) LUMVET_JOIN_NOW(a, b)
#define LUMVET_JOIN_NOW(a, b) a##b

// The same for a Status, whose value is not wanted.
#define LUMVET_CHECK(expression)                                \
  do {                                                          \
    if (auto lumvet_status = (expression); !lumvet_status.ok()) \
      return std::move(lumvet_status).error();                  \
  } while (false)

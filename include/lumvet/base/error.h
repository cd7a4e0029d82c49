// SPDX-License-Identifier: Apache-2.0
// What went wrong, where, and what to do about it.
//
//   return Error(ErrorCode::malformed, "LZW code beyond table").at_offset(position);
//
// Callers branch on code(), people read to_string().
// Threads: a value; const methods may run concurrently.
#pragma once

#include <compare>
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <utility>

#include "lumvet/base/export.h"

namespace lumvet {

// The number by which an indirect object is named (ISO 32000-2, 7.3.10).
struct ObjectId {
  std::uint32_t number = 0;
  std::uint16_t generation = 0;

  auto operator<=>(const ObjectId&) const = default;
};

enum class ErrorCode {
  io,                // the operating system refused; may be retried
  need_more_data,    // not a failure: fetch the bytes and call again
  invalid_argument,  // the caller asked for something that cannot be
  malformed,         // the file breaks the standard beyond what can be tolerated
  unsupported,       // the file asks for something not built yet
  limit,             // a bound of Limits was met
  password,          // the document is encrypted and no fitting password was given
  exists,            // the output is already there and replacing it was not asked for
  cancelled,         // the caller's CancelToken was set
};

// The word for a code, as printed in messages: "malformed".
LUMVET_EXPORT std::string_view name_of(ErrorCode code);

class LUMVET_EXPORT Error {
 public:
  Error(ErrorCode code, std::string message);
  Error(const Error& other);
  Error(Error&& other) noexcept
      : code_(other.code_), account_(std::exchange(other.account_, nullptr)) {}
  Error& operator=(Error other) noexcept {
    code_ = other.code_;
    std::swap(account_, other.account_);
    return *this;
  }
  ~Error() {
    if (account_ != nullptr) forget();
  }

  // Places: the first one given, the innermost, is kept.
  Error& at_offset(std::uint64_t offset) &;
  Error&& at_offset(std::uint64_t offset) &&;
  Error& in_object(ObjectId id) &;
  Error&& in_object(ObjectId id) &&;
  // The file or thing that it is about, which stands first, unless the message names it: "a.pdf".
  // The first one given is kept.
  Error& about(const std::string& thing) &;
  Error&& about(const std::string& thing) &&;
  // What was being done, as a person would say it: "reading page 3". Outer steps are added after.
  Error& during(std::string step) &;
  Error&& during(std::string step) &&;

  ErrorCode code() const { return code_; }
  // With what it is about in front: "a.pdf: not a PDF document". Empty once it was moved from.
  const std::string& message() const;
  std::optional<std::uint64_t> offset() const;
  std::optional<ObjectId> object() const;

  // "malformed: a.pdf: LZW code beyond table (offset 81234, object 12 0 R, while reading page 3)"
  std::string to_string() const;

 private:
  // Apart, so that results are small, and what returns one has little to do where all goes well.
  struct Account;
  const Account& account() const;
  Account& account();
  void forget();

  ErrorCode code_;
  Account* account_;  // owned; null once it was moved from
};

}  // namespace lumvet

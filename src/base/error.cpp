// SPDX-License-Identifier: Apache-2.0
#include "lumvet/base/error.h"

#include <vector>

#include "lumvet/base/result.h"

namespace lumvet {

std::string_view name_of(ErrorCode code) {
  switch (code) {
    case ErrorCode::io: return "input/output";
    case ErrorCode::need_more_data: return "need more data";
    case ErrorCode::invalid_argument: return "invalid argument";
    case ErrorCode::malformed: return "malformed";
    case ErrorCode::unsupported: return "unsupported";
    case ErrorCode::limit: return "limit";
    case ErrorCode::password: return "password";
    case ErrorCode::exists: return "exists";
    case ErrorCode::cancelled: return "cancelled";
  }
  return "unknown";
}

struct Error::Account {
  std::string message;
  std::optional<std::uint64_t> offset = {};
  std::optional<ObjectId> object = {};
  bool has_subject = false;
  std::vector<std::string> steps = {};
};

Error::Error(ErrorCode code, std::string message)
    : code_(code), account_(new Account{std::move(message)}) {}
Error::Error(const Error& other)
    : code_(other.code_),
      account_(other.account_ != nullptr ? new Account(*other.account_) : nullptr) {}

void Error::forget() { delete account_; }

const Error::Account& Error::account() const {
  static const Account kNone;
  return account_ != nullptr ? *account_ : kNone;
}
Error::Account& Error::account() {
  if (account_ == nullptr) account_ = new Account;
  return *account_;
}

const std::string& Error::message() const { return account().message; }
std::optional<std::uint64_t> Error::offset() const { return account().offset; }
std::optional<ObjectId> Error::object() const { return account().object; }

Error& Error::at_offset(std::uint64_t offset) & {
  if (!account().offset) account().offset = offset;
  return *this;
}

Error&& Error::at_offset(std::uint64_t offset) && { return std::move(at_offset(offset)); }

Error& Error::in_object(ObjectId id) & {
  if (!account().object) account().object = id;
  return *this;
}

Error&& Error::in_object(ObjectId id) && { return std::move(in_object(id)); }

Error& Error::about(const std::string& thing) & {
  Account& told = account();
  if (std::exchange(told.has_subject, true) || thing.empty()) return *this;
  if (told.message.find(thing) == std::string::npos) told.message = thing + ": " + told.message;
  return *this;
}

Error&& Error::about(const std::string& thing) && { return std::move(about(thing)); }

Error& Error::during(std::string step) & {
  account().steps.push_back(std::move(step));
  return *this;
}

Error&& Error::during(std::string step) && { return std::move(during(std::move(step))); }

std::string Error::to_string() const {
  std::string text = std::string(name_of(code_)) + ": " + message();
  std::string place;
  const auto add = [&place](const std::string& part) {
    if (!place.empty()) place += ", ";
    place += part;
  };
  if (const auto at = offset()) add("offset " + std::to_string(*at));
  if (const auto id = object())
    add("object " + std::to_string(id->number) + " " + std::to_string(id->generation) + " R");
  for (const std::string& step : account().steps) add("while " + step);
  if (!place.empty()) text += " (" + place + ")";
  return text;
}

namespace results {

void fail(const Error& error) { throw ResultError(error); }

const Error& no_error() {
  static const Error kNone(ErrorCode::invalid_argument, "the call succeeded; there is no error");
  return kNone;
}

}  // namespace results
}  // namespace lumvet

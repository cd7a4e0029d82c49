// SPDX-License-Identifier: Apache-2.0
#include "lumvet/base/error.h"

#include <utility>

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

Error::Error(ErrorCode code, std::string message) : code_(code), message_(std::move(message)) {}

Error& Error::at_offset(std::uint64_t offset) & {
  if (!offset_) offset_ = offset;
  return *this;
}

Error&& Error::at_offset(std::uint64_t offset) && { return std::move(at_offset(offset)); }

Error& Error::in_object(ObjectId id) & {
  if (!object_) object_ = id;
  return *this;
}

Error&& Error::in_object(ObjectId id) && { return std::move(in_object(id)); }

Error& Error::about(const std::string& thing) & {
  if (std::exchange(has_subject_, true) || thing.empty()) return *this;
  if (message_.find(thing) == std::string::npos) message_ = thing + ": " + message_;
  return *this;
}

Error&& Error::about(const std::string& thing) && { return std::move(about(thing)); }

Error& Error::during(std::string step) & {
  steps_.push_back(std::move(step));
  return *this;
}

Error&& Error::during(std::string step) && { return std::move(during(std::move(step))); }

std::string Error::to_string() const {
  std::string text = std::string(name_of(code_)) + ": " + message_;
  std::string place;
  const auto add = [&place](const std::string& part) {
    if (!place.empty()) place += ", ";
    place += part;
  };
  if (offset_) add("offset " + std::to_string(*offset_));
  if (object_)
    add("object " + std::to_string(object_->number) + " " + std::to_string(object_->generation) +
        " R");
  for (const std::string& step : steps_) add("while " + step);
  if (!place.empty()) text += " (" + place + ")";
  return text;
}

}  // namespace lumvet

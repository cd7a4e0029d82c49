// SPDX-License-Identifier: Apache-2.0
#include "security/password.h"

#include <unicode/usprep.h>
#include <unicode/ustring.h>

#include <memory>
#include <optional>

#include "objects/text_string.h"

namespace lumvet::security {
namespace {

// SASLprep (RFC 4013); nothing when the password holds what it forbids.
std::optional<std::string> sasl_prepared(std::string_view utf8) {
  UErrorCode status = U_ZERO_ERROR;
  const std::unique_ptr<UStringPrepProfile, void (*)(UStringPrepProfile*)> profile(
      usprep_openByType(USPREP_RFC4013_SASLPREP, &status), usprep_close);
  if (U_FAILURE(status)) return std::nullopt;
  const auto size = static_cast<std::int32_t>(utf8.size());
  std::u16string text(utf8.size() + 1, u'\0');
  std::int32_t length = 0;
  u_strFromUTF8(text.data(), static_cast<std::int32_t>(text.size()), &length, utf8.data(), size,
                &status);
  if (U_FAILURE(status)) return std::nullopt;
  // Compatibility normalization makes one code unit at most 18.
  std::u16string prepared(static_cast<std::size_t>(length) * 18 + 1, u'\0');
  UParseError where;
  const std::int32_t made =
      usprep_prepare(profile.get(), text.data(), length, prepared.data(),
                     static_cast<std::int32_t>(prepared.size()), USPREP_DEFAULT, &where, &status);
  if (U_FAILURE(status)) return std::nullopt;
  std::string out(static_cast<std::size_t>(made) * 3 + 1, '\0');
  std::int32_t written = 0;
  u_strToUTF8(out.data(), static_cast<std::int32_t>(out.size()), &written, prepared.data(), made,
              &status);
  if (U_FAILURE(status)) return std::nullopt;
  out.resize(static_cast<std::size_t>(written));
  return out;
}

}  // namespace

std::vector<std::string> password_forms(std::string_view utf8, int revision) {
  constexpr std::size_t kLongest = 127;  // bytes that revisions 5 and 6 look at
  std::vector<std::string> forms;
  const auto add = [&](std::string form) {
    if (revision >= 5 && form.size() > kLongest) form.resize(kLongest);
    if (forms.empty() || forms.back() != form) forms.push_back(std::move(form));
  };
  // Nobody's password is longer, and preparing one costs in proportion.
  constexpr std::size_t kSane = 4096;
  const std::string_view typed = utf8.substr(0, kSane);
  if (revision >= 5) {
    if (auto prepared = sasl_prepared(typed)) add(*std::move(prepared));
  } else if (std::string encoded = objects::utf8_to_text(typed); !encoded.starts_with("\xFE\xFF")) {
    add(std::move(encoded));
  }
  add(std::string(typed));
  return forms;
}

}  // namespace lumvet::security

// SPDX-License-Identifier: Apache-2.0
#include "lumvet/text/text_pattern.h"

#include <unicode/uregex.h>

#include "objects/text_string.h"

namespace lumvet {
namespace {

struct Close {
  void operator()(URegularExpression* expression) const { uregex_close(expression); }
};
using ExpressionPtr = std::unique_ptr<URegularExpression, Close>;

// Lines end anywhere in a page's text.
std::string with_any_white(std::string_view pattern) {
  std::string text;
  for (std::size_t i = 0; i < pattern.size(); ++i) {
    if (pattern[i] == '\\' && i + 1 < pattern.size()) {
      text += pattern[i++];
      text += pattern[i];
    } else if (pattern[i] == ' ') {
      if (!text.ends_with("\\s+")) text += "\\s+";
    } else {
      text += pattern[i];
    }
  }
  return text;
}

}  // namespace

struct TextPattern::Impl {
  ExpressionPtr expression;
};

Result<TextPattern> TextPattern::parse(std::string_view pattern, Case letters) {
  const std::u16string text = objects::utf8_to_utf16(with_any_white(pattern));
  UParseError place{};
  UErrorCode failed = U_ZERO_ERROR;
  auto impl = std::make_shared<Impl>();
  std::uint32_t flags = UREGEX_MULTILINE;
  if (letters == Case::ignored) flags |= UREGEX_CASE_INSENSITIVE;
  impl->expression.reset(
      uregex_open(text.data(), static_cast<int32_t>(text.size()), flags, &place, &failed));
  if (pattern.empty() || U_FAILURE(failed))
    return Error(ErrorCode::invalid_argument,
                 "'" + std::string(pattern) +
                     "' is not a regular expression: something is wrong "
                     "at its character " +
                     std::to_string(place.offset + 1));
  return TextPattern(std::move(impl));
}

Result<bool> TextPattern::is_in(std::string_view text) const {
  // About milliseconds, by which expressions that would run for years are ended.
  constexpr int32_t kMostSteps = 2000;
  const std::u16string wide = objects::utf8_to_utf16(text);
  UErrorCode failed = U_ZERO_ERROR;
  const ExpressionPtr own(uregex_clone(impl_->expression.get(), &failed));
  uregex_setTimeLimit(own.get(), kMostSteps, &failed);
  uregex_setText(own.get(), wide.data(), static_cast<int32_t>(wide.size()), &failed);
  const bool found = uregex_find(own.get(), -1, &failed) != 0;
  if (U_FAILURE(failed))
    return Error(ErrorCode::limit,
                 "the regular expression takes too long on this text; make it simpler");
  return found;
}

}  // namespace lumvet

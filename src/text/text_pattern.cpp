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

  // Calls take(begin, end), in units, with each match until it answers false. Errors: limit.
  template <typename Take>
  Status visit(const std::u16string& text, const Take& take) const {
    // About milliseconds, by which expressions that would run for years are ended.
    constexpr int32_t kMostSteps = 2000;
    UErrorCode failed = U_ZERO_ERROR;
    const ExpressionPtr own(uregex_clone(expression.get(), &failed));
    uregex_setTimeLimit(own.get(), kMostSteps, &failed);
    uregex_setText(own.get(), text.data(), static_cast<int32_t>(text.size()), &failed);
    while (uregex_findNext(own.get(), &failed) != 0 && U_SUCCESS(failed))
      if (!take(uregex_start(own.get(), 0, &failed), uregex_end(own.get(), 0, &failed))) break;
    if (U_FAILURE(failed))
      return Error(ErrorCode::limit,
                   "the regular expression takes too long on this text; make it simpler");
    return Done{};
  }
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
  bool is_found = false;
  LUMVET_RETURN_IF_ERROR(impl_->visit(objects::utf8_to_utf16(text), [&](int32_t, int32_t) {
    is_found = true;
    return false;
  }));
  return is_found;
}

Result<std::vector<TextSpan>> TextPattern::all_in(std::string_view text) const {
  std::vector<TextSpan> hits;
  const std::u16string wide = objects::utf8_to_utf16(text);
  // Where the units that were counted so far end in bytes.
  int32_t units = 0;
  std::size_t bytes = 0;
  const auto byte_at = [&](int32_t unit) {
    constexpr char32_t kHigher = 0x10000;  // takes two units
    while (units < unit && bytes < text.size())
      units += objects::next_code_point(text, bytes) < kHigher ? 1 : 2;
    return bytes;
  };
  LUMVET_RETURN_IF_ERROR(impl_->visit(wide, [&](int32_t begin, int32_t end) {
    if (begin == end) return true;
    const std::size_t first = byte_at(begin);
    hits.push_back({first, byte_at(end)});
    return true;
  }));
  return hits;
}

}  // namespace lumvet

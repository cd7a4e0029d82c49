// SPDX-License-Identifier: Apache-2.0
// What is looked for in texts: a regular expression as Unicode describes them (UTS #18).
//
//   const auto pattern = lumvet::TextPattern::parse("bill no\\. [0-9]+").value();
//   pattern.is_in(lumvet::text_of(page).value());
//
// Copies share it. Threads: immutable, share freely. Since: 0.2
#pragma once

#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include "lumvet/base/export.h"
#include "lumvet/base/result.h"
#include "lumvet/text/text_span.h"

namespace lumvet {

class LUMVET_EXPORT TextPattern {
 public:
  enum class Case { ignored, counts };

  // A blank in it stands for one or more of any white space; ^ and $ are where lines begin and end.
  // Errors: invalid_argument, with the place in it.
  static Result<TextPattern> parse(std::string_view pattern, Case letters = Case::ignored);

  // Errors here and below: limit, when the expression takes too long.
  Result<bool> is_in(std::string_view text) const;
  // Where it is, in the order of the text; matches of nothing are passed over.
  Result<std::vector<TextSpan>> all_in(std::string_view text) const;

 private:
  struct Impl;
  explicit TextPattern(std::shared_ptr<const Impl> impl) : impl_(std::move(impl)) {}

  std::shared_ptr<const Impl> impl_;
};

}  // namespace lumvet

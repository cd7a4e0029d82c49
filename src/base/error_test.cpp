// SPDX-License-Identifier: Apache-2.0
#include "base/budget.h"
#include "base/findings_list.h"
#include "lumvet/base/result.h"
#include "tests/support/catch.h"

using namespace lumvet;

TEST_CASE("an error keeps the innermost place and lists the steps outward", "[base]") {
  const Error error = Error(ErrorCode::malformed, "LZW code beyond table")
                          .at_offset(81234)
                          .at_offset(1)
                          .in_object({12, 0})
                          .in_object({1, 0})
                          .during("reading page 3")
                          .about("a.pdf");
  CHECK(error.to_string() ==
        "malformed: a.pdf: LZW code beyond table (offset 81234, object 12 0 R, while reading page "
        "3)");
}

TEST_CASE("every error code has a word of its own", "[base]") {
  std::set<std::string_view> words;
  for (int code = 0; code <= static_cast<int>(ErrorCode::cancelled); ++code)
    words.insert(name_of(static_cast<ErrorCode>(code)));
  CHECK(words.size() == static_cast<std::size_t>(ErrorCode::cancelled) + 1);
  CHECK_FALSE(words.contains("unknown"));
}

TEST_CASE("a result without a value throws the error that says why", "[base]") {
  const Result<int> result = Error(ErrorCode::io, "the disk is gone");
  REQUIRE_FALSE(result.ok());
  CHECK_THROWS_AS(result.value(), ResultError);
  CHECK_THROWS_WITH(result.value(), Catch::Contains("the disk is gone"));
}

TEST_CASE("a result is assigned a value over an error and an error over a value", "[base]") {
  const auto word = std::make_shared<const std::string>("kept");
  Result<std::shared_ptr<const std::string>> result = word;
  auto other = result;
  CHECK(word.use_count() == 3);
  result = Error(ErrorCode::io, "gone").at_offset(7).about("a.pdf");
  CHECK(word.use_count() == 2);
  const auto copy = result;
  result = std::move(other);
  CHECK(word.use_count() == 2);
  CHECK(*result == word);
  CHECK(copy.error().to_string() == "input/output: a.pdf: gone (offset 7)");
  // What was moved from says nothing, and is asked all the same.
  Error error(ErrorCode::limit, "too much");
  const Error taken = std::move(error);
  CHECK(taken.message() == "too much");
  CHECK(error.message().empty());
  CHECK(error.code() == ErrorCode::limit);
  error = taken;
  CHECK(error.to_string() == taken.to_string());
}

TEST_CASE("the same finding is kept once, and beyond the most kept they are counted", "[base]") {
  Findings findings;
  for (int i = 0; i < 3; ++i) findings.add({"twice", 7, {}});
  CHECK(findings.list().size() == 1);
  for (std::size_t i = 0; i < Findings::kMostKept + 5; ++i) findings.add({"number", i, {}});
  CHECK(findings.list().size() == Findings::kMostKept);
  CHECK(findings.not_kept() == 6);
}

TEST_CASE("a budget answers with a limit once it is spent, and depth comes back", "[base]") {
  Budget budget(Limits{.nesting = 1, .decoded_bytes = 100, .operators = 2});
  CHECK(budget.spend_decoded(60).ok());
  CHECK(budget.spend_decoded(41).error().code() == ErrorCode::limit);
  CHECK(budget.decoded_left() == 40);
  CHECK(budget.spend_operator().ok());
  CHECK(budget.spend_operator().ok());
  CHECK(budget.spend_operator().error().code() == ErrorCode::limit);
  const Budget::Depth first(budget);
  CHECK(first.ok());
  {
    const Budget::Depth second(budget);
    CHECK_FALSE(second.ok());
  }
  CHECK(first.ok());
}

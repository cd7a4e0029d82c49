// SPDX-License-Identifier: Apache-2.0
#include "color/calculator.h"

#include "tests/support/catch.h"

using namespace lumvet;
using color::Calculator;

namespace {

Result<Calculator> compile(const std::string& source) {
  return Calculator::compile(as_bytes(source), 20);
}

// What is on the stack at the end; "fails" when the program does.
std::string run(const std::string& source, const std::vector<double>& inputs = {}) {
  const auto outputs = compile(source).value().run(inputs);
  if (!outputs) return "fails";
  std::string text;
  for (const double output : *outputs) {
    char digits[32];
    std::snprintf(digits, sizeof digits, "%.6g ", output);
    text += digits;
  }
  return text;
}

}  // namespace

TEST_CASE("every operator of calculator functions does what the standard says", "[color]") {
  // ISO 32000-2, table 42; the examples are those of the language the operators come from.
  const auto [program, expected] = GENERATE(table<std::string, std::string>({
      {"-4.5 abs 3 abs", "4.5 3 "},
      {"3 4 add 9.9 1.1 add", "7 11 "},
      {"8.3 6.6 sub", "1.7 "},
      {"3 4 mul", "12 "},
      {"3 2 div 4 2 div", "1.5 2 "},
      {"3 2 idiv -5 2 idiv", "1 -2 "},
      {"5 3 mod -5 3 mod", "2 -2 "},
      {"4.5 neg -3 neg", "-4.5 3 "},
      {"3.2 ceiling -4.8 ceiling 99 ceiling", "4 -4 99 "},
      {"3.2 floor -4.8 floor", "3 -5 "},
      {"3.2 round 6.5 round -4.8 round -6.5 round", "3 7 -5 -6 "},
      {"3.2 truncate -4.8 truncate", "3 -4 "},
      {"9 sqrt 30 sin 60 cos", "3 0.5 0.5 "},
      {"0 1 atan 1 0 atan -100 0 atan 4 4 atan", "0 90 270 45 "},
      {"9 0.5 exp -9 -1 exp", "3 -0.111111 "},
      {"10 ln 100 log", "2.30259 2 "},
      {"-47.8 cvi 520.9 cvi 3 cvr", "-47 520 3 "},
      {"99 1 and 52 7 and true false and", "1 4 0 "},
      {"17 5 or true false or", "21 1 "},
      {"7 3 xor true true xor", "4 0 "},
      {"52 not true not", "-53 0 "},
      {"7 3 bitshift 142 -3 bitshift 1 40 bitshift", "56 17 0 "},
      {"4.0 4 eq 4 5 ne 4.2 4 gt 4 4 ge 4 4 lt 4 4 le", "1 1 1 1 0 1 "},
      {"1 2 3 pop exch", "2 1 "},
      {"7 dup", "7 7 "},
      {"1 2 3 2 copy", "1 2 3 2 3 "},
      {"1 2 3 0 index 3 index", "1 2 3 3 1 "},
      {"1 2 3 3 -1 roll", "2 3 1 "},
      {"1 2 3 3 1 roll", "3 1 2 "},
      {"1 2 3 3 0 roll 0 5 roll", "1 2 3 "},
      {"true {1} if false {2} if", "1 "},
      {"1 2 lt {10} {20} ifelse", "10 "},
      {"false {1} {true {2 {3} pop} {4} ifelse} ifelse", "compile"},
      {"false {1} {true {2} {4} ifelse} ifelse 5", "2 5 "},
  }));
  CAPTURE(program);
  if (expected == "compile")
    CHECK_FALSE(compile("{" + program + "}").ok());
  else
    CHECK(run("{ " + program + "}") == expected);
}

TEST_CASE("inputs are on the stack, the first at the bottom", "[color]") {
  CHECK(run("{360 mul sin 2 div exch 360 mul sin 2 div add}", {0.25, 0.25}) == "1 ");
  CHECK(run("{}", {1, 2}) == "1 2 ");
}

TEST_CASE("programs that cannot go on fail, and no others", "[color]") {
  for (const char* program :
       {"{pop}", "{1 0 div}", "{1 0 idiv}", "{1 0 mod}", "{-1 sqrt}", "{0 ln}", "{1.5 2 idiv}",
        "{1 true and}", "{1.5 not}", "{true 1 add}", "{1 {2} if}", "{1 5 copy}", "{1 -1 copy}",
        "{1 1 index}", "{1 2 5 1 roll}", "{1 2 2 1.5 roll}", "{exch}", "{dup}"}) {
    CAPTURE(program);
    CHECK(run(program) == "fails");
  }
  std::string deep = "{";
  for (int i = 0; i < 101; ++i) deep += "1 ";
  CHECK(run(deep + "}") == "fails");
}

TEST_CASE("what is no program is refused", "[color]") {
  for (const char* source :
       {"", "1", "{", "{1", "{ {1} }", "{true {1}", "{true {1} {2}}", "{true {1} {2} if}", "{/a}",
        "{(a)}", "{launch}", "{[1]}", "{1 2 ifelse}"}) {
    CAPTURE(source);
    CHECK_FALSE(compile(source).ok());
  }
  std::string nested;
  for (int i = 0; i < 1000; ++i) nested += "{ true ";
  CHECK(compile(nested).error().code() == ErrorCode::limit);
}

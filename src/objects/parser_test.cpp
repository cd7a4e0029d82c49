// SPDX-License-Identifier: Apache-2.0
#include <cmath>
#include <random>

#include "objects/parser.h"
#include "objects/serializer.h"
#include "objects/standing.h"
#include "tests/support/catch.h"

using namespace lumvet;
using objects::Parser;
using objects::References;

namespace {

Result<Object> parse(std::string_view text, int nesting = 100) {
  return Parser(as_bytes(text), 0, References::allowed, nesting).value();
}

std::string written(const Object& object) {
  std::string out;
  objects::serialize(object, out);
  return out;
}

}  // namespace

TEST_CASE("an object is of one kind", "[objects]") {
  const Object yes = parse("true").value();
  CHECK((yes.is_bool() && yes.as_bool() && !yes.is_null() && !yes.is_name()));
  CHECK_FALSE(parse("/true")->is_bool());
  CHECK_FALSE(parse("null")->is_bool());
  // Asked as another kind, it has that kind's empty value.
  CHECK((yes.as_integer() == 0 && yes.as_string().empty() && yes.as_array().empty()));
}

TEST_CASE("objects are read in every form the standard allows, and written in the shortest",
          "[objects]") {
  const auto [text, expected] = GENERATE(table<std::string, std::string>({
      {"null", "null"},
      {"true", "true"},
      {"+17", "17"},
      {"-.002", "-0.002"},
      {"4.", "4"},
      {"--5", "-5"},  // seen in real files
      {"123456789012345678901", "123456789012345683968"},
      {"/A#42C#20d", "/ABC#20d"},
      {"/", "/"},
      {"(a(b)c)", "(a\\(b\\)c)"},
      {"(\\101\\7\\\r\n\\q)", "<410771>"},
      {"(one\r\ntwo)", "(one\ntwo)"},
      {"<48 6 5 6C6c6F7>", "(Hellop)"},
      {"[1 2 R 3 0 R]", "[1 2 R 3 0 R]"},
      {"[/a/b(c)1 2.50 true null 12 0 R]", "[/a/b(c)1 2.5 true null 12 0 R]"},
      {"<</B 1/A<</C[]>>/B 2>>", "<</A<</C[]>>/B 2>>"},
      {"<</A %comment >>\n 12 % more\r 0 R>>", "<</A 12 0 R>>"},
      {"<</A null/B/C>>", "<</B/C>>"},
      {"<</A /B /C>>", "<</A/B>>"},  // a key without a value
  }));
  CAPTURE(text);
  const auto object = parse(text);
  REQUIRE(object.ok());
  CHECK(written(*object) == expected);
}

TEST_CASE("numbers read by the short way are those of the long one", "[objects]") {
  std::mt19937 random(5);
  const auto digits = [&](int most) {
    std::string text;
    for (int i = static_cast<int>(random() % static_cast<unsigned>(most + 1)); i > 0; --i)
      text += static_cast<char>('0' + random() % 10);
    return text;
  };
  for (int i = 0; i < 20'000; ++i) {
    const std::string whole = digits(i % 4 == 0 ? 17 : 5);
    const std::string text = whole + (i % 2 == 0 ? "." + digits(i % 8 == 0 ? 14 : 5) : "");
    if (text.empty() || text == ".") continue;
    INFO(text);
    // Two signs are read the long way.
    CHECK(*parse("-" + text) == *parse("+-" + text));
    CHECK(*parse(text) == *parse("+" + text));
    CHECK(parse(text)->as_number() == std::strtod(text.c_str(), nullptr));
  }
}

TEST_CASE("numbers and references are told apart, however they are set apart", "[objects]") {
  const auto [text, expected] = GENERATE(table<std::string, std::string>({
      {"[12 0 R]", "[12 0 R]"},
      {"[12 0 R 7 3 R 5]", "[12 0 R 7 3 R 5]"},
      {"[12 65535 R]", "[12 65535 R]"},
      {"[12 65536 4]", "[12 65536 4]"},
      {"[0 0 612 792]", "[0 0 612 792]"},
      {"[1 2 3 0 R]", "[1 2 3 0 R]"},
      {"[-1 0 1 0.5]", "[-1 0 1 0.5]"},
      {"[1.5 0 0]", "[1.5 0 0]"},
      {"<</A 12 0 R/B 3 /C /D /E 0 /F 1 0 R >>", "<</A 12 0 R/B 3/C/D/E 0/F 1 0 R>>"},
      {"<</A 1 /B [2 0 R] /A#42 /C#44 >>", "<</A 1/AB/CD/B[2 0 R]>>"},
  }));
  // Spaces, line ends and comments set words apart alike; only the plainest are read quickly.
  for (const std::string between : {" ", "\r\n", "  \t", "%12 0 R\n", " % x\r", "\f%\n%\n"}) {
    std::string set_apart;
    for (const char c : text) set_apart += c == ' ' ? between : std::string(1, c);
    CAPTURE(set_apart);
    const auto object = parse(set_apart);
    REQUIRE(object.ok());
    CHECK(written(*object) == expected);
  }
  CHECK(written(*parse("[12 0 R/A]")) == "[12 0 R/A]");
  CHECK(written(*parse("[12 0 R[]]")) == "[12 0 R[]]");
}

TEST_CASE("damaged objects are errors with their offset", "[objects]") {
  const auto [text, offset] = GENERATE(table<std::string, std::uint64_t>({{"[1 2", 0},
                                                                          {"<</A 1", 0},
                                                                          {" (abc", 1},
                                                                          {"<</A 1 2>>", 7},
                                                                          {"<48g5>", 3},
                                                                          {"[1 foo]", 3},
                                                                          {"]", 0},
                                                                          {")", 0}}));
  CAPTURE(text);
  const auto object = parse(text);
  REQUIRE_FALSE(object.ok());
  CHECK(object.error().code() == ErrorCode::malformed);
  CHECK(object.error().offset() == offset);
}

TEST_CASE("nesting beyond the limit is an error, not a crash", "[objects]") {
  CHECK(parse(std::string(50, '[') + std::string(50, ']'), 50).ok());
  CHECK(parse(std::string(51, '[') + std::string(51, ']'), 50).error().code() == ErrorCode::limit);
  CHECK(parse(std::string(100'000, '['), 50).error().code() == ErrorCode::limit);
}

TEST_CASE("what is written reads back as the same value", "[objects]") {
  std::mt19937 random(7);
  const auto pick = [&](int below) {
    return static_cast<int>(random() % static_cast<unsigned>(below));
  };
  const std::function<Object(int)> make = [&](int depth) -> Object {
    switch (pick(depth > 0 ? 8 : 6)) {
      case 0: return Object(pick(2) == 0);
      case 1: return Object(static_cast<std::int64_t>(random()) - 2'000'000'000);
      case 2: return Object(std::ldexp(static_cast<double>(random()) - 2e9, pick(40) - 30) + 0.125);
      case 3: {
        std::string bytes;
        for (int i = pick(12); i > 0; --i) bytes += static_cast<char>(pick(256));
        return Object::string(bytes);
      }
      case 4: {
        std::string text;
        for (int i = pick(9); i > 0; --i) text += static_cast<char>(1 + pick(255));
        return Object::name(text);
      }
      case 5:
        return ObjectId{static_cast<std::uint32_t>(pick(90'000)),
                        static_cast<std::uint16_t>(pick(9))};
      case 6: {
        Array items;
        for (int i = pick(6); i > 0; --i) items.push_back(make(depth - 1));
        return items;
      }
      default: {
        Dict dict;
        for (int i = pick(6); i > 0; --i) dict.set("K" + std::to_string(pick(99)), make(depth - 1));
        return dict;
      }
    }
  };
  for (int i = 0; i < 2000; ++i) {
    const Object object = make(4);
    const std::string text = written(object);
    CAPTURE(text);
    const auto back = parse(text);
    REQUIRE(back.ok());
    // A real that is whole is written as an integer, so compare what is written.
    REQUIRE(written(*back) == text);
  }
}

TEST_CASE("a dictionary reads what is missing as null and forgets what is set to null",
          "[objects]") {
  Dict dict{{"B", 2}, {"A", 1}, {"B", 3}};
  CHECK(dict.size() == 2);
  CHECK(dict["B"].as_integer() == 3);
  CHECK(dict["C"].is_null());
  dict.set("A", Object());
  CHECK_FALSE(dict.contains("A"));
}

TEST_CASE("keys are found in small and large dictionaries", "[objects]") {
  Dict dict;
  for (int i = 0; i < 100; ++i) {
    dict.set("Key" + std::to_string(i * 7 % 100), i * 7 % 100);
    for (const int asked : {0, 7 * i % 100, 99})
      CHECK(dict["Key" + std::to_string(asked)].as_integer(-1) ==
            (asked == 99 && i < 57 ? -1 : asked));
    CHECK(dict["Key"].is_null());
  }
}

TEST_CASE("objects of every kind are copied, given away and replaced by each other", "[objects]") {
  const auto kinds = [] {
    return std::vector<Object>{Object(),
                               Object(true),
                               Object(7),
                               Object(2.5),
                               Object(ObjectId{12, 3}),
                               Object::name("Name"),
                               Object::string(std::string(40, 'x')),
                               Object(Array{Object(1)}),
                               Object(Dict{{"A", 1}}),
                               Object(Stream::of({{"B", 2}}, Bytes(3)))};
  };
  const std::vector<Object> all = kinds();
  for (const Object& first : all)
    for (const Object& second : all) {
      Object object = first;
      object = second;
      CHECK(object == second);
      Object taken = std::move(object);
      CHECK(taken == second);
      CHECK(object.is_null());
      object = first;
      std::swap(object, taken);
      CHECK((object == second && taken == first));
    }
  for (std::size_t i = 0; i < all.size(); ++i)
    for (std::size_t k = 0; k < all.size(); ++k) CHECK((all[i] == all[k]) == (i == k));
}

TEST_CASE("accessors give their stand-in for other kinds", "[objects]") {
  const Object text = Object::string("x");
  CHECK(text.as_integer(5) == 5);
  CHECK(text.as_dict().is_empty());
  CHECK(text.as_array().empty());
  CHECK(text.as_stream() == nullptr);
  CHECK(Object(2.9).as_integer() == 2);
  CHECK(Object(1e300).as_integer(-1) == -1);
}

TEST_CASE("what stands alone holds what it referred to, and ends where references go round",
          "[objects]") {
  struct File : objects::Resolver {
    Object resolve(const Object& object) const override {
      if (object.as_reference().number == 1) return Array{ObjectId{2, 0}, 7};
      if (object.as_reference().number == 2)
        return Stream::of({{"OC", 5}, {"Up", ObjectId{1, 0}}}, {1, 2});
      return object;
    }
  };
  const Object alone = objects::standing_alone(File(), ObjectId{1, 0}, 6);
  CHECK(written(alone.as_array()[0].as_dict()["Up"]) == "[<</Up[<<>>7]>>7]");
  std::vector<std::string> put;
  const Object apart = objects::with_references(alone, [&](const Stream& stream) {
    put.push_back(written(stream.dict));
    return ObjectId{static_cast<std::uint32_t>(10 + put.size()), 0};
  });
  CHECK(written(apart) == "[13 0 R 7]");
  CHECK(put == std::vector<std::string>{"<<>>", "<</Up[11 0 R 7]>>", "<</Up[12 0 R 7]>>"});
}

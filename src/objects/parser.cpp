// SPDX-License-Identifier: Apache-2.0
#include "objects/parser.h"

#include "base/allowance.h"

#include <optional>

namespace lumvet::objects {
namespace {

constexpr std::size_t kUsual = 16;  // items of most arrays and dictionaries, with those around them

// Words that cannot stand inside an object, so that it must have ended before.
bool ends_object(const Token& token) {
  return token.kind == TokenKind::keyword &&
         (token.text == "endobj" || token.text == "stream" || token.text == "endstream" ||
          token.text == "obj" || token.text == "xref" || token.text == "trailer");
}

constexpr std::int64_t kMostNumber = 0xFFFFFFFF;  // of an object
constexpr std::uint32_t kMostGeneration = 0xFFFF;

// Whether a number is that of a reference, by what stands behind it.
enum class Behind { nothing, generation, unclear };

struct BehindNumber {
  Behind what = Behind::nothing;
  std::uint16_t generation = 0;
  std::size_t end = 0;
};

BehindNumber behind_number(ByteView bytes, std::size_t at) {
  const auto skip_white = [&] {
    const std::size_t first = at;
    while (at < bytes.size() && is_white(bytes[at])) ++at;
    return at > first;
  };
  const auto is_at = [&](char c) { return at < bytes.size() && static_cast<char>(bytes[at]) == c; };
  if (!skip_white()) return {is_at('%') ? Behind::unclear : Behind::nothing};
  std::uint32_t generation = 0;
  const std::size_t first = at;
  for (; at < bytes.size() && bytes[at] >= '0' && bytes[at] <= '9'; ++at)
    generation = std::min(generation * 10 + (bytes[at] - '0'), kMostGeneration + 1);
  if (is_at('%') || is_at('+')) return {Behind::unclear};  // comments, and odd numbers
  if (at == first || generation > kMostGeneration) return {};
  if (!skip_white()) return {is_at('%') ? Behind::unclear : Behind::nothing};
  if (is_at('%')) return {Behind::unclear};
  if (!is_at('R') || (at + 1 < bytes.size() && is_regular(bytes[at + 1]))) return {};
  return {Behind::generation, static_cast<std::uint16_t>(generation), at + 1};
}

constexpr std::uint64_t kRoom = 64;  // bytes that even a short list takes

// Counts what long lists take, so that few bytes, packed well, do not become very many values.
template <typename Item>
bool may_grow(const std::vector<Item>& items, std::size_t before) {
  constexpr std::size_t kPortion = 1024;
  constexpr std::size_t kGrowing = 2;  // a list that grows is there twice
  return (items.size() - before) % kPortion != kPortion - 1 ||
         Attempt::follow(kPortion * kGrowing * sizeof(Item));
}

// What was put behind `before`, as a list of its own.
template <typename Item>
std::vector<Item> taken_from(std::vector<Item>& items, std::size_t before) {
  constexpr std::size_t kFew = 64;
  if (before == 0 && items.size() > kFew) return std::exchange(items, {});
  const auto begin = items.begin() + static_cast<std::ptrdiff_t>(before);
  std::vector<Item> own(std::make_move_iterator(begin), std::make_move_iterator(items.end()));
  items.erase(begin, items.end());
  return own;
}

}  // namespace

Result<Parsed> Parser::next() {
  items_.clear();  // of what went wrong before
  entries_.clear();
  lexer_.skip_white();
  const std::size_t offset = lexer_.position();
  Parsed parsed;
  if (quick_value(parsed.value)) {
    parsed.offset = offset;
    return parsed;
  }
  LUMVET_TRY(Token token, lexer_.next());
  return from(std::move(token));
}

Result<Object> Parser::value() {
  LUMVET_TRY(Parsed parsed, next());
  if (parsed.kind == Parsed::Kind::value) return std::move(parsed.value);
  return Error(ErrorCode::malformed, parsed.kind == Parsed::Kind::end
                                         ? "the bytes end where a value should be"
                                         : "'" + parsed.keyword + "' where a value should be")
      .at_offset(parsed.offset);
}

Result<Parsed> Parser::from(Token token) {
  Parsed parsed;
  parsed.offset = token.offset;
  if (std::optional<Object> value = plain_value(token)) {
    parsed.value = *std::move(value);
    return parsed;
  }
  switch (token.kind) {
    case TokenKind::end: parsed.kind = Parsed::Kind::end; return parsed;
    case TokenKind::array_open: {
      LUMVET_TRY(parsed.value, array(token.offset));
      return parsed;
    }
    case TokenKind::dict_open: {
      LUMVET_TRY(parsed.value, dict(token.offset));
      return parsed;
    }
    case TokenKind::array_close:
      return Error(ErrorCode::malformed, "a stray ']'").at_offset(token.offset);
    case TokenKind::dict_close:
      return Error(ErrorCode::malformed, "a stray '>>'").at_offset(token.offset);
    case TokenKind::keyword:
      if (token.text == "true" || token.text == "false") {
        parsed.value = token.text == "true";
      } else if (token.text != "null") {
        parsed.kind = Parsed::Kind::keyword;
        parsed.keyword = std::move(token.text);
      }
      return parsed;
    default: return parsed;  // plain, and told above
  }
}

bool Parser::quick_value(Object& value) {
  const std::size_t before = lexer_.position();
  switch (lexer_.peek()) {
    case '/':
      if (const auto name = lexer_.next_plain_name()) {
        value = Object::name(*name);
        return true;
      }
      return false;
    case '(':
      if (const auto text = lexer_.next_plain_string()) {
        value = Object::string(*text);
        return true;
      }
      return false;
    case '<':
      if (const auto text = lexer_.next_plain_hex()) {
        value = Object::string(*text);
        return true;
      }
      return false;
    case '>':
    case '[':
    case ']': return false;
    default: break;
  }
  const std::optional<Number> number = lexer_.next_number();
  if (!number) return false;
  if (!number->is_integer) {
    value = Object(number->real);
    return true;
  }
  BehindNumber behind;
  if (references_ == References::allowed && number->integer >= 0 && number->integer <= kMostNumber)
    behind = behind_number(lexer_.bytes(), lexer_.position());
  switch (behind.what) {
    case Behind::nothing: value = Object(number->integer); return true;
    case Behind::generation:
      lexer_.seek(behind.end);
      value = ObjectId{static_cast<std::uint32_t>(number->integer), behind.generation};
      return true;
    case Behind::unclear: break;
  }
  lexer_.seek(before);
  return false;
}

std::optional<Object> Parser::plain_value(const Token& token) {
  switch (token.kind) {
    case TokenKind::integer: return integer_or_reference(token);
    case TokenKind::real: return Object(token.real);
    case TokenKind::string: return Object::string(token.text);
    case TokenKind::name: return Object::name(token.text);
    default: return std::nullopt;
  }
}

Result<Object> Parser::array(std::size_t offset) {
  if (--nesting_left_ < 0)
    return met_limit("arrays and dictionaries are nested deeper than Limits::nesting")
        .at_offset(offset);
  const std::size_t begin = items_.size();
  if (items_.capacity() == 0) items_.reserve(kUsual);
  for (;;) {
    while (quick_value(items_.emplace_back()))
      if (!may_grow(items_, begin)) return Allowance::reason();
    items_.pop_back();
    if (!may_grow(items_, begin)) return Allowance::reason();
    const std::size_t before = lexer_.position();
    if (lexer_.take("]")) break;
    if (lexer_.peek() == '[' || lexer_.peek() == '<') {
      LUMVET_TRY(std::optional<Object> item, list());
      if (item) {
        items_.push_back(*std::move(item));
        continue;
      }
    }
    lexer_.seek(before);
    LUMVET_TRY(Token token, lexer_.next());
    if (token.kind == TokenKind::end || token.kind == TokenKind::dict_close || ends_object(token)) {
      LUMVET_RETURN_IF_ERROR(damaged("an array has no closing ']'", offset));
      lexer_.seek(token.offset);
      break;
    }
    if (std::optional<Object> plain = plain_value(token)) {
      items_.push_back(*std::move(plain));
      continue;
    }
    LUMVET_TRY(Parsed item, from(std::move(token)));
    if (item.kind == Parsed::Kind::keyword)
      LUMVET_RETURN_IF_ERROR(damaged("'" + item.keyword + "' inside an array", item.offset));
    else
      items_.push_back(std::move(item.value));
  }
  ++nesting_left_;
  if (references_ == References::allowed) Attempt::follow(kRoom);
  return Object(taken_from(items_, begin));
}

// An array or a dictionary, when one begins here.
Result<std::optional<Object>> Parser::list() {
  const std::uint8_t first = lexer_.peek();
  const std::size_t offset = lexer_.position();
  if (first == '[' && lexer_.take("[")) {
    LUMVET_TRY(Object object, array(offset));
    return std::optional<Object>(std::move(object));
  }
  if (first == '<' && lexer_.take("<<")) {
    LUMVET_TRY(Object object, dict(offset));
    return std::optional<Object>(std::move(object));
  }
  return std::optional<Object>();
}

Result<Object> Parser::dict(std::size_t offset) {
  if (--nesting_left_ < 0)
    return met_limit("arrays and dictionaries are nested deeper than Limits::nesting")
        .at_offset(offset);
  const std::size_t begin = entries_.size();
  if (entries_.capacity() == 0) entries_.reserve(kUsual);
  for (;;) {
    if (!may_grow(entries_, begin)) return Allowance::reason();
    const std::size_t before_key = lexer_.position();
    if (const auto name = lexer_.next_plain_name()) {
      if (quick_value(entries_.emplace_back(*name, Object()).second)) continue;
      entries_.pop_back();
      LUMVET_TRY(std::optional<Object> value, list());
      if (value) {
        entries_.emplace_back(*name, *std::move(value));
        continue;
      }
      lexer_.seek(before_key);
    }
    if (lexer_.take(">>")) break;
    LUMVET_TRY(Token key, lexer_.next());
    if (key.kind == TokenKind::dict_close) break;
    if (key.kind == TokenKind::end || ends_object(key)) {
      LUMVET_RETURN_IF_ERROR(damaged("a dictionary has no closing '>>'", offset));
      lexer_.seek(key.offset);
      break;
    }
    if (key.kind != TokenKind::name) {
      LUMVET_RETURN_IF_ERROR(damaged("a dictionary key that is no name", key.offset));
      continue;
    }
    const std::size_t before_value = lexer_.position();
    LUMVET_TRY(Token token, lexer_.next());
    if (std::optional<Object> plain = plain_value(token)) {
      entries_.emplace_back(std::move(key.text), *std::move(plain));
      continue;
    }
    if (token.kind == TokenKind::dict_close || token.kind == TokenKind::end ||
        ends_object(token)) {  // a key without a value reads as null
      lexer_.seek(before_value);
      continue;
    }
    if (token.kind == TokenKind::array_close) {
      LUMVET_RETURN_IF_ERROR(damaged("a stray ']'", token.offset));
      continue;
    }
    LUMVET_TRY(Parsed value, from(std::move(token)));
    if (value.kind == Parsed::Kind::keyword)
      LUMVET_RETURN_IF_ERROR(damaged("'" + value.keyword + "' inside a dictionary", value.offset));
    else
      entries_.emplace_back(std::move(key.text), std::move(value.value));
  }
  ++nesting_left_;
  if (references_ == References::allowed) Attempt::follow(kRoom);
  return Object(Dict(taken_from(entries_, begin)));
}

Status Parser::damaged(std::string what, std::size_t offset) {
  if (lexer_.damages() == nullptr)
    return Error(ErrorCode::malformed, std::move(what)).at_offset(offset);
  lexer_.damages()->push_back({std::move(what), offset});
  return Done{};
}

Object Parser::integer_or_reference(const Token& token) {
  const Object plain(token.integer);
  if (references_ == References::none || token.integer < 0 || token.integer > kMostNumber)
    return plain;
  const std::size_t after_number = lexer_.position();
  const Result<Token> generation = lexer_.next();
  if (generation.ok() && generation->kind == TokenKind::integer && generation->integer >= 0 &&
      generation->integer <= kMostGeneration) {
    const Result<Token> letter = lexer_.next();
    if (letter.ok() && letter->kind == TokenKind::keyword && letter->text == "R")
      return ObjectId{static_cast<std::uint32_t>(token.integer),
                      static_cast<std::uint16_t>(generation->integer)};
  }
  lexer_.seek(after_number);
  return plain;
}

}  // namespace lumvet::objects

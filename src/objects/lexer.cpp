// SPDX-License-Identifier: Apache-2.0
#include "objects/lexer.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <cstdlib>
#include <cstring>
#include <limits>

#include "base/digits.h"

namespace lumvet::objects {
namespace {

Error malformed(const char* what, std::size_t offset) {
  return Error(ErrorCode::malformed, what).at_offset(offset);
}

// 10^22 is the last power of ten that a double holds exactly.
constexpr int kExactPower = 22;
constexpr std::array<double, kExactPower + 1> kPowers = {
    1e0,  1e1,  1e2,  1e3,  1e4,  1e5,  1e6,  1e7,  1e8,  1e9,  1e10, 1e11,
    1e12, 1e13, 1e14, 1e15, 1e16, 1e17, 1e18, 1e19, 1e20, 1e21, 1e22};

// The number as nearly all are written, "-12.375", up to a byte that ends it; `end` is behind it.
// Nothing when anything about it is unusual.
std::optional<Number> plain_number(ByteView bytes, std::size_t at, std::size_t& end) {
  constexpr int kMostDigits = 15;  // any number of so many is exact as a double
  const std::size_t size = bytes.size();
  const bool negative = at < size && bytes[at] == '-';
  at += negative;
  std::uint64_t digits = 0;
  const auto read_digits = [&] {
    const std::size_t first = at;
    for (; at < size && is_digit(bytes[at]); ++at) digits = digits * 10 + (bytes[at] - '0');
    return static_cast<int>(std::min<std::size_t>(at - first, kMostDigits + 1));
  };
  const int whole = read_digits();
  const bool has_point = at < size && bytes[at] == '.';
  at += has_point;
  const int fraction = has_point ? read_digits() : 0;
  if (whole + fraction == 0 || whole + fraction > kMostDigits) return std::nullopt;
  if (at < size && is_regular(bytes[at])) return std::nullopt;
  end = at;
  const auto integer = static_cast<std::int64_t>(digits);
  double value = static_cast<double>(digits);
  if (fraction > 0) value /= kPowers[static_cast<std::size_t>(fraction)];
  return Number{!has_point, negative ? -integer : integer, negative ? -value : value};
}

// Reads what is meant by a run of digits, signs and points; real files hold "--5", "4.-2" and
// "1.2.3", which mean -5, 4 and 1.2. Nothing when it is no number.
std::optional<Number> read_number(std::string_view text) {
  std::size_t i = 0;
  bool negative = false;
  while (i < text.size() && (text[i] == '+' || text[i] == '-')) negative |= text[i++] == '-';
  // All digits as one integer, divided once at the end, give the nearest double in all common
  // cases.
  constexpr std::uint64_t kMostBeforeDigit = (std::numeric_limits<std::int64_t>::max() - 9) / 10;
  const std::size_t first_digit = i;
  std::uint64_t digits = 0;
  int exponent = 0;
  bool any_digit = false;
  bool has_point = false;
  for (; i < text.size(); ++i) {
    if (text[i] == '.' && !has_point) {
      has_point = true;
      continue;
    }
    if (text[i] < '0' || text[i] > '9') break;
    any_digit = true;
    if (digits <= kMostBeforeDigit) {
      digits = digits * 10 + static_cast<std::uint64_t>(text[i] - '0');
      exponent -= has_point;
    } else {
      exponent += !has_point;
    }
  }
  double value = 0;
  constexpr std::uint64_t kExact = std::uint64_t{1} << 53;
  if (exponent == 0) {
    value = static_cast<double>(digits);
  } else if (digits <= kExact && std::abs(exponent) <= kExactPower) {
    const double power = kPowers[static_cast<std::size_t>(std::abs(exponent))];
    value =
        exponent < 0 ? static_cast<double>(digits) / power : static_cast<double>(digits) * power;
  } else {
    std::from_chars(text.data() + first_digit, text.data() + i, value, std::chars_format::fixed);
  }
  if (!any_digit && !(has_point && text.size() <= 2)) return std::nullopt;
  for (; i < text.size(); ++i)
    if (text[i] != '-' && text[i] != '.' && (text[i] < '0' || text[i] > '9')) return std::nullopt;
  const auto whole = static_cast<std::int64_t>(digits);
  return Number{!has_point && exponent <= 0, negative ? -whole : whole, negative ? -value : value};
}

bool may_begin_number(char c) { return is_digit(c) || c == '-' || c == '+' || c == '.'; }

}  // namespace

void Lexer::skip_white() {
  while (position_ < bytes_.size()) {
    const std::uint8_t byte = bytes_[position_];
    if (byte == '%') {
      while (position_ < bytes_.size() && bytes_[position_] != '\n' && bytes_[position_] != '\r')
        ++position_;
    } else if (is_white(byte)) {
      ++position_;
    } else {
      return;
    }
  }
}

Result<Token> Lexer::next() {
  if (damages_ == nullptr) return one();
  for (;;) {
    Result<Token> token = one();
    if (token.ok()) return token;
    damages_->push_back({token.error().message(), token.error().offset().value_or(0)});
  }
}

Result<Token> Lexer::one() {
  skip_white();
  Token token;
  token.offset = position_;
  if (position_ >= bytes_.size()) return token;
  const std::uint8_t byte = bytes_[position_];
  const auto single = [&](TokenKind kind, std::size_t length) {
    token.kind = kind;
    position_ += length;
    return token;
  };
  const bool doubled = position_ + 1 < bytes_.size() && bytes_[position_ + 1] == byte;
  switch (byte) {
    case '(': return literal_string(std::move(token));
    case '/': return name(std::move(token));
    case '[': return single(TokenKind::array_open, 1);
    case ']': return single(TokenKind::array_close, 1);
    case '<':
      return doubled ? Result<Token>(single(TokenKind::dict_open, 2))
                     : hex_string(std::move(token));
    case '>':
      if (doubled) return single(TokenKind::dict_close, 2);
      ++position_;
      return malformed("a stray '>'", token.offset);
    case ')': ++position_; return malformed("a stray ')'", token.offset);
    case '{':
    case '}': token.text = static_cast<char>(byte); return single(TokenKind::keyword, 1);
    default: return number_or_keyword(std::move(token));
  }
}

// The string up to the end of its line, which is where its writer most likely left off.
Result<Token> Lexer::unterminated(Token token, const char* what) {
  if (damages_ == nullptr) return malformed(what, token.offset);
  damages_->push_back({what, token.offset});
  const std::string_view rest = as_text(bytes_.subspan(token.offset));
  const std::size_t length = std::min(rest.find_first_of("\r\n"), rest.size());
  position_ = token.offset + length;
  token.text = rest.substr(1, length - 1);
  return token;
}

Result<Token> Lexer::literal_string(Token token) {
  token.kind = TokenKind::string;
  int open = 1;
  ++position_;
  while (position_ < bytes_.size()) {
    const std::uint8_t byte = bytes_[position_++];
    if (byte == '(') {
      ++open;
    } else if (byte == ')') {
      if (--open == 0) return token;
    } else if (byte == '\r') {  // every end of line reads as LF
      if (position_ < bytes_.size() && bytes_[position_] == '\n') ++position_;
      token.text += '\n';
      continue;
    } else if (byte == '\\') {
      if (position_ >= bytes_.size()) break;
      const std::uint8_t escaped = bytes_[position_++];
      switch (escaped) {
        case 'n': token.text += '\n'; break;
        case 'r': token.text += '\r'; break;
        case 't': token.text += '\t'; break;
        case 'b': token.text += '\b'; break;
        case 'f': token.text += '\f'; break;
        case '\r':
          if (position_ < bytes_.size() && bytes_[position_] == '\n') ++position_;
          break;
        case '\n': break;
        default:
          if (escaped < '0' || escaped > '7') {
            token.text += static_cast<char>(escaped);
            break;
          }
          int code = escaped - '0';
          for (int digits = 1; digits < 3 && position_ < bytes_.size() &&
                               bytes_[position_] >= '0' && bytes_[position_] <= '7';
               ++digits)
            code = code * 8 + (bytes_[position_++] - '0');
          token.text += static_cast<char>(code & 0xFF);
      }
      continue;
    }
    token.text += static_cast<char>(byte);
  }
  return unterminated(std::move(token), "a string has no closing ')'");
}

Result<Token> Lexer::hex_string(Token token) {
  token.kind = TokenKind::string;
  int high = -1;
  for (++position_; position_ < bytes_.size(); ++position_) {
    const std::uint8_t byte = bytes_[position_];
    if (byte == '>') {
      if (high >= 0) token.text += static_cast<char>(high << 4);
      ++position_;
      return token;
    }
    const int digit = hex_digit(byte);
    if (digit < 0) {
      if (is_white(byte)) continue;
      constexpr const char* kWhat = "a byte that is no hexadecimal digit in a <…> string";
      if (damages_ == nullptr) return malformed(kWhat, position_);
      if (damages_->empty() || damages_->back().what != kWhat)
        damages_->push_back({kWhat, position_});
      continue;
    }
    if (high < 0) {
      high = digit;
    } else {
      token.text += static_cast<char>(high << 4 | digit);
      high = -1;
    }
  }
  return unterminated(std::move(token), "a string has no closing '>'");
}

Token Lexer::name(Token token) {
  token.kind = TokenKind::name;
  const std::size_t start = ++position_;
  while (position_ < bytes_.size() && is_regular(bytes_[position_]) && bytes_[position_] != '#')
    ++position_;
  token.text = as_text(bytes_.subspan(start, position_ - start));
  for (; position_ < bytes_.size() && is_regular(bytes_[position_]); ++position_) {
    const std::uint8_t byte = bytes_[position_];
    if (byte == '#' && position_ + 2 < bytes_.size()) {
      const int high = hex_digit(bytes_[position_ + 1]);
      const int low = hex_digit(bytes_[position_ + 2]);
      if (high >= 0 && low >= 0) {
        token.text += static_cast<char>(high << 4 | low);
        position_ += 2;
        continue;
      }
    }
    token.text += static_cast<char>(byte);
  }
  return token;
}

std::string_view Lexer::regular_bytes() {
  const std::size_t start = position_;
  while (position_ < bytes_.size() && is_regular(bytes_[position_])) ++position_;
  return as_text(bytes_.subspan(start, position_ - start));
}

Token Lexer::number_or_keyword(Token token) {
  const std::string_view text = regular_bytes();
  if (may_begin_number(text[0]))
    if (const auto number = read_number(text)) {
      token.kind = number->is_integer ? TokenKind::integer : TokenKind::real;
      token.integer = number->integer;
      token.real = number->real;
      return token;
    }
  token.kind = TokenKind::keyword;
  token.text = text;
  return token;
}

std::optional<std::string_view> Lexer::next_plain_name() {
  const std::size_t before = position_;
  skip_white();
  if (position_ < bytes_.size() && bytes_[position_] == '/') {
    ++position_;
    const std::string_view text = regular_bytes();
    if (text.find('#') == std::string_view::npos) return text;
  }
  position_ = before;
  return std::nullopt;
}

std::optional<std::string_view> Lexer::next_plain_string() {
  if (peek() != '(') return std::nullopt;
  const std::size_t start = position_ + 1;
  for (std::size_t at = start; at < bytes_.size(); ++at) {
    const std::uint8_t byte = bytes_[at];
    if (byte == '(' || byte == '\\' || byte == '\r') break;
    if (byte != ')') continue;
    position_ = at + 1;
    return as_text(bytes_.subspan(start, at - start));
  }
  return std::nullopt;
}

std::optional<std::string> Lexer::next_plain_hex() {
  if (peek() != '<') return std::nullopt;
  const std::uint8_t* digits = bytes_.data() + position_ + 1;
  constexpr std::size_t kMost = 1024;  // digits; longer ones are no hurry
  const std::size_t rest = std::min(bytes_.size() - position_ - 1, kMost);
  if (rest == 0 || (digits[0] != '>' && hex_digit(digits[0]) < 0)) return std::nullopt;
  const void* const end = std::memchr(digits, '>', rest);
  if (end == nullptr) return std::nullopt;
  const auto count = static_cast<std::size_t>(static_cast<const std::uint8_t*>(end) - digits);
  if (count % 2 != 0) return std::nullopt;
  std::string text(count / 2, '\0');
  for (char& byte : text) {
    const int high = hex_digit(digits[0]);
    const int low = hex_digit(digits[1]);
    if ((high | low) < 0) return std::nullopt;
    byte = static_cast<char>(high << 4 | low);
    digits += 2;
  }
  position_ += count + 2;
  return text;
}

bool Lexer::take(std::string_view bracket) {
  skip_white();
  if (!as_text(bytes_.subspan(position_)).starts_with(bracket)) return false;
  position_ += bracket.size();
  return true;
}

std::optional<Number> Lexer::next_number() {
  const std::size_t before = position_;
  skip_white();
  std::optional<Number> number = plain_number(bytes_, position_, position_);
  if (number) return number;
  if (position_ < bytes_.size() && may_begin_number(static_cast<char>(bytes_[position_])))
    number = read_number(regular_bytes());
  if (!number) position_ = before;
  return number;
}

}  // namespace lumvet::objects

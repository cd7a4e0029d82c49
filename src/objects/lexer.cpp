// SPDX-License-Identifier: Apache-2.0
#include "objects/lexer.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <cstdlib>
#include <limits>

namespace lumvet::objects {
namespace {

enum : std::uint8_t { kRegular = 0, kWhite = 1, kDelimiter = 2 };

constexpr std::array<std::uint8_t, 256> kClasses = [] {
  std::array<std::uint8_t, 256> classes{};
  for (const unsigned white : {0u, 9u, 10u, 12u, 13u, 32u}) classes[white] = kWhite;
  for (const char delimiter : {'(', ')', '<', '>', '[', ']', '{', '}', '/', '%'})
    classes[static_cast<std::uint8_t>(delimiter)] = kDelimiter;
  return classes;
}();

Error malformed(const char* what, std::size_t offset) {
  return Error(ErrorCode::malformed, what).at_offset(offset);
}

// Reads what is meant by a run of digits, signs and points; real files hold "--5", "4.-2" and
// "1.2.3", which mean -5, 4 and 1.2. False when it is no number.
bool read_number(std::string_view text, Token& token) {
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
  constexpr int kExactPower = 22;  // 10^22 is the last power of ten that a double holds exactly
  if (exponent == 0) {
    value = static_cast<double>(digits);
  } else if (digits <= kExact && std::abs(exponent) <= kExactPower) {
    const double power = std::pow(10.0, std::abs(exponent));
    value =
        exponent < 0 ? static_cast<double>(digits) / power : static_cast<double>(digits) * power;
  } else {
    std::from_chars(text.data() + first_digit, text.data() + i, value, std::chars_format::fixed);
  }
  if (!any_digit && !(has_point && text.size() <= 2)) return false;
  for (; i < text.size(); ++i)
    if (text[i] != '-' && text[i] != '.' && (text[i] < '0' || text[i] > '9')) return false;
  token.kind = has_point || exponent > 0 ? TokenKind::real : TokenKind::integer;
  token.integer = negative ? -static_cast<std::int64_t>(digits) : static_cast<std::int64_t>(digits);
  token.real = negative ? -value : value;
  return true;
}

}  // namespace

bool is_white(std::uint8_t byte) { return kClasses[byte] == kWhite; }
bool is_delimiter(std::uint8_t byte) { return kClasses[byte] == kDelimiter; }

int hex_digit(std::uint8_t byte) {
  if (byte >= '0' && byte <= '9') return byte - '0';
  if (byte >= 'a' && byte <= 'f') return byte - 'a' + 10;
  if (byte >= 'A' && byte <= 'F') return byte - 'A' + 10;
  return -1;
}

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

Token Lexer::number_or_keyword(Token token) {
  const std::size_t start = position_;
  while (position_ < bytes_.size() && is_regular(bytes_[position_])) ++position_;
  const std::string_view text = as_text(bytes_.subspan(start, position_ - start));
  const char first = text[0];
  const bool may_be_number =
      (first >= '0' && first <= '9') || first == '-' || first == '+' || first == '.';
  if (may_be_number && read_number(text, token)) return token;
  token.kind = TokenKind::keyword;
  token.text = text;
  return token;
}

}  // namespace lumvet::objects

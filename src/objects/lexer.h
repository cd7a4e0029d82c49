// SPDX-License-Identifier: Apache-2.0
// Bytes to tokens (ISO 32000-2, 7.2), the same for files and content streams.
//
// Threads: one thread at a time.
#pragma once

#include <array>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "lumvet/base/bytes.h"
#include "lumvet/base/result.h"

namespace lumvet::objects {

enum class ByteClass : std::uint8_t { regular, white, delimiter };

inline constexpr std::array<ByteClass, 256> kByteClasses = [] {
  std::array<ByteClass, 256> classes{};
  for (const unsigned white : {0u, 9u, 10u, 12u, 13u, 32u}) classes[white] = ByteClass::white;
  for (const char delimiter : {'(', ')', '<', '>', '[', ']', '{', '}', '/', '%'})
    classes[static_cast<std::uint8_t>(delimiter)] = ByteClass::delimiter;
  return classes;
}();

// NUL, TAB, LF, FF, CR, space
inline bool is_white(std::uint8_t byte) { return kByteClasses[byte] == ByteClass::white; }
// ( ) < > [ ] { } / %
inline bool is_delimiter(std::uint8_t byte) { return kByteClasses[byte] == ByteClass::delimiter; }
constexpr bool is_regular(std::uint8_t byte) { return kByteClasses[byte] == ByteClass::regular; }
inline constexpr std::array<std::int8_t, 256> kHexDigits = [] {
  std::array<std::int8_t, 256> digits{};
  digits.fill(-1);
  for (int i = 0; i < 10; ++i)
    digits[static_cast<std::size_t>('0' + i)] = static_cast<std::int8_t>(i);
  for (int i = 0; i < 6; ++i)
    for (const char letter : {'A', 'a'})
      digits[static_cast<std::size_t>(letter + i)] = static_cast<std::int8_t>(10 + i);
  return digits;
}();
// 0-15, or -1.
inline int hex_digit(std::uint8_t byte) { return kHexDigits[byte]; }

enum class TokenKind {
  end,
  integer,
  real,
  string,
  name,
  keyword,
  array_open,
  array_close,
  dict_open,
  dict_close,
};

struct Token {
  TokenKind kind = TokenKind::end;
  std::size_t offset = 0;    // of its first byte in the lexer's bytes
  std::int64_t integer = 0;  // of an integer
  double real = 0;           // of an integer or a real
  std::string text;          // of a string or name, decoded; of a keyword, as it stands
};

struct Number {
  bool is_integer = false;
  std::int64_t integer = 0;  // of an integer
  double real = 0;           // of either
};

// What a tolerant reader passed over.
struct Damage {
  std::string what;        // "a string has no closing ')'"
  std::size_t offset = 0;  // in the lexer's bytes
};

class Lexer {
 public:
  explicit Lexer(ByteView bytes, std::size_t position = 0) : bytes_(bytes), position_(position) {}

  // The next token; comments are white space. Errors: malformed (an unterminated string, a stray
  // closing bracket), with the offset in these bytes.
  Result<Token> next();

  // The next token if it is a number, without a token's cost; nothing is read otherwise.
  std::optional<Number> next_number();
  // The same of a name in which every byte stands for itself, without its '/'. A part of the bytes.
  std::optional<std::string_view> next_plain_name();
  // The same of a string in parentheses.
  std::optional<std::string_view> next_plain_string();
  // The same of a string of pairs of digits and nothing else, decoded.
  std::optional<std::string> next_plain_hex();
  // Whether the next token is this bracket, which is then read: "[", ">>".
  bool take(std::string_view bracket);
  // The first byte of the next token; 0 behind the last.
  std::uint8_t peek() {
    skip_white();
    return position_ < bytes_.size() ? bytes_[position_] : std::uint8_t{0};
  }

  // Reads on in spite of damage: strings without an end stop at their line's, stray bytes are
  // skipped. Each is added to `damages`.
  void tolerate(std::vector<Damage>& damages) { damages_ = &damages; }
  std::vector<Damage>* damages() const { return damages_; }

  std::size_t position() const { return position_; }
  void seek(std::size_t position) { position_ = position; }
  void skip_white();
  ByteView bytes() const { return bytes_; }
  // Whether the last token might go on behind the end of the bytes.
  bool touched_end() const { return position_ >= bytes_.size(); }

 private:
  Result<Token> one();
  Result<Token> literal_string(Token token);
  Result<Token> hex_string(Token token);
  Result<Token> unterminated(Token token, const char* what);
  Token name(Token token);
  Token number_or_keyword(Token token);
  std::string_view regular_bytes();  // from here on

  ByteView bytes_;
  std::size_t position_;
  std::vector<Damage>* damages_ = nullptr;
};

}  // namespace lumvet::objects

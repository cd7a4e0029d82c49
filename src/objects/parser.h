// SPDX-License-Identifier: Apache-2.0
// Tokens to objects (ISO 32000-2, 7.3). Streams are put together by the object store, which knows
// where their bytes end.
//
// Threads: one thread at a time.
#pragma once

#include <optional>

#include "lumvet/objects/object.h"
#include "objects/lexer.h"

namespace lumvet::objects {

// What parse_value met: a value, or a keyword that is none ("endobj", an operator), or the end.
struct Parsed {
  enum class Kind { value, keyword, end };
  Kind kind = Kind::value;
  Object value;
  std::string keyword;
  std::size_t offset = 0;
};

enum class References { allowed, none };  // none in content streams and object-stream headers

class Parser {
 public:
  Parser(ByteView bytes, std::size_t position, References references, int nesting)
      : lexer_(bytes, position), references_(references), nesting_left_(nesting) {}

  // Errors: malformed, limit (arrays nested too deeply); offsets count in these bytes.
  Result<Parsed> next();
  // The same, where only a value will do.
  Result<Object> value();

  // Reads on in spite of damage: what is not closed ends where the object does, what does not
  // belong is left out. Each is added to `damages`.
  void tolerate(std::vector<Damage>& damages) { lexer_.tolerate(damages); }

  Lexer& lexer() { return lexer_; }

 private:
  Result<Parsed> from(Token token);
  Result<std::optional<Object>> list();
  Result<Object> array(std::size_t offset);
  Result<Object> dict(std::size_t offset);
  // Puts numbers, references, names and strings as nearly all are written into `value`, which is
  // null; reads nothing of others.
  bool quick_value(Object& value);
  // Of numbers, references, strings and names, which most values are; nothing for others.
  std::optional<Object> plain_value(const Token& token);
  Object integer_or_reference(const Token& token);
  // Notes the damage and goes on when tolerant; otherwise the error.
  Status damaged(std::string what, std::size_t offset);

  Lexer lexer_;
  // What of open arrays and dictionaries is read so far, the innermost's last: each gets a list of
  // its own once it is known how long that is.
  Array items_;
  std::vector<Dict::Entry> entries_;
  References references_;
  int nesting_left_;
};

}  // namespace lumvet::objects

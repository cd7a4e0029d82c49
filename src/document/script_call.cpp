// SPDX-License-Identifier: Apache-2.0
#include "document/script_call.h"

#include <charconv>

#include "base/digits.h"
#include "objects/text_string.h"

namespace lumvet::document {
namespace {

constexpr std::size_t kLongest = std::size_t{64} * 1024;  // bytes of a script that is looked at

bool is_letter(char c) {
  return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '_' || is_digit(c);
}

class CallReader {
 public:
  explicit CallReader(std::string_view text) : text_(text) {}

  std::optional<ScriptCall> read() {
    ScriptCall call{word(), {}};
    if (call.function.empty() || !takes('(')) return std::nullopt;
    while (!takes(')')) {
      if (!call.arguments.empty() && !takes(',')) return std::nullopt;
      std::optional<ScriptCall::Argument> one = argument();
      if (!one) return std::nullopt;
      call.arguments.push_back(*std::move(one));
    }
    takes(';');
    skip();
    return at_ == text_.size() ? std::optional(std::move(call)) : std::nullopt;
  }

 private:
  void skip() {
    while (at_ < text_.size() && std::string_view(" \t\r\n").find(text_[at_]) != text_.npos) ++at_;
  }
  bool takes(char c) {
    skip();
    if (at_ >= text_.size() || text_[at_] != c) return false;
    ++at_;
    return true;
  }
  std::string word() {
    skip();
    const std::size_t begin = at_;
    while (at_ < text_.size() && is_letter(text_[at_])) ++at_;
    return std::string(text_.substr(begin, at_ - begin));
  }

  std::optional<ScriptCall::Argument> argument() {
    skip();
    if (at_ >= text_.size()) return std::nullopt;
    const char first = text_[at_];
    if (first == '"' || first == '\'') {
      std::optional<std::string> text = literal();
      if (!text) return std::nullopt;
      return ScriptCall::Argument(*std::move(text));
    }
    if (first == '[') return texts('[', ']');
    if (first == '-' || (first >= '0' && first <= '9') || first == '.') return number();
    const std::string name = word();
    if (name == "true" || name == "false") return ScriptCall::Argument(name == "true");
    if (name == "new" && word() == "Array") return texts('(', ')');
    return std::nullopt;
  }

  std::optional<ScriptCall::Argument> number() {
    double value = 0;
    const auto read = std::from_chars(text_.data() + at_, text_.data() + text_.size(), value);
    if (read.ec != std::errc()) return std::nullopt;
    at_ = static_cast<std::size_t>(read.ptr - text_.data());
    return ScriptCall::Argument(value);
  }

  std::optional<ScriptCall::Argument> texts(char open, char close) {
    ScriptCall::Texts all;
    if (!takes(open)) return std::nullopt;
    if (takes(close)) return ScriptCall::Argument(std::move(all));
    do {
      skip();
      std::optional<std::string> text = literal();
      if (!text) return std::nullopt;
      all.push_back(*std::move(text));
    } while (takes(','));
    if (!takes(close)) return std::nullopt;
    return ScriptCall::Argument(std::move(all));
  }

  std::optional<std::string> literal() {
    if (at_ >= text_.size()) return std::nullopt;
    const char quote = text_[at_++];
    if (quote != '"' && quote != '\'') return std::nullopt;
    std::string text;
    while (at_ < text_.size() && text_[at_] != quote) {
      if (text_[at_] != '\\') {
        text += text_[at_++];
        continue;
      }
      if (!escaped(text)) return std::nullopt;
    }
    if (at_ >= text_.size()) return std::nullopt;
    ++at_;
    return text;
  }

  // Behind a backslash.
  bool escaped(std::string& text) {
    if (at_ + 1 >= text_.size()) return false;
    const char what = text_[at_ + 1];
    at_ += 2;
    if (what == 'u' || what == 'x') {
      const std::size_t length = what == 'u' ? 4 : 2;
      if (at_ + length > text_.size()) return false;
      std::uint32_t code = 0;
      const char* begin = text_.data() + at_;
      const auto read = std::from_chars(begin, begin + length, code, 16);
      if (read.ptr != begin + length) return false;
      objects::append_utf8(code, text);
      at_ += length;
      return true;
    }
    text += what == 'n' ? '\n' : what == 't' ? '\t' : what == 'r' ? '\r' : what;
    return true;
  }

  std::string_view text_;
  std::size_t at_ = 0;
};

}  // namespace

std::optional<ScriptCall> read_script_call(std::string_view script) {
  if (script.size() > kLongest) return std::nullopt;
  return CallReader(script).read();
}

std::string script_text(std::string_view text) {
  std::string literal = "\"";
  for (const char c : text) {
    if (c == '"' || c == '\\') literal += '\\';
    if (c == '\n')
      literal += "\\n";
    else if (c == '\r')
      literal += "\\r";
    else
      literal += c;
  }
  return literal + '"';
}

}  // namespace lumvet::document

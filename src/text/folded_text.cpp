// SPDX-License-Identifier: Apache-2.0
#include "text/folded_text.h"

#include <array>
#include <unordered_map>

#include <unicode/uchar.h>
#include <unicode/unorm2.h>
#include <unicode/ustring.h>

#include "objects/text_string.h"

namespace lumvet::text {
namespace {

bool is_blank(char32_t c) {
  return c == ' ' || (c >= '\t' && c <= '\r') ||
         (c > 0x7F && u_isUWhiteSpace(static_cast<UChar32>(c)));
}

// A sign of scripts that have no blanks between words: a line may end anywhere there.
bool needs_no_blank(char32_t c) {
  constexpr char32_t kFirst = 0x0E00;  // of Thai
  if (c < kFirst) return false;
  switch (u_getIntPropertyValue(static_cast<UChar32>(c), UCHAR_LINE_BREAK)) {
    case U_LB_IDEOGRAPHIC:
    case U_LB_NONSTARTER:
    case U_LB_CONDITIONAL_JAPANESE_STARTER:
    case U_LB_COMPLEX_CONTEXT: return true;
    case U_LB_OPEN_PUNCTUATION:
    case U_LB_CLOSE_PUNCTUATION: {
      const auto width = u_getIntPropertyValue(static_cast<UChar32>(c), UCHAR_EAST_ASIAN_WIDTH);
      return width == U_EA_WIDE || width == U_EA_FULLWIDTH;
    }
    default: return false;
  }
}

constexpr char32_t kSoftHyphen = 0xAD;

bool is_hyphen(char32_t c) { return c == '-' || c == 0x2010 || c == kSoftHyphen; }

bool is_mark(UChar32 c) {
  const auto kind = u_charType(c);
  return kind == U_NON_SPACING_MARK || kind == U_ENCLOSING_MARK;
}

// One character as it is compared.
struct Character {
  std::string folded;  // UTF-8
  bool needs_no_blank = false;
};

class Characters {
 public:
  explicit Characters(const Folding& folding) : folding_(folding) {}

  const Character& of(char32_t c) {
    const auto [known, is_new] = known_.try_emplace(c);
    if (is_new) known->second = {made(c), needs_no_blank(c)};
    return known->second;
  }

 private:
  std::string made(char32_t c) const {
    UErrorCode failed = U_ZERO_ERROR;
    const UNormalizer2* forms = unorm2_getNFKDInstance(&failed);
    std::array<UChar, 32> parts{};
    int32_t count = -1;
    if (U_SUCCESS(failed))
      count = unorm2_getDecomposition(forms, static_cast<UChar32>(c), parts.data(),
                                      static_cast<int32_t>(parts.size()), &failed);
    if (count < 0 || U_FAILURE(failed)) {
      count = 0;
      U16_APPEND_UNSAFE(parts.data(), count, static_cast<UChar32>(c));
    }
    std::u16string kept;
    for (int32_t i = 0; i < count;) {
      UChar32 part = 0;
      U16_NEXT(parts.data(), i, count, part);
      if (!folding_.keeps_accents && is_mark(part)) continue;
      std::array<UChar, 2> units{};
      int32_t length = 0;
      U16_APPEND_UNSAFE(units.data(), length, part);
      kept.append(units.data(), static_cast<std::size_t>(length));
    }
    if (folding_.keeps_case) return objects::utf16_to_utf8(kept);
    failed = U_ZERO_ERROR;
    std::array<UChar, 96> folded{};
    const int32_t length =
        u_strFoldCase(folded.data(), static_cast<int32_t>(folded.size()), kept.data(),
                      static_cast<int32_t>(kept.size()), U_FOLD_CASE_DEFAULT, &failed);
    if (U_FAILURE(failed)) return objects::utf16_to_utf8(kept);
    return objects::utf16_to_utf8(
        std::u16string_view(folded.data(), static_cast<std::size_t>(length)));
  }

  Folding folding_;
  std::unordered_map<char32_t, Character> known_;
};

class Writer {
 public:
  Writer(std::string_view text, const Folding& folding)
      : text_(text), folding_(folding), characters_(folding) {
    make_room(text.size());
  }

  FoldedText take() {
    for (std::size_t at = 0; at < text_.size();) {
      const std::size_t begin = at;
      const auto byte = static_cast<unsigned char>(text_[at]);
      const char32_t c = byte < 0x80 ? (++at, byte) : objects::next_code_point(text_, at);
      if (is_blank(c)) {
        put_blank(begin, at);
      } else if (is_hyphen(c) && joins_lines(text_, at)) {
        while (at < text_.size() && is_blank(static_cast<unsigned char>(text_[at]))) ++at;
      } else if (c < 0x80) {
        const bool is_capital = !folding_.keeps_case && c >= 'A' && c <= 'Z';
        put(static_cast<char>(is_capital ? c + ('a' - 'A') : c), begin, at);
      } else if (c != kSoftHyphen) {
        put_character(c, begin, at);
      }
    }
    make_room(count_);
    return std::move(result_);
  }

 private:
  void make_room(std::size_t size) {
    result_.text.resize(size);
    result_.begins.resize(size);
    result_.ends.resize(size);
  }
  bool ends_with_blank() const { return count_ > 0 && result_.text[count_ - 1] == ' '; }
  void put_character(char32_t c, std::size_t begin, std::size_t end) {
    const Character& character = characters_.of(c);
    if (character.needs_no_blank && ends_with_blank()) --count_;
    for (const char part : character.folded) put(part, begin, end);
    takes_no_blank_ = character.needs_no_blank;
  }
  void put(char c, std::size_t begin, std::size_t end) {
    if (count_ == result_.text.size()) make_room(2 * count_ + 16);
    takes_no_blank_ = false;
    result_.text[count_] = c;
    result_.begins[count_] = static_cast<std::uint32_t>(begin);
    result_.ends[count_] = static_cast<std::uint32_t>(end);
    ++count_;
  }
  void put_blank(std::size_t begin, std::size_t end) {
    if (takes_no_blank_) return;
    if (ends_with_blank())
      result_.ends[count_ - 1] = static_cast<std::uint32_t>(end);
    else
      put(' ', begin, end);
  }

  std::string_view text_;
  Folding folding_;
  Characters characters_;
  FoldedText result_;            // with room for more
  std::size_t count_ = 0;        // of its bytes that are there
  bool takes_no_blank_ = false;  // behind what was put last
};

}  // namespace

std::string_view without_hyphen(std::string_view text) {
  std::size_t at = text.size();
  while (at > 0 && (static_cast<unsigned char>(text[at - 1]) & 0xC0) == 0x80) --at;
  if (at == 0) return text;
  std::size_t begin = --at;
  return is_hyphen(objects::next_code_point(text, at)) ? text.substr(0, begin) : text;
}

bool joins_lines(std::string_view text, std::size_t line_end) {
  if (line_end >= text.size() || text[line_end] != '\n') return false;
  const std::string_view before = text.substr(0, line_end);
  if (without_hyphen(before).size() == before.size()) return false;
  std::size_t next = line_end;
  while (next < text.size() && is_blank(static_cast<unsigned char>(text[next]))) ++next;
  if (next >= text.size()) return false;
  return u_islower(static_cast<UChar32>(objects::next_code_point(text, next))) != 0;
}

FoldedText folded(std::string_view text, const Folding& folding) {
  return Writer(text, folding).take();
}

}  // namespace lumvet::text

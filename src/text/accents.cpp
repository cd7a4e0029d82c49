// SPDX-License-Identifier: Apache-2.0
#include "text/accents.h"

#include <algorithm>
#include <array>
#include <cmath>

#include <unicode/normalizer2.h>
#include <unicode/uchar.h>

#include "objects/text_string.h"

namespace lumvet::text {
namespace {

struct Accent {
  char32_t alone;  // as a character of its own
  char32_t mark;   // the one that combines
};

// Of ASCII, Latin-1 and the spacing modifier letters; Unicode decomposes few of them itself.
constexpr std::array<Accent, 17> kAccents = {{{0x5E, 0x302},
                                              {0x60, 0x300},
                                              {0x7E, 0x303},
                                              {0xA8, 0x308},
                                              {0xAF, 0x304},
                                              {0xB4, 0x301},
                                              {0xB8, 0x327},
                                              {0x2C6, 0x302},
                                              {0x2C7, 0x30C},
                                              {0x2CA, 0x301},
                                              {0x2CB, 0x300},
                                              {0x2D8, 0x306},
                                              {0x2D9, 0x307},
                                              {0x2DA, 0x30A},
                                              {0x2DB, 0x328},
                                              {0x2DC, 0x303},
                                              {0x2DD, 0x30B}}};

char32_t only_character(std::string_view characters) {
  std::size_t at = 0;
  if (characters.empty()) return 0;
  const char32_t c = objects::next_code_point(characters, at);
  return at == characters.size() ? c : 0;
}

// The combining mark that a letter is, or stands for; zero for none.
char32_t mark_of(const Letter& letter) {
  if (letter.is_blank || letter.is_unknown || letter.characters.size() > 4) return 0;
  const char32_t c = only_character(letter.characters);
  if (c < 0x5E) return 0;
  const auto known = std::find_if(kAccents.begin(), kAccents.end(),
                                  [&](const Accent& accent) { return accent.alone == c; });
  if (known != kAccents.end()) return known->mark;
  return c >= 0x300 && c < 0x370 ? c : 0;
}

// One character of a letter and a mark; empty where there is none.
std::string composed(const Letter& letter, char32_t mark) {
  char32_t base = only_character(letter.characters);
  constexpr char32_t kDotlessI = 0x131;
  constexpr char32_t kDotlessJ = 0x237;
  if (base == kDotlessI) base = 'i';
  if (base == kDotlessJ) base = 'j';
  if (base == 0 || u_isalpha(static_cast<UChar32>(base)) == 0) return {};
  UErrorCode status = U_ZERO_ERROR;
  const icu::Normalizer2* normalizer = icu::Normalizer2::getNFCInstance(status);
  if (U_FAILURE(status)) return {};
  const UChar32 whole =
      normalizer->composePair(static_cast<UChar32>(base), static_cast<UChar32>(mark));
  if (whole < 0) return {};
  std::string utf8;
  icu::UnicodeString(whole).toUTF8String(utf8);
  return utf8;
}

// Marks that combine follow their letter, at whose end they are put, wherever their ink is then.
bool combines_with(const Letter& mark, const Letter& before) {
  constexpr float kGap = 0.1F;  // of the font size
  return !before.is_blank && before.bend < 0 && mark.begin >= before.begin &&
         mark.begin - before.end < kGap * mark.size &&
         std::abs(mark.base - before.base) < 0.6F * before.size;
}

// Whether an accent stands over or under a letter, and not beside it.
bool stand_together(const Letter& accent, const Letter& letter) {
  if (letter.is_blank || accent.bend >= 0 || letter.bend >= 0) return false;
  const float middle = (accent.begin + accent.end) / 2;
  const float spare = 0.15F * letter.width();
  return middle > letter.begin + spare && middle < letter.end - spare &&
         std::abs(accent.base - letter.base) < 0.6F * letter.size &&
         accent.size < 1.5F * letter.size && letter.size < 1.5F * accent.size;
}

}  // namespace

void compose_accents(Direction& direction) {
  auto& letters = direction.letters;
  std::size_t kept = 0;
  for (std::size_t i = 0; i < letters.size(); ++i) {
    const Letter& letter = letters[i];
    const char c = letter.is_plain ? letter.characters[0] : '^';
    const bool is_letter = c != '^' && c != '`' && c != '~';
    const char32_t mark = is_letter || letter.is_blank ? 0 : mark_of(letter);
    const bool is_combining = mark != 0 && letter.characters.size() == 2 && !letter.is_plain &&
                              only_character(letter.characters) == mark;
    const auto put_onto = [&](Letter& base) {
      if (!stand_together(letter, base) && !(is_combining && combines_with(letter, base)))
        return false;
      std::string whole = composed(base, mark);
      if (whole.empty()) return false;
      base.characters = direction.made.emplace_back(std::move(whole));
      base.is_plain = false;
      base.top = std::min(base.top, letter.top);
      base.bottom = std::max(base.bottom, letter.bottom);
      return true;
    };
    // Accents that stand by themselves come before their letter as well.
    if (mark != 0 && ((is_combining && kept > 0 && put_onto(letters[kept - 1])) ||
                      (i + 1 < letters.size() && put_onto(letters[i + 1])) ||
                      (!is_combining && kept > 0 && put_onto(letters[kept - 1]))))
      continue;
    if (kept != i) letters[kept] = letter;
    ++kept;
  }
  letters.resize(kept);
}

std::string without_ligatures(std::string_view characters) {
  const auto is_ligature = [](char32_t c) {
    return (c >= 0xFB00 && c <= 0xFB17) || (c >= 0xFB50 && c < 0xFD3E) ||
           (c >= 0xFD50 && c < 0xFDFD) || (c >= 0xFE70 && c < 0xFEFD);
  };
  std::string apart;
  for (std::size_t at = 0; at < characters.size();) {
    const std::size_t begin = at;
    const char32_t c = objects::next_code_point(characters, at);
    UErrorCode status = U_ZERO_ERROR;
    icu::UnicodeString parts;
    if (is_ligature(c) &&
        icu::Normalizer2::getNFKCInstance(status)->getDecomposition(static_cast<UChar32>(c), parts))
      parts.toUTF8String(apart);
    else
      apart += characters.substr(begin, at - begin);
  }
  return apart;
}

}  // namespace lumvet::text

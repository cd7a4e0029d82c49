// SPDX-License-Identifier: Apache-2.0
#include "fonts/substitute.h"

#include <fontconfig/fontconfig.h>

#include <algorithm>
#include <map>
#include <mutex>
#include <tuple>
#include <utility>
#include <vector>

#include "io/whole_file.h"

namespace lumvet::fonts {

std::string letters_only(const std::string& name) {
  std::string letters;
  for (const char c : name) {
    if (c >= 'A' && c <= 'Z') letters += static_cast<char>(c - 'A' + 'a');
    if (c >= 'a' && c <= 'z') letters += c;
  }
  return letters;
}

std::uint32_t sample_character(const std::string& language) {
  if (language == "ja") return 0x3042;  // a letter of the kana
  if (language == "ko") return 0xAC00;
  return language.empty() ? 0 : 0x4E2D;
}

namespace {

struct Family {
  const char* part;  // of the name, in lower case, letters only
  std::vector<const char*> families;
};

bool contains(const std::string& text, const char* part) {
  return text.find(part) != std::string::npos;
}

// Families with the standard fonts' own widths first.
std::vector<const char*> families_for(const FontWish& wish, const std::string& letters) {
  static const std::vector<const char*> kSans = {"Nimbus Sans", "Liberation Sans", "DejaVu Sans"};
  static const std::vector<const char*> kSerif = {"Nimbus Roman", "Liberation Serif",
                                                  "DejaVu Serif"};
  static const std::vector<const char*> kFixed = {"Nimbus Mono PS", "Liberation Mono",
                                                  "DejaVu Sans Mono"};
  static const std::vector<Family> kKnown = {
      {"zapfdingbats", {"D050000L", "DejaVu Sans"}},
      {"symbol", {"Standard Symbols PS", "DejaVu Sans"}},
      {"courier", kFixed},
      {"helvetica", kSans},
      {"arialnarrow", {"Nimbus Sans Narrow", "Liberation Sans Narrow", "Nimbus Sans"}},
      {"arial", kSans},
      {"times", kSerif},
      {"palatino", {"P052", "Nimbus Roman"}},
      {"bookman", {"URW Bookman", "Nimbus Roman"}},
      {"schoolbook", {"C059", "Nimbus Roman"}},
      {"avantgarde", {"URW Gothic", "Nimbus Sans"}},
      {"chancery", {"Z003", "Nimbus Roman"}}};
  for (const Family& family : kKnown)
    if (contains(letters, family.part)) return family.families;
  if (wish.fixed_pitch || contains(letters, "mono")) return kFixed;
  return wish.serif ? kSerif : kSans;
}

// The file of a font that fontconfig knows.
std::shared_ptr<const FontProgram> load_file(FcPattern* font, bool needs_outlines = true) {
  FcChar8* file = nullptr;
  int index = 0;
  if (FcPatternGetString(font, FC_FILE, 0, &file) != FcResultMatch) return nullptr;
  FcPatternGetInteger(font, FC_INDEX, 0, &index);
  Result<Bytes> bytes = whole_file(reinterpret_cast<const char*>(file));
  if (!bytes.ok()) return nullptr;
  auto loaded = FontProgram::load(*std::move(bytes), index, needs_outlines);
  return loaded.ok() ? *std::move(loaded) : nullptr;
}

// The face that comes nearest to a pattern, which goes.
std::shared_ptr<const FontProgram> load_nearest(FcPattern* pattern) {
  FcConfigSubstitute(nullptr, pattern, FcMatchPattern);
  FcDefaultSubstitute(pattern);
  FcResult result = FcResultNoMatch;
  FcPattern* match = FcFontMatch(nullptr, pattern, &result);
  std::shared_ptr<const FontProgram> program;
  if (match != nullptr) {
    program = load_file(match);
    FcPatternDestroy(match);
  }
  FcPatternDestroy(pattern);
  return program;
}

bool can_be_embedded(FcPattern* font) {
  FcChar8* text = nullptr;
  if (FcPatternGetString(font, FC_FONTFORMAT, 0, &text) != FcResultMatch) return false;
  const std::string_view format(reinterpret_cast<const char*>(text));
  return format == "TrueType" || format == "CFF";
}

// The nearest of those that can be embedded. The pattern goes.
std::shared_ptr<const FontProgram> load_embeddable(FcPattern* pattern) {
  FcConfigSubstitute(nullptr, pattern, FcMatchPattern);
  FcDefaultSubstitute(pattern);
  FcResult result = FcResultNoMatch;
  FcFontSet* sorted = FcFontSort(nullptr, pattern, FcFalse, nullptr, &result);
  std::shared_ptr<const FontProgram> program;
  for (int i = 0; sorted != nullptr && i < sorted->nfont && !program; ++i) {
    if (!can_be_embedded(sorted->fonts[i])) continue;
    FcPattern* font = FcFontRenderPrepare(nullptr, pattern, sorted->fonts[i]);
    if (font == nullptr) continue;
    program = load_file(font, false);
    FcPatternDestroy(font);
  }
  if (sorted != nullptr) FcFontSetDestroy(sorted);
  FcPatternDestroy(pattern);
  return program;
}

std::shared_ptr<const FontProgram> load_match(const FontWish& wish) {
  const std::string letters = letters_only(wish.name);
  const bool bold = wish.bold || contains(letters, "bold") || contains(letters, "black");
  const bool italic = wish.italic || contains(letters, "italic") || contains(letters, "oblique");
  FcPattern* pattern = FcPatternCreate();
  if (pattern == nullptr) return nullptr;
  // By language it is the characters that matter, not the family.
  if (wish.language.empty())
    for (const char* family : families_for(wish, letters))
      FcPatternAddString(pattern, FC_FAMILY, reinterpret_cast<const FcChar8*>(family));
  if (!wish.language.empty()) {
    FcCharSet* characters = FcCharSetCreate();
    FcCharSetAddChar(characters, sample_character(wish.language));
    FcPatternAddCharSet(pattern, FC_CHARSET, characters);
    FcCharSetDestroy(characters);
    FcPatternAddString(pattern, FC_LANG, reinterpret_cast<const FcChar8*>(wish.language.c_str()));
  }
  FcPatternAddInteger(pattern, FC_WEIGHT, bold ? FC_WEIGHT_BOLD : FC_WEIGHT_REGULAR);
  FcPatternAddInteger(pattern, FC_SLANT, italic ? FC_SLANT_ITALIC : FC_SLANT_ROMAN);
  FcPatternAddBool(pattern, FC_SCALABLE, FcTrue);
  return load_nearest(pattern);
}

std::shared_ptr<const FontProgram> find_on_system(const FontWish& wish) {
  static std::mutex mutex;
  static std::map<std::string, std::shared_ptr<const FontProgram>> loaded;
  const std::string key = wish.name + (wish.serif ? "|s" : "|") + (wish.fixed_pitch ? "f" : "") +
                          (wish.italic ? "i" : "") + (wish.bold ? "b" : "") + wish.language;
  const std::lock_guard lock(mutex);
  const auto found = loaded.find(key);
  if (found != loaded.end()) return found->second;
  constexpr std::size_t kMostKept = 64;
  if (loaded.size() >= kMostKept) loaded.clear();
  auto program = load_match(wish);
  // The nearest may still lack the language altogether.
  if (program && !wish.language.empty() &&
      program->glyph_for_unicode(sample_character(wish.language)) == 0)
    program = nullptr;
  return loaded.emplace(key, std::move(program)).first->second;
}

}  // namespace

std::shared_ptr<const FontProgram> find_substitute(const FontWish& wish,
                                                   const FontMatcher& supplied) {
  if (auto named = supplied.named(wish)) return named;
  if (supplied.uses_system)
    if (auto of_system = find_on_system(wish)) return of_system;
  return supplied.nearest(wish);
}

namespace {

// The file of a font of the system, loaded once.
std::shared_ptr<const FontProgram> kept_file(FcPattern* font, bool needs_outlines = true) {
  static std::map<std::pair<std::string, int>, std::shared_ptr<const FontProgram>> kept;
  FcChar8* file = nullptr;
  int index = 0;
  if (FcPatternGetString(font, FC_FILE, 0, &file) != FcResultMatch) return nullptr;
  FcPatternGetInteger(font, FC_INDEX, 0, &index);
  const std::pair key{std::string(reinterpret_cast<const char*>(file)), index};
  const auto [known, is_new] = kept.try_emplace(key);
  if (is_new) known->second = load_file(font, needs_outlines);
  return known->second;
}

bool is_colored(FcPattern* font) {
  FcBool colored = FcFalse;
  return FcPatternGetBool(font, FC_COLOR, 0, &colored) == FcResultMatch && colored == FcTrue;
}

// One that can be embedded, or one whose letters are pictures.
std::shared_ptr<const FontProgram> load_with_character(char32_t character, const FontWish& wish,
                                                       bool is_pictured) {
  FcPattern* pattern = FcPatternCreate();
  if (pattern == nullptr) return nullptr;
  FcCharSet* characters = FcCharSetCreate();
  FcCharSetAddChar(characters, character);
  FcPatternAddCharSet(pattern, FC_CHARSET, characters);
  FcPatternAddInteger(pattern, FC_WEIGHT, wish.bold ? FC_WEIGHT_BOLD : FC_WEIGHT_REGULAR);
  FcPatternAddInteger(pattern, FC_SLANT, wish.italic ? FC_SLANT_ITALIC : FC_SLANT_ROMAN);
  FcPatternAddBool(pattern, is_pictured ? FC_COLOR : FC_SCALABLE, FcTrue);
  FcConfigSubstitute(nullptr, pattern, FcMatchPattern);
  FcDefaultSubstitute(pattern);
  FcResult result = FcResultNoMatch;
  FcFontSet* sorted = FcFontSort(nullptr, pattern, FcFalse, nullptr, &result);
  std::shared_ptr<const FontProgram> program;
  for (int i = 0; sorted != nullptr && i < sorted->nfont && !program; ++i) {
    FcCharSet* own = nullptr;
    if (is_colored(sorted->fonts[i]) != is_pictured || !can_be_embedded(sorted->fonts[i]) ||
        FcPatternGetCharSet(sorted->fonts[i], FC_CHARSET, 0, &own) != FcResultMatch ||
        FcCharSetHasChar(own, character) == FcFalse)
      continue;
    program = kept_file(sorted->fonts[i], !is_pictured);
    if (program && program->glyph_for_unicode(character) == 0) program = nullptr;
  }
  if (sorted != nullptr) FcFontSetDestroy(sorted);
  FcCharSetDestroy(characters);
  FcPatternDestroy(pattern);
  return program;
}

}  // namespace

std::shared_ptr<const FontProgram> find_with_character(char32_t character, const FontWish& wish,
                                                       const FontMatcher& supplied) {
  if (auto own = supplied.with_character(character, wish)) return own;
  if (!supplied.uses_system) return nullptr;
  static std::mutex mutex;
  static std::map<std::tuple<char32_t, bool, bool>, std::shared_ptr<const FontProgram>> found;
  const std::lock_guard lock(mutex);
  const auto [known, is_new] = found.try_emplace({character, wish.bold, wish.italic});
  if (is_new) known->second = load_with_character(character, wish, false);
  return known->second;
}

std::shared_ptr<const FontProgram> find_pictured(char32_t character) {
  static std::mutex mutex;
  static std::map<char32_t, std::shared_ptr<const FontProgram>> found;
  const std::lock_guard lock(mutex);
  const auto [known, is_new] = found.try_emplace(character);
  if (is_new) known->second = load_with_character(character, {}, true);
  return known->second;
}

namespace {

std::string in_lower_case(std::string text) {
  for (char& c : text)
    if (c >= 'A' && c <= 'Z') c = static_cast<char>(c - 'A' + 'a');
  return text;
}

}  // namespace

namespace {

// The nearest to a name, each loaded once.
Result<std::shared_ptr<const FontProgram>> face_of_system(const std::string& name) {
  static std::mutex mutex;
  static std::map<std::string, std::shared_ptr<const FontProgram>> loaded;
  const std::lock_guard lock(mutex);
  if (const auto known = loaded.find(name); known != loaded.end()) return known->second;
  const char* const asked = name.empty() ? "Liberation Sans, DejaVu Sans" : name.c_str();
  FcPattern* pattern = FcNameParse(reinterpret_cast<const FcChar8*>(asked));
  if (pattern == nullptr)
    return Error(ErrorCode::invalid_argument, "'" + name + "' is not the name of a font");
  FcPatternAddBool(pattern, FC_SCALABLE, FcTrue);
  constexpr std::size_t kMostKept = 64;
  if (loaded.size() >= kMostKept) loaded.clear();
  return loaded.emplace(name, load_embeddable(pattern)).first->second;
}

}  // namespace

Result<std::shared_ptr<const FontProgram>> find_face(const std::string& name,
                                                     const FontMatcher& supplied) {
  const FontWish wish{.name = name};
  if (auto named = supplied.named(wish)) return named;
  std::shared_ptr<const FontProgram> face;
  if (name.empty() && !supplied.uses_system) face = supplied.nearest(wish);
  if (supplied.uses_system) {
    LUMVET_TRY(face, face_of_system(name));
  }
  const std::string wanted = in_lower_case(name.substr(0, name.find(':')));
  if (face && (name.empty() || in_lower_case(face->family()) == wanted)) return face;
  return Error(ErrorCode::invalid_argument,
               name.empty() ? "there is no font to write with; supply one"
                            : "there is no font called '" + name +
                                  "' to write with; supply its file, or name another");
}

}  // namespace lumvet::fonts

// SPDX-License-Identifier: Apache-2.0
#include "draw/hyphenation.h"

#include <hyphen.h>
#include <unicode/ucnv.h>

#include <cctype>
#include <cstdlib>
#include <filesystem>
#include <map>
#include <memory>
#include <mutex>

namespace lumvet::draw {
namespace {

struct Close {
  void operator()(HyphenDict* patterns) const { hnj_hyphen_free(patterns); }
  void operator()(UConverter* converter) const { ucnv_close(converter); }
};

struct Patterns {
  std::unique_ptr<HyphenDict, Close> dict;
  std::unique_ptr<UConverter, Close> to_own;  // from UTF-16 to the patterns' own encoding
};

// "hyph_de_AT.dic", then "hyph_de.dic", then what the language's own country has.
std::vector<std::string> files_of(std::string language) {
  for (char& c : language)
    if (c == '-') c = '_';
  if (language.empty()) language = "en_US";
  // Names of languages have no signs that mean something in paths.
  for (const char c : language)
    if (c != '_' && std::isalnum(static_cast<unsigned char>(c)) == 0) return {};
  const std::string plain = language.substr(0, language.find('_'));
  std::string country = plain;
  for (char& c : country) c = static_cast<char>(c >= 'a' && c <= 'z' ? c - 'a' + 'A' : c);
  return {"hyph_" + language + ".dic", "hyph_" + plain + ".dic",
          "hyph_" + plain + "_" + country + ".dic",
          plain == "en" ? "hyph_en_US.dic" : "hyph_" + plain + ".dic"};
}

std::unique_ptr<Patterns> load(const std::string& language) {
  for (const char* folder : {"/usr/local/share/hyphen", "/usr/share/hyphen"})
    for (const std::string& name : files_of(language)) {
      const std::filesystem::path path = std::filesystem::path(folder) / name;
      std::error_code failed;
      if (!std::filesystem::exists(path, failed)) continue;
      auto patterns = std::make_unique<Patterns>();
      patterns->dict.reset(hnj_hyphen_load(path.c_str()));
      if (!patterns->dict) continue;
      UErrorCode error = U_ZERO_ERROR;
      patterns->to_own.reset(ucnv_open(patterns->dict->cset, &error));
      if (U_SUCCESS(error)) return patterns;
    }
  return nullptr;
}

}  // namespace

std::vector<int> divisions_of(std::u16string_view word, const std::string& language) {
  static std::mutex mutex;
  static std::map<std::string, std::unique_ptr<Patterns>> known;
  constexpr std::size_t kLongest = 100;
  if (word.size() > kLongest) return {};
  const std::lock_guard lock(mutex);
  const auto [found, is_new] = known.try_emplace(language);
  if (is_new) found->second = load(language);
  if (!found->second) return {};
  Patterns& patterns = *found->second;
  // Bytes of the word in the patterns' encoding, and the unit that each is of.
  std::string bytes;
  std::vector<int> units;
  for (std::size_t at = 0; at < word.size(); ++at) {
    UErrorCode failed = U_ZERO_ERROR;
    char own[16];
    const int length =
        ucnv_fromUChars(patterns.to_own.get(), own, sizeof own, word.data() + at, 1, &failed);
    if (U_FAILURE(failed) || length <= 0) return {};
    bytes.append(own, static_cast<std::size_t>(length));
    units.insert(units.end(), static_cast<std::size_t>(length), static_cast<int>(at));
  }
  std::string marks(bytes.size() + 5, '\0');
  char** replaced = nullptr;
  int* places = nullptr;
  int* cuts = nullptr;
  hnj_hyphen_hyphenate2(patterns.dict.get(), bytes.data(), static_cast<int>(bytes.size()),
                        marks.data(), nullptr, &replaced, &places, &cuts);
  std::vector<int> divisions;
  for (std::size_t i = 0; i + 1 < units.size(); ++i) {
    // Those that change letters are left alone.
    const bool changes = replaced != nullptr && replaced[i] != nullptr;
    if ((marks[i] & 1) != 0 && !changes) divisions.push_back(units[i + 1]);
  }
  if (replaced != nullptr) {
    for (std::size_t i = 0; i < bytes.size(); ++i) std::free(replaced[i]);
    std::free(replaced);
    std::free(places);
    std::free(cuts);
  }
  return divisions;
}

}  // namespace lumvet::draw

// SPDX-License-Identifier: Apache-2.0
#include "fonts/character_collection.h"

#include <span>

namespace lumvet::fonts {
namespace {

using Run = CharacterCollection::Run;

#include "fonts/collection_tables.inc"

constexpr char32_t kUnknown = 0xFFFD;

std::vector<char32_t> characters_of(std::u16string_view text) {
  std::vector<char32_t> characters;
  characters.reserve(text.size());
  for (std::size_t i = 0; i < text.size(); ++i) {
    const char32_t unit = text[i];
    const bool is_pair = unit >= 0xD800 && unit < 0xDC00;
    characters.push_back(is_pair ? 0x10000 + ((unit - 0xD800) << 10) + (text[++i] - 0xDC00) : unit);
  }
  return characters;
}

std::optional<std::uint32_t> found_in(const std::unordered_map<std::uint32_t, std::uint32_t>& pairs,
                                      std::uint32_t key) {
  const auto found = pairs.find(key);
  return found == pairs.end() ? std::nullopt : std::optional(found->second);
}

}  // namespace

struct CharacterCollection::Tables {
  std::u16string_view text;        // the characters in the order of their CIDs
  std::span<const Run> others;     // characters whose CID is not the first that shows them
  std::span<const Run> upright{};  // CIDs to CIDs
  std::span<const Run> wide{};
  std::span<const Run> newer{};
};

const CharacterCollection* CharacterCollection::named(std::string_view ordering) {
  if (ordering == "Japan1") {
    static const CharacterCollection kJapanese(
        {kJapan1, kJapan1Others, kJapan1Vertical, kJapan1Wide, kJapan1Newer});
    return &kJapanese;
  }
  if (ordering == "GB1") {
    static const CharacterCollection kChinese({kGb1, kGb1Others, kGb1Vertical});
    return &kChinese;
  }
  if (ordering == "CNS1") {
    static const CharacterCollection kTaiwanese({kCns1, {}, kCns1Vertical});
    return &kTaiwanese;
  }
  if (ordering == "Korea1") {
    static const CharacterCollection kKorean({kKorea1, {}});
    return &kKorean;
  }
  return nullptr;
}

CharacterCollection::CharacterCollection(const Tables& tables)
    : characters_(characters_of(tables.text)) {
  const auto take = [](std::span<const Run> runs, Pairs& pairs) {
    for (const Run& run : runs)
      for (std::uint32_t i = 0; i < run.count; ++i) pairs[run.first + i] = run.to + i;
  };
  take(tables.others, cids_);
  take(tables.upright, upright_);
  take(tables.wide, wide_);
  take(tables.newer, newer_);
  for (const auto& [plain, form] : upright_) upright_forms_.insert(form);
  cids_.reserve(cids_.size() + characters_.size());
  for (std::uint32_t cid = 1; cid < characters_.size(); ++cid)
    if (characters_[cid] != kUnknown) cids_.try_emplace(characters_[cid], cid);
}

std::optional<std::uint32_t> CharacterCollection::cid(std::uint32_t character, Form form) const {
  if (form != Form::usual) {
    const auto own = found_in(form == Form::wide ? wide_ : newer_, character);
    if (own) return own;
  }
  return found_in(cids_, character);
}

std::optional<std::uint32_t> CharacterCollection::character(std::uint32_t cid) const {
  if (cid >= characters_.size() || characters_[cid] == kUnknown) return std::nullopt;
  return characters_[cid];
}

std::uint32_t CharacterCollection::upright(std::uint32_t cid) const {
  return found_in(upright_, cid).value_or(cid);
}

bool CharacterCollection::is_upright(std::uint32_t cid) const {
  return upright_forms_.contains(cid);
}

}  // namespace lumvet::fonts

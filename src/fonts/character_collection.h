// SPDX-License-Identifier: Apache-2.0
// The character collections that predefined code maps lead to (ISO 32000-2, 9.7.3): the characters
// that their identifiers (CIDs) stand for, and back. Japan1 is whole as far as code maps lead; GB1
// lacks Extension A, Korea1 its Chinese characters, CNS1 what came after Big5.
//
// Threads: immutable, share freely; the first use of each collection makes its tables.
#pragma once

#include <cstdint>
#include <optional>
#include <string_view>
#include <unordered_map>
#include <unordered_set>
#include <vector>

namespace lumvet::fonts {

class CharacterCollection {
 public:
  // By the /Ordering of Adobe's registry: Japan1, GB1, Korea1, CNS1. Null for others.
  static const CharacterCollection* named(std::string_view ordering);

  // Which identifier a character has where it is drawn in several ways.
  enum class Form {
    usual,
    wide,   // of codes of two bytes, and of the first code maps of Unicode: as wide as a Han
            // character
    newer,  // as Japan's standard of 2004 draws it
  };
  std::optional<std::uint32_t> cid(std::uint32_t character, Form form = Form::usual) const;
  std::optional<std::uint32_t> character(std::uint32_t cid) const;
  // The form for lines that run downward; the same one where it has no other.
  std::uint32_t upright(std::uint32_t cid) const;
  bool is_upright(std::uint32_t cid) const;  // one of those forms

  struct Run {
    std::uint32_t first;
    std::uint32_t to;  // the next one to the next, and so on
    std::uint32_t count;
  };
  struct Tables;

 private:
  using Pairs = std::unordered_map<std::uint32_t, std::uint32_t>;

  explicit CharacterCollection(const Tables& tables);

  std::vector<char32_t> characters_;  // by CID
  Pairs cids_;
  Pairs wide_;
  Pairs newer_;
  Pairs upright_;
  std::unordered_set<std::uint32_t> upright_forms_;
};

}  // namespace lumvet::fonts

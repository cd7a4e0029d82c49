// SPDX-License-Identifier: Apache-2.0
// The code maps for Chinese, Japanese and Korean that documents name and do not bring along (ISO
// 32000-2, 9.7.5.2): where codes end, which characters they are, and which identifiers these have
// in the map's collection. What makers of computers added to the standards' own codes leads to an
// identifier where the collection knows the character.
//
// Threads: internally synchronized.
#pragma once

#include <memory>
#include <optional>
#include <string_view>

#include "fonts/character_collection.h"
#include "fonts/code_map.h"

namespace lumvet::fonts {

class PredefinedEncoding final : public CodeMap {
 public:
  // Null for a name that is none.
  static std::shared_ptr<const PredefinedEncoding> named(std::string_view name);
  ~PredefinedEncoding() override;

  bool is_vertical() const override { return vertical_; }
  CodeRead next(std::string_view text) const override;
  std::optional<std::uint32_t> cid(const CodeRead& read) const override;
  std::optional<std::uint32_t> character(const CodeRead& read) const override;
  // Half of others for codes of one byte, and for characters that are so by custom.
  std::optional<double> usual_width(const CodeRead& read) const override;
  const CharacterCollection& collection() const { return collection_; }

 private:
  enum class Lengths { two, four, utf8, utf16, shift_jis, extended_unix, big, national };
  struct Family;
  struct Converter;

  explicit PredefinedEncoding(const Family& family, bool vertical);
  static const Family* find(std::string_view name);

  const Family& family_;
  const CharacterCollection& collection_;
  bool vertical_;
  std::unique_ptr<Converter> converter_;
};

}  // namespace lumvet::fonts

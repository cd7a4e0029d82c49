// SPDX-License-Identifier: Apache-2.0
// The code maps for Chinese, Japanese and Korean that documents name and do not bring along (ISO
// 32000-2, 9.7.5.2): where codes end, and which characters they are. The identifiers that the maps
// give to codes are not known here; what matters is that characters can be shown with any font
// that has them.
//
// Threads: internally synchronized.
#pragma once

#include <memory>
#include <optional>
#include <string_view>

#include "fonts/cmap.h"

namespace lumvet::fonts {

class PredefinedEncoding {
 public:
  // Null for a name that is none.
  static std::shared_ptr<const PredefinedEncoding> named(std::string_view name);
  ~PredefinedEncoding();

  bool is_vertical() const { return vertical_; }
  // At the end of a text always at least one byte. `text` is not empty.
  CodeRead next(std::string_view text) const;
  std::optional<std::uint32_t> unicode(const CodeRead& read) const;
  // Of codes of one byte, and of characters that are by custom half as wide as others, in units of
  // the font size; nothing for the others, whose width the font states.
  std::optional<double> usual_width(const CodeRead& read) const;

 private:
  enum class Lengths { two, four, utf8, utf16, shift_jis, extended_unix, big, national };
  struct Family;
  struct Converter;

  explicit PredefinedEncoding(const Family& family, bool vertical);
  static const Family* find(std::string_view name);

  Lengths lengths_;
  bool is_row_cell_;  // two bytes of seven bits: rows and cells of a national standard
  bool vertical_;
  std::unique_ptr<Converter> converter_;
};

}  // namespace lumvet::fonts

// SPDX-License-Identifier: Apache-2.0
// What leads from the codes of a text to the identifiers of its characters (ISO 32000-2, 9.7.5): a
// map that a document brings along, or one that it names.
//
// Threads: immutable once read, share freely.
#pragma once

#include <cstdint>
#include <optional>
#include <string_view>

namespace lumvet::fonts {

struct CodeRead {
  std::uint32_t code = 0;
  std::size_t bytes = 1;
};

class CodeMap {
 public:
  virtual ~CodeMap() = default;
  virtual bool is_vertical() const = 0;
  // The next code of a text; at its end always at least one byte. `text` is not empty.
  virtual CodeRead next(std::string_view text) const = 0;
  // Whether all codes are of two bytes, and all of two bytes are codes.
  virtual bool is_two_bytes() const { return false; }
  // Nothing for codes that have none, or whose identifier is not known.
  virtual std::optional<std::uint32_t> cid(const CodeRead& read) const = 0;
  // Where the map itself tells it.
  virtual std::optional<std::uint32_t> character(const CodeRead& read) const = 0;
  // Of codes whose identifier is not known, in units of the font size; nothing where the font's
  // own width is as good.
  virtual std::optional<double> usual_width(const CodeRead& read) const = 0;

 protected:
  CodeMap() = default;
  CodeMap(const CodeMap&) = default;
  CodeMap(CodeMap&&) = default;
  CodeMap& operator=(const CodeMap&) = default;
  CodeMap& operator=(CodeMap&&) = default;
};

}  // namespace lumvet::fonts

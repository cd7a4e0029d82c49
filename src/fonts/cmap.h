// SPDX-License-Identifier: Apache-2.0
// CMaps: codes of one to four bytes to character identifiers (ISO 32000-2, 9.7.5), or to Unicode
// (9.10.3).
//
// Threads: immutable once read, share freely.
#pragma once

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "fonts/code_map.h"
#include "lumvet/base/bytes.h"
#include "lumvet/base/result.h"

namespace lumvet::fonts {

class CMap final : public CodeMap {
 public:
  // Identity-H and Identity-V: two bytes are the identifier.
  static CMap identity(bool vertical);
  // One that may build on another, which gives the identifiers it does not give itself. Errors:
  // malformed for what is not a CMap at all.
  static Result<CMap> parse(ByteView bytes, std::shared_ptr<const CodeMap> base = nullptr);
  // The name that it builds on by itself, in its text; empty without one.
  static std::string base_name(ByteView bytes);

  bool is_vertical() const override { return vertical_; }
  CodeRead next(std::string_view text) const override;
  bool is_two_bytes() const override { return is_two_bytes_; }
  std::optional<std::uint32_t> cid(const CodeRead& read) const override;
  // Those of what it builds on.
  std::optional<std::uint32_t> character(const CodeRead& read) const override;
  std::optional<double> usual_width(const CodeRead& read) const override;
  // The first character that a ToUnicode CMap gives for a code.
  std::optional<std::uint32_t> unicode(std::uint32_t code) const;
  // All of them, in UTF-8; empty without any.
  std::string text(std::uint32_t code) const;

 private:
  struct Space {
    std::size_t bytes;
    std::uint32_t low;
    std::uint32_t high;
  };
  struct Range {
    std::uint32_t last;
    std::uint32_t cid;
  };
  class Reader;

  std::optional<std::uint32_t> own_cid(const CodeRead& read) const;

  std::shared_ptr<const CodeMap> base_;
  bool vertical_ = false;
  bool identity_ = false;
  std::vector<Space> spaces_;
  bool is_two_bytes_ = false;
  // By the length of their codes in bytes and the first of them.
  using Ranges = std::map<std::pair<std::size_t, std::uint32_t>, Range>;
  static constexpr std::size_t kAnyLength = 0;  // of codes that characters are known of
  Ranges ranges_;
  Ranges unicodes_;
  std::map<std::uint32_t, std::string> texts_;  // of more than one character, in UTF-8
};

}  // namespace lumvet::fonts

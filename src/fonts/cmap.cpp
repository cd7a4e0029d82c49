// SPDX-License-Identifier: Apache-2.0
#include "fonts/cmap.h"

#include <algorithm>
#include <iterator>

#include "base/allowance.h"
#include "objects/parser.h"
#include "objects/text_string.h"

namespace lumvet::fonts {
namespace {

std::uint32_t number_of(std::string_view bytes) {
  std::uint32_t value = 0;
  for (const char c : bytes.substr(0, 4)) value = value << 8 | static_cast<std::uint8_t>(c);
  return value;
}

// Of the UTF-16BE text that a ToUnicode entry holds.
std::uint32_t first_character(std::string_view utf16) {
  if (utf16.size() < 2) return number_of(utf16);
  const std::uint32_t first = number_of(utf16.substr(0, 2));
  if (first < 0xD800 || first >= 0xDC00 || utf16.size() < 4) return first;
  return 0x10000 + ((first - 0xD800) << 10) + (number_of(utf16.substr(2, 2)) - 0xDC00);
}

}  // namespace

// Reads the operators of the PostScript-like text that matter (Adobe technical note 5014).
class CMap::Reader {
 public:
  Reader(ByteView bytes, std::shared_ptr<const CodeMap> base)
      : parser_(bytes, 0, objects::References::none, 16) {
    cmap_.vertical_ = base && base->is_vertical();
    cmap_.base_ = std::move(base);
  }

  // Of the first that is named.
  std::string base_name() {
    while (goes_on()) {
      auto parsed = parser_.next();
      if (!parsed.ok()) continue;
      if (parsed->kind == objects::Parsed::Kind::end) return "";
      if (parsed->kind == objects::Parsed::Kind::value)
        operands_.assign(1, std::move(parsed->value));
      else if (parsed->keyword == "usecmap" && !operands_.empty())
        return std::string(operands_.back().as_name());
    }
    return "";
  }

  Result<CMap> read() {
    bool any = false;
    while (goes_on()) {
      auto parsed = parser_.next();
      if (!parsed.ok()) continue;  // brackets of dictionaries that do not matter here
      if (parsed->kind == objects::Parsed::Kind::end) break;
      if (parsed->kind == objects::Parsed::Kind::value) {
        constexpr std::size_t kMostOperands = 3 * 65536;  // of all codes of two bytes
        if (operands_.size() < kMostOperands) operands_.push_back(std::move(parsed->value));
        continue;
      }
      any = apply(parsed->keyword) || any;
      operands_.clear();
    }
    if (!any && !cmap_.base_) return Error(ErrorCode::malformed, "a CMap without any mapping");
    cmap_.is_two_bytes_ = !cmap_.base_ && cmap_.spaces_.size() == 1 &&
                          cmap_.spaces_[0].bytes == 2 && cmap_.spaces_[0].low == 0 &&
                          cmap_.spaces_[0].high == 0xFFFF;
    return std::move(cmap_);
  }

 private:
  bool apply(std::string_view word) {
    const auto& o = operands_;
    if (word == "endcodespacerange") {
      for (std::size_t i = 0; i + 1 < o.size(); i += 2) {
        const std::size_t bytes = o[i].as_string().size();
        // All are looked at for each code; the maps that there are have five at most.
        constexpr std::size_t kMostSpaces = 256;
        if (bytes >= 1 && bytes <= 4 && cmap_.spaces_.size() < kMostSpaces)
          cmap_.spaces_.push_back(
              {bytes, number_of(o[i].as_string()), number_of(o[i + 1].as_string())});
      }
    } else if (word == "endcidrange") {
      for (std::size_t i = 0; i + 2 < o.size(); i += 3)
        add_cids(o[i].as_string(), o[i + 1].as_string(), o[i + 2]);
    } else if (word == "endcidchar") {
      for (std::size_t i = 0; i + 1 < o.size(); i += 2)
        add_cids(o[i].as_string(), o[i].as_string(), o[i + 1]);
    } else if (word == "endbfrange") {
      for (std::size_t i = 0; i + 2 < o.size(); i += 3) add_unicodes(o[i], o[i + 1], o[i + 2]);
    } else if (word == "endbfchar") {
      for (std::size_t i = 0; i + 1 < o.size(); i += 2) add_unicodes(o[i], o[i], o[i + 1]);
    } else if (word == "def") {
      if (o.size() >= 2 && o[o.size() - 2].is_name("WMode"))
        cmap_.vertical_ = o.back().as_integer() == 1;
      return false;
    } else {
      return false;
    }
    return true;
  }

  static bool take_entry() {
    constexpr std::uint64_t kEntry = 64;  // bytes of a map's node
    return Allowance::take(kEntry);
  }

  // A range over those that are there: what is said later counts for the codes that it names, and
  // the others keep what they have.
  static void lay_over(Ranges& ranges, std::size_t bytes, std::uint32_t first, std::uint32_t last,
                       std::uint32_t value) {
    if (last < first) return;
    auto at = ranges.upper_bound({bytes, first});
    // None of those that are there lie over one another, so one of them at most begins before.
    if (at != ranges.begin()) {
      const auto before = std::prev(at);
      if (before->first.first == bytes && before->second.last >= first) at = before;
    }
    while (at != ranges.end() && at->first <= std::pair(bytes, last)) {
      const std::uint32_t start = at->first.second;
      const Range range = at->second;
      at = ranges.erase(at);
      if (start < first) ranges[{bytes, start}] = {first - 1, range.cid};
      if (range.last > last)
        ranges[{bytes, last + 1}] = {range.last, range.cid + (last + 1 - start)};
    }
    ranges[{bytes, first}] = {last, value};
  }

  void add_cids(std::string_view first, std::string_view last, const Object& cid) {
    if (!take_entry()) return;
    lay_over(cmap_.ranges_, first.size(), number_of(first), number_of(last),
             static_cast<std::uint32_t>(cid.as_integer()));
  }

  void add_unicodes(const Object& first, const Object& last, const Object& target) {
    const std::uint32_t low = number_of(first.as_string());
    const std::uint32_t high = number_of(last.as_string());
    if (!take_entry()) return;
    if (target.is_string()) {
      lay_over(cmap_.unicodes_, kAnyLength, low, high, first_character(target.as_string()));
      if (low == high) keep_text(low, target.as_string());
      return;
    }
    const Array& each = target.as_array();
    for (std::size_t i = 0; i < each.size() && low + i <= high && take_entry(); ++i) {
      const auto code = static_cast<std::uint32_t>(low + i);
      lay_over(cmap_.unicodes_, kAnyLength, code, code, first_character(each[i].as_string()));
      keep_text(code, each[i].as_string());
    }
  }

  void keep_text(std::uint32_t code, std::string_view utf16) {
    constexpr std::size_t kOneCharacter = 2;
    constexpr std::size_t kMost = 512;  // bytes; each glyph that is shown says all of it
    utf16 = utf16.substr(0, kMost);
    if (utf16.size() > kOneCharacter)
      cmap_.texts_[code] = objects::text_to_utf8("\xFE\xFF" + std::string(utf16));
  }

  objects::Parser parser_;
  std::vector<Object> operands_;
  CMap cmap_;
};

CMap CMap::identity(bool vertical) {
  CMap cmap;
  cmap.identity_ = true;
  cmap.vertical_ = vertical;
  cmap.spaces_ = {{2, 0, 0xFFFF}};
  cmap.is_two_bytes_ = true;
  return cmap;
}

Result<CMap> CMap::parse(ByteView bytes, std::shared_ptr<const CodeMap> base) {
  return Reader(bytes, std::move(base)).read();
}

std::string CMap::base_name(ByteView bytes) { return Reader(bytes, nullptr).base_name(); }

CodeRead CMap::next(std::string_view text) const {
  for (std::size_t bytes = 1; bytes <= 4 && bytes <= text.size(); ++bytes) {
    const std::uint32_t code = number_of(text.substr(0, bytes));
    for (const Space& space : spaces_) {
      if (space.bytes != bytes) continue;
      bool within = true;  // byte by byte: the spaces are rectangles (9.7.6.2)
      for (std::size_t i = 0; i < bytes; ++i) {
        const unsigned shift = static_cast<unsigned>(8 * i);
        const unsigned byte = code >> shift & 0xFF;
        within =
            within && byte >= (space.low >> shift & 0xFF) && byte <= (space.high >> shift & 0xFF);
      }
      if (within) return {code, bytes};
    }
  }
  if (base_) return base_->next(text);
  // What fits nowhere is as long as the shortest code.
  std::size_t shortest = spaces_.empty() ? 2 : 4;
  for (const Space& space : spaces_) shortest = std::min(shortest, space.bytes);
  shortest = std::min(shortest, text.size());
  return {number_of(text.substr(0, shortest)), shortest};
}

std::optional<std::uint32_t> CMap::cid(const CodeRead& read) const {
  if (const auto own = own_cid(read)) return own;
  return base_ ? base_->cid(read) : std::nullopt;
}

std::optional<std::uint32_t> CMap::character(const CodeRead& read) const {
  return base_ && !own_cid(read) ? base_->character(read) : std::nullopt;
}

std::optional<double> CMap::usual_width(const CodeRead& read) const {
  return base_ ? base_->usual_width(read) : std::nullopt;
}

std::optional<std::uint32_t> CMap::own_cid(const CodeRead& read) const {
  if (identity_) return read.code;
  auto found = ranges_.upper_bound({read.bytes, read.code});
  if (found == ranges_.begin()) return std::nullopt;
  --found;
  if (found->first.first != read.bytes || read.code > found->second.last) return std::nullopt;
  return found->second.cid + (read.code - found->first.second);
}

std::optional<std::uint32_t> CMap::unicode(std::uint32_t code) const {
  auto found = unicodes_.upper_bound({kAnyLength, code});
  if (found == unicodes_.begin()) return std::nullopt;
  --found;
  if (code > found->second.last) return std::nullopt;
  return found->second.cid + (code - found->first.second);
}

std::string CMap::text(std::uint32_t code) const {
  if (const auto known = texts_.find(code); known != texts_.end()) return known->second;
  std::string text;
  if (const auto character = unicode(code)) objects::append_utf8(*character, text);
  return text;
}

}  // namespace lumvet::fonts

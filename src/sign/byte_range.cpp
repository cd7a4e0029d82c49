// SPDX-License-Identifier: Apache-2.0
#include "sign/byte_range.h"

#include <algorithm>
#include <array>

#include "document/inside.h"
#include "io/source_parts.h"
#include "objects/lexer.h"
#include "sign/certificate_inside.h"

namespace lumvet::signing {
namespace {

constexpr std::uint64_t kMostHead = 1 << 20;  // bytes of an object in front of its string
constexpr std::string_view kBlanks{" \t\r\n\f\0", 6};

Error wrong(const std::string& why) {
  return Error(ErrorCode::malformed, "what is signed is not told as it must be: " + why);
}

// Whether the bytes are the string, and nothing besides.
bool is_string_of(ByteView gap, std::string_view contents) {
  if (gap.size() != contents.size() * 2 + 2 || gap.front() != '<' || gap.back() != '>')
    return false;
  for (std::size_t i = 0; i < contents.size(); ++i) {
    const int high = objects::hex_digit(gap[1 + 2 * i]);
    const int low = objects::hex_digit(gap[2 + 2 * i]);
    if (high < 0 || low < 0 || high * 16 + low != static_cast<std::uint8_t>(contents[i]))
      return false;
  }
  return true;
}

// Whether the gap is the value of /Contents within the object that begins at a place.
Result<bool> is_contents_of(const ByteSource& source, std::uint64_t object, std::uint64_t gap) {
  if (object >= gap || gap - object > kMostHead) return false;
  LUMVET_TRY(const ByteSlice head, source.slice(object, gap - object));
  std::string_view text = as_text(head.view());
  if (text.find("endobj") != std::string_view::npos) return false;
  const std::size_t last = text.find_last_not_of(kBlanks);
  if (last == std::string_view::npos) return false;
  text = text.substr(0, last + 1);
  return text.ends_with("/Contents");
}

}  // namespace

Result<ByteRange> byte_range_of(const Document& document, ObjectId signature, const Dict& dict) {
  LUMVET_TRY(const Object stated, document.resolve(dict["ByteRange"]));
  const Array& items = stated.as_array();
  if (items.size() != 4)
    return wrong(items.empty() ? "there is no byte range" : "the byte range has not four numbers");
  std::array<std::uint64_t, 4> places{};
  for (std::size_t i = 0; i < places.size(); ++i) {
    if (!items[i].is_integer() || items[i].as_integer() < 0)
      return wrong("the byte range has something else than whole numbers from 0 on");
    places[i] = static_cast<std::uint64_t>(items[i].as_integer());
  }
  const ByteSource& source = *store_of(document).source();
  const auto [begin, before, behind, rest] = places;
  if (begin != 0) return wrong("the byte range does not begin at the first byte");
  if (behind <= before) return wrong("the parts of the byte range lie over each other");
  if (behind > source.size() || rest > source.size() - behind)
    return wrong("the byte range goes beyond the end of the file");
  const std::string_view contents = dict["Contents"].as_string();
  if (contents.empty()) return wrong("there is no signature in it");
  if (behind - before != contents.size() * 2 + 2)
    return wrong("the gap of the byte range is not as long as the signature's string");
  LUMVET_TRY(const ByteSlice gap, source.slice(before, behind - before));
  if (!is_string_of(gap.view(), contents))
    return wrong("the gap of the byte range is not the signature's string");
  LUMVET_TRY(const std::optional<ObjectPlace> place, document.place_of(signature));
  const bool is_in_file = place && !place->packed_in;
  if (!is_in_file) return wrong("the signature is no object of its own");
  LUMVET_TRY(const bool is_own, is_contents_of(source, place->offset, before));
  if (!is_own) return wrong("the gap lies outside of this signature");
  return ByteRange{before, behind, behind + rest};
}

Status each_part(const Document& document, const ByteRange& range,
                 const std::function<Status(ByteView)>& take) {
  const ByteSource& source = *store_of(document).source();
  LUMVET_RETURN_IF_ERROR(io::each_part_of(source, 0, range.before, take));
  return io::each_part_of(source, range.behind, range.end, take);
}

}  // namespace lumvet::signing

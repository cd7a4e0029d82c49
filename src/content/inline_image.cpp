// SPDX-License-Identifier: Apache-2.0
// Pictures within content streams (ISO 32000-2, 8.9.7).
#include <algorithm>

#include "content/interpreter.h"
#include "filters/stream_decoder.h"

namespace lumvet::content {
namespace {

constexpr std::size_t kLook = 12;  // bytes behind "EI" that have to look like content

// Where the picture's bytes end: at "EI" between white space, with what looks like content behind.
std::size_t find_end(ByteView bytes, std::size_t from) {
  for (std::size_t at = from; at + 1 < bytes.size(); ++at) {
    if (bytes[at] != 'E' || bytes[at + 1] != 'I') continue;
    if (at > from && !objects::is_white(bytes[at - 1])) continue;
    if (at + 2 < bytes.size() && !objects::is_white(bytes[at + 2])) continue;
    const std::size_t last = std::min(bytes.size(), at + 2 + kLook);
    const bool plain =
        std::all_of(bytes.begin() + static_cast<std::ptrdiff_t>(at + 2),
                    bytes.begin() + static_cast<std::ptrdiff_t>(last),
                    [](std::uint8_t b) { return objects::is_white(b) || (b >= 32 && b < 127); });
    if (plain) return at;
  }
  return bytes.size();
}

}  // namespace

// Pictures in glyphs and forms, which are shown again and again, are read once.
Status Interpreter::inline_image() {
  objects::Lexer& lexer = parser_->lexer();
  const bool is_kept = !running_.empty();
  Place place;
  if (is_kept) place = {running_.back().first, running_.back().second, lexer.position()};
  if (is_kept)
    if (const auto known = inline_pictures_.find(place)) {
      lexer.seek(known->end);
      return hidden_from_ ? Status(Done{}) : place_image(known->picture, known->dict);
    }
  LUMVET_TRY(const InlinePicture read, read_inline_image());
  if (needs_more_ || !read.picture) return Done{};
  if (is_kept) inline_pictures_.keep(place, read, read.picture->memory());
  return place_image(read.picture, read.dict);
}

// Without a picture when there is none, or nobody sees it.
Result<Interpreter::InlinePicture> Interpreter::read_inline_image() {
  objects::Lexer& lexer = parser_->lexer();
  std::vector<Dict::Entry> entries;
  for (;;) {
    Result<objects::Parsed> key = parser_->next();
    if (!key.ok() || key->kind == objects::Parsed::Kind::end) {
      needs_more_ = !is_last_window_;
      if (!needs_more_) note("an inline picture has no data");
      return InlinePicture();
    }
    if (key->kind == objects::Parsed::Kind::keyword) break;  // ID
    Result<objects::Parsed> value = parser_->next();
    if (!value.ok() || value->kind != objects::Parsed::Kind::value) break;
    if (key->value.is_name()) entries.emplace_back(key->value.as_name(), std::move(value->value));
  }
  const ByteView bytes = lexer.bytes();
  std::size_t start = lexer.position();
  if (start < bytes.size() && objects::is_white(bytes[start])) ++start;
  const std::size_t end = find_end(bytes, start);
  needs_more_ = !is_last_window_ && end + kLook + 2 >= bytes.size();
  if (needs_more_) return InlinePicture();
  lexer.seek(std::min(end + 2, bytes.size()));
  if (hidden_from_) return InlinePicture();
  const ByteView data = bytes.subspan(start, end - start);
  const Stream image = Stream::of(Dict(std::move(entries)), Bytes(data.begin(), data.end()));
  LUMVET_TRY(auto picture, load_image(image));
  return InlinePicture{std::move(picture), image.dict, lexer.position()};
}

}  // namespace lumvet::content

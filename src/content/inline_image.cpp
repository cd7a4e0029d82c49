// SPDX-License-Identifier: Apache-2.0
// Pictures within content streams (ISO 32000-2, 8.9.7).
#include <algorithm>

#include "content/interpreter.h"
#include "filters/stream_decoder.h"

namespace lumvet::content {
namespace {

// Where the picture's bytes end: at "EI" between white space, with what looks like content behind.
std::size_t find_end(ByteView bytes, std::size_t from) {
  constexpr std::size_t kLook = 12;
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

Status Interpreter::inline_image() {
  objects::Lexer& lexer = parser_->lexer();
  std::vector<Dict::Entry> entries;
  for (;;) {
    Result<objects::Parsed> key = parser_->next();
    if (!key.ok() || key->kind == objects::Parsed::Kind::end) {
      note("an inline picture has no data");
      return Done{};
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
  lexer.seek(std::min(end + 2, bytes.size()));
  if (hidden_from_) return Done{};
  const ByteView data = bytes.subspan(start, end - start);
  return draw_image(Stream::of(Dict(std::move(entries)), Bytes(data.begin(), data.end())));
}

}  // namespace lumvet::content

// SPDX-License-Identifier: Apache-2.0
// Images within content streams (ISO 32000-2, 8.9.7).
#include <algorithm>

#include "content/interpreter.h"
#include "filters/stream_decoder.h"
#include "objects/inline_data.h"

namespace lumvet::content {

// Images in glyphs and forms, which are shown again and again, are read once.
Status Interpreter::inline_image() {
  objects::Lexer& lexer = parser_->lexer();
  const bool is_kept = !running_.empty();
  Place place;
  if (is_kept) place = {running_.back().first, running_.back().second, lexer.position()};
  if (is_kept)
    if (const auto known = inline_images_.find(place)) {
      lexer.seek(known->end);
      return passes_over() ? Status(Done{}) : place_image(known->image, known->dict);
    }
  LUMVET_TRY(const InlineImage read, read_inline_image());
  if (needs_more_ || !read.image) return Done{};
  if (is_kept) inline_images_.keep(place, read, read.image->memory());
  return place_image(read.image, read.dict);
}

// Without an image when there is none, or nobody sees it.
Result<Interpreter::InlineImage> Interpreter::read_inline_image() {
  objects::Lexer& lexer = parser_->lexer();
  std::vector<Dict::Entry> entries;
  for (;;) {
    Result<objects::Parsed> key = parser_->next();
    if (!key.ok() || key->kind == objects::Parsed::Kind::end) {
      needs_more_ = !is_last_window_;
      if (!needs_more_) note("an inline image has no data");
      return InlineImage();
    }
    if (key->kind == objects::Parsed::Kind::keyword) break;  // ID
    Result<objects::Parsed> value = parser_->next();
    if (!value.ok() || value->kind != objects::Parsed::Kind::value) break;
    if (key->value.is_name()) entries.emplace_back(key->value.as_name(), std::move(value->value));
  }
  const ByteView bytes = lexer.bytes();
  std::size_t start = lexer.position();
  if (start < bytes.size() && objects::is_white(bytes[start])) ++start;
  const std::size_t end = objects::inline_data_end(bytes, start);
  needs_more_ = !is_last_window_ && end + objects::kInlineLook + 2 >= bytes.size();
  if (needs_more_) return InlineImage();
  lexer.seek(std::min(end + 2, bytes.size()));
  if (passes_over()) return InlineImage();
  const ByteView data = bytes.subspan(start, end - start);
  const Stream stream = Stream::of(Dict(std::move(entries)), Bytes(data.begin(), data.end()));
  LUMVET_TRY(auto image, load_image(stream));
  return InlineImage{std::move(image), stream.dict, lexer.position()};
}

}  // namespace lumvet::content

// SPDX-License-Identifier: Apache-2.0
// Images within content streams (ISO 32000-2, 8.9.7).
#include <algorithm>

#include "content/drawing.h"
#include "content/operators.h"
#include "objects/inline_data.h"

namespace lumvet::content {
namespace {

// Without an image when there is none, or it is hidden.
Result<InlineImage> read_inline_image(Execution& run) {
  Frame& frame = *run.frame;
  objects::Lexer& lexer = frame.parser->lexer();
  std::vector<Dict::Entry> entries;
  for (;;) {
    Result<objects::Parsed> key = frame.parser->next();
    if (!key.ok() || key->kind == objects::Parsed::Kind::end) {
      frame.needs_more = !frame.is_last_window;
      if (!frame.needs_more) run.note("an inline image has no data");
      return InlineImage();
    }
    if (key->kind == objects::Parsed::Kind::keyword) break;  // ID
    Result<objects::Parsed> value = frame.parser->next();
    if (!value.ok() || value->kind != objects::Parsed::Kind::value) break;
    if (key->value.is_name()) entries.emplace_back(key->value.as_name(), std::move(value->value));
  }
  const ByteView bytes = lexer.bytes();
  std::size_t start = lexer.position();
  if (start < bytes.size() && objects::is_white(bytes[start])) ++start;
  const std::size_t end = objects::inline_data_end(bytes, start);
  frame.needs_more = !frame.is_last_window && end + objects::kInlineLook + 2 >= bytes.size();
  if (frame.needs_more) return InlineImage();
  lexer.seek(std::min(end + 2, bytes.size()));
  if (run.is_hidden()) return InlineImage();
  const ByteView data = bytes.subspan(start, end - start);
  const Stream stream = Stream::of(Dict(std::move(entries)), Bytes(data.begin(), data.end()));
  LUMVET_TRY(auto image, load_image(run, stream));
  return InlineImage{std::move(image), stream.dict, lexer.position()};
}

}  // namespace

// Images in glyphs and forms, which are shown again and again, are read once.
Status operators::inline_image(Execution& run) {
  Frame& frame = *run.frame;
  objects::Lexer& lexer = frame.parser->lexer();
  ContentCaches::Place place;
  if (frame.place) {
    place = {*frame.place, lexer.position()};
    if (const auto known = run.caches.inline_images.find(place)) {
      lexer.seek(known->end);
      return run.is_hidden() ? Status(Done{}) : place_image(run, known->image, known->dict);
    }
  }
  LUMVET_TRY(const InlineImage read, read_inline_image(run));
  if (frame.needs_more || !read.image) return Done{};
  if (frame.place) run.caches.inline_images.keep(place, read, read.image->memory());
  return place_image(run, read.image, read.dict);
}

}  // namespace lumvet::content

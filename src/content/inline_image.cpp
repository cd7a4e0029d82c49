// SPDX-License-Identifier: Apache-2.0
// Images within content streams (ISO 32000-2, 8.9.7).
#include "content/drawing.h"
#include "content/inline_parts.h"
#include "content/operators.h"

namespace lumvet::content {
namespace {

// Without an image when there is none, or it is hidden.
Result<InlineImage> read_inline_image(Execution& run) {
  Frame& frame = *run.frame;
  const InlineParts parts = read_inline_parts(*frame.parser, frame.resources, run.store,
                                              run.budget.limits(), frame.is_last_window);
  frame.needs_more = parts.needs_more;
  if (!parts.is_there && !parts.needs_more) run.note("an inline image has no data");
  if (!parts.is_there || run.is_hidden()) return InlineImage();
  const Stream stream = Stream::of(parts.dict, Bytes(parts.data.begin(), parts.data.end()));
  LUMVET_TRY(auto image, load_image(run, stream));
  return InlineImage{std::move(image), stream.dict, frame.parser->lexer().position()};
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

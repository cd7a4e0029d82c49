// SPDX-License-Identifier: Apache-2.0
// Images within content streams (ISO 32000-2, 8.9.7).
#include <algorithm>

#include "color/color_space.h"
#include "content/drawing.h"
#include "content/operators.h"
#include "filters/encoded_end.h"
#include "filters/stream_decoder.h"
#include "images/image_facts.h"
#include "objects/inline_data.h"

namespace lumvet::content {
namespace {

// Bytes of samples as they are, when no filter has changed them.
std::optional<std::size_t> unfiltered_length(const Execution& run, const Dict& dict) {
  const std::int64_t width = images::either(run.store, dict, "Width", "W").as_integer();
  const std::int64_t height = images::either(run.store, dict, "Height", "H").as_integer();
  const bool is_stencil = images::is_stencil(dict, run.store);
  const std::int64_t bits =
      is_stencil ? 1 : images::either(run.store, dict, "BitsPerComponent", "BPC").as_integer(8);
  std::size_t components = 1;
  if (const Object space = images::either(run.store, dict, "ColorSpace", "CS");
      !is_stencil && !space.is_null()) {
    Budget budget(run.budget.limits());
    Findings unheard;
    const auto made =
        color::ColorSpace::make(space, run.frame->resources, run.store, budget, unheard);
    if (!made.ok()) return std::nullopt;
    components = (*made)->components();
  }
  constexpr std::int64_t kMostSide = 1 << 24;
  if (width < 1 || height < 1 || width > kMostSide || height > kMostSide || bits < 1 || bits > 16)
    return std::nullopt;
  const auto row_bits =
      static_cast<std::uint64_t>(width) * static_cast<std::uint64_t>(bits) * components;
  return static_cast<std::size_t>((row_bits + 7) / 8 * static_cast<std::uint64_t>(height));
}

// Where "EI" is: by the length that is stated, then by the one that follows from the samples, then
// by the end that the filter itself has, and then where it looks like it.
std::size_t end_of_data(const Execution& run, const Dict& dict, ByteView bytes, std::size_t start) {
  const auto behind = [&](std::uint64_t length) {
    return length <= bytes.size() - start
               ? objects::inline_end_at(bytes, start + static_cast<std::size_t>(length))
               : std::nullopt;
  };
  if (const Object stated = images::either(run.store, dict, "Length", "L"); stated.as_integer() > 0)
    if (const auto end = behind(static_cast<std::uint64_t>(stated.as_integer()))) return *end;
  const std::vector<filters::FilterStep> chain = filters::filter_chain(dict, run.store);
  const std::optional<std::size_t> length =
      chain.empty()
          ? unfiltered_length(run, dict)
          : filters::encoded_end(bytes.subspan(start), chain[0].name, chain[0].parameters);
  if (length)
    if (const auto end = behind(*length)) return *end;
  return objects::inline_data_end(bytes, start);
}

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
  const Dict dict(std::move(entries));
  const std::size_t end = end_of_data(run, dict, bytes, start);
  frame.needs_more = !frame.is_last_window && end + objects::kInlineLook + 2 >= bytes.size();
  if (frame.needs_more) return InlineImage();
  lexer.seek(std::min(end + 2, bytes.size()));
  if (run.is_hidden()) return InlineImage();
  const ByteView data = bytes.subspan(start, end - start);
  const Stream stream = Stream::of(dict, Bytes(data.begin(), data.end()));
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

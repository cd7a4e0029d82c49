// SPDX-License-Identifier: Apache-2.0
#include "content/inline_parts.h"

#include <algorithm>

#include "base/budget.h"
#include "base/findings_list.h"
#include "color/color_space.h"
#include "filters/encoded_end.h"
#include "filters/stream_decoder.h"
#include "images/image_facts.h"
#include "objects/inline_data.h"

namespace lumvet::content {
namespace {

struct InlineContext {
  const Dict& resources;
  const objects::Resolver& resolver;
  const Limits& limits;
};

// Bytes of samples as they are, when no filter has changed them.
std::optional<std::size_t> unfiltered_length(const InlineContext& run, const Dict& dict) {
  const std::int64_t width = images::either(run.resolver, dict, "Width", "W").as_integer();
  const std::int64_t height = images::either(run.resolver, dict, "Height", "H").as_integer();
  const bool is_stencil = images::is_stencil(dict, run.resolver);
  const std::int64_t bits =
      is_stencil ? 1 : images::either(run.resolver, dict, "BitsPerComponent", "BPC").as_integer(8);
  std::size_t components = 1;
  if (const Object space = images::either(run.resolver, dict, "ColorSpace", "CS");
      !is_stencil && !space.is_null()) {
    Budget budget(run.limits);
    Findings unheard;
    const auto made = color::ColorSpace::make(space, run.resources, run.resolver, budget, unheard);
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
std::size_t end_of_data(const InlineContext& run, const Dict& dict, ByteView bytes,
                        std::size_t start) {
  const auto behind = [&](std::uint64_t length) {
    return length <= bytes.size() - start
               ? objects::inline_end_at(bytes, start + static_cast<std::size_t>(length))
               : std::nullopt;
  };
  if (const Object stated = images::either(run.resolver, dict, "Length", "L");
      stated.as_integer() > 0)
    if (const auto end = behind(static_cast<std::uint64_t>(stated.as_integer()))) return *end;
  const std::vector<filters::FilterStep> chain = filters::filter_chain(dict, run.resolver);
  const std::optional<std::size_t> length =
      chain.empty()
          ? unfiltered_length(run, dict)
          : filters::encoded_end(bytes.subspan(start), chain[0].name, chain[0].parameters);
  if (length)
    if (const auto end = behind(*length)) return *end;
  return objects::inline_data_end(bytes, start);
}

}  // namespace

InlineParts read_inline_parts(objects::Parser& parser, const Dict& resources,
                              const objects::Resolver& resolver, const Limits& limits,
                              bool is_last_window) {
  objects::Lexer& lexer = parser.lexer();
  std::vector<Dict::Entry> entries;
  for (;;) {
    Result<objects::Parsed> key = parser.next();
    if (!key.ok() || key->kind == objects::Parsed::Kind::end)
      return {.needs_more = !is_last_window};
    if (key->kind == objects::Parsed::Kind::keyword) break;  // ID
    Result<objects::Parsed> value = parser.next();
    if (!value.ok() || value->kind != objects::Parsed::Kind::value) break;
    if (key->value.is_name()) entries.emplace_back(key->value.as_name(), std::move(value->value));
  }
  const ByteView bytes = lexer.bytes();
  std::size_t start = lexer.position();
  if (start < bytes.size() && objects::is_white(bytes[start])) ++start;
  InlineParts parts{.dict = Dict(std::move(entries))};
  const std::size_t end = end_of_data({resources, resolver, limits}, parts.dict, bytes, start);
  parts.needs_more = !is_last_window && end + objects::kInlineLook + 2 >= bytes.size();
  if (parts.needs_more) return parts;
  lexer.seek(std::min(end + 2, bytes.size()));
  parts.data = bytes.subspan(start, end - start);
  parts.is_there = true;
  return parts;
}

}  // namespace lumvet::content

// SPDX-License-Identifier: Apache-2.0
#include "document/page_salvage.h"

#include <algorithm>
#include <array>

#include "filters/stream_decoder.h"
#include "objects/lexer.h"

namespace lumvet::document {
namespace {

Array letter_box() { return {Object(0), Object(0), Object(612), Object(792)}; }

// Whether the beginning of a stream reads like operators: only tokens of content, and enough words
// among them that are operators.
bool reads_like_content(const Stream& stream, const file::ObjectStore& store) {
  auto pieces = filters::decode_pieces(stream, store, most_decoded(store.limits(), stream.length));
  if (!pieces.ok() || !pieces->left.empty()) return false;
  constexpr std::size_t kLookedAt = 2048;
  Bytes head(kLookedAt);
  const Result<std::size_t> there = pieces->bytes->read(head);
  if (!there.ok()) return false;
  head.resize(*there);
  constexpr std::array<std::string_view, 22> kOperators = {
      "q", "Q",  "cm", "w",  "re", "m",  "l",  "c",  "h",  "f",  "S",
      "n", "BT", "ET", "Tf", "Td", "Tj", "TJ", "Tm", "gs", "Do", "rg"};
  int words = 0;
  int operators = 0;
  objects::Lexer lexer(head);
  for (;;) {
    const auto token = lexer.next();
    if (!token.ok()) {
      // A string may be cut off where looking stops.
      if (lexer.touched_end()) break;
      return false;
    }
    if (token->kind == objects::TokenKind::end) break;
    if (token->kind != objects::TokenKind::keyword) continue;
    ++words;
    operators += std::find(kOperators.begin(), kOperators.end(), token->text) != kOperators.end();
  }
  return operators >= 3 && operators * 2 > words;
}

Dict page_of_content(ObjectId content) {
  return Dict{{"Type", Object::name("Page")},
              {"MediaBox", letter_box()},
              {"Resources", Dict()},
              {"Contents", Object(content)}};
}

// The image over the whole page, as large as 150 pixels to the inch make it.
Dict page_of_image(ObjectId image, std::int64_t width, std::int64_t height) {
  const double scale = 72.0 / 150;
  const double w = static_cast<double>(width) * scale;
  const double h = static_cast<double>(height) * scale;
  const std::string content =
      "q " + std::to_string(w) + " 0 0 " + std::to_string(h) + " 0 0 cm /Image Do Q";
  const ByteView bytes = as_bytes(content);
  return Dict{{"Type", Object::name("Page")},
              {"MediaBox", Array{Object(0), Object(0), Object(w), Object(h)}},
              {"Resources", Dict{{"XObject", Dict{{"Image", Object(image)}}}}},
              {"Contents", Stream::of({}, Bytes(bytes.begin(), bytes.end()))}};
}

}  // namespace

std::vector<Dict> salvage_pages(const file::ObjectStore& store,
                                const std::vector<ObjectId>& objects) {
  std::vector<Dict> contents;
  std::vector<Dict> images;
  for (const ObjectId id : objects) {
    const Object object = store.resolve(Object(id));
    const Stream* stream = object.as_stream();
    if (stream == nullptr) continue;
    constexpr std::int64_t kWorthAPage = 200;  // pixels; smaller ones are ornaments
    const std::int64_t width = store.get(stream->dict, "Width").as_integer();
    const std::int64_t height = store.get(stream->dict, "Height").as_integer();
    if (stream->dict["Subtype"].is_name("Image")) {
      const bool is_mask = store.get(stream->dict, "ImageMask").as_bool();
      if (width >= kWorthAPage && height >= kWorthAPage && !is_mask)
        images.push_back(page_of_image(id, width, height));
    } else if (!stream->dict.contains("Type") && !stream->dict.contains("Subtype") &&
               !stream->dict.contains("Length1") && reads_like_content(*stream, store)) {
      contents.push_back(page_of_content(id));
    }
  }
  return contents.empty() ? images : contents;
}

}  // namespace lumvet::document

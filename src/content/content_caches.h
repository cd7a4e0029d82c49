// SPDX-License-Identifier: Apache-2.0
// What the content of a page uses again and again, made once.
//
// Threads: one thread at a time.
#pragma once

#include <map>
#include <memory>
#include <tuple>

#include "color/shading.h"
#include "content/canvas.h"
#include "file/recently_used.h"
#include "fonts/font.h"
#include "lumvet/io/byte_source.h"

namespace lumvet::content {

// Where a stream lies.
struct StreamPlace {
  const ByteSource* source = nullptr;
  std::uint64_t offset = 0;
  bool operator==(const StreamPlace&) const = default;
};

struct InlineImage {
  ImagePtr image;
  Dict dict;
  std::size_t end = 0;  // of the bytes up to and with EI
};

struct ContentCaches {
  // Of inline images also how far into their stream.
  struct Place {
    StreamPlace stream;
    std::size_t within = 0;
    bool operator==(const Place&) const = default;
    struct Hash {
      std::size_t operator()(const Place& place) const {
        return std::hash<const void*>()(place.stream.source) ^
               std::hash<std::uint64_t>()(place.stream.offset) ^ place.within * 0x9E3779B97F4A7C15u;
      }
    };
  };
  struct DirectFont {
    Object keeper;
    std::shared_ptr<const fonts::Font> font;
  };
  // By where the pattern lies and the color it takes.
  using CellKey = std::tuple<std::uint64_t, ObjectId, std::uint8_t, std::uint8_t, std::uint8_t>;

  static constexpr std::uint64_t kKeptBytes = 8 << 20;                    // of either
  file::RecentlyUsed<Place, ByteSlice, Place::Hash> streams{kKeptBytes};  // decoded
  file::RecentlyUsed<Place, InlineImage, Place::Hash> inline_images{kKeptBytes};
  std::map<const void*, DirectFont> direct_fonts;  // by the dictionaries that fonts are
  std::map<std::pair<ObjectId, color::Intent>, std::shared_ptr<const color::Shading>> shadings;
  std::map<CellKey, ScenePtr> cells;
};

}  // namespace lumvet::content

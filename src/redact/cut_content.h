// SPDX-License-Identifier: Apache-2.0
// Content streams without what they show in some areas (ISO 32000-2, clauses 8 and 9): letters one
// by one, paths cut at the edges, pixels of images, also within forms and soft masks, seen or not.
//
// What is not touched stays as it is written, but for comments and for what cannot be read.
// Threads: one thread at a time.
#pragma once

#include <map>
#include <set>
#include <string>
#include <utility>
#include <vector>

#include "document/core.h"
#include "file/ledger.h"
#include "lumvet/fonts/font_supply.h"
#include "redact/areas.h"
#include "redact/cut_images.h"

namespace lumvet::fonts {
class Font;
struct Glyph;
}  // namespace lumvet::fonts

namespace lumvet::redacting {

struct CutCounts {
  int letters = 0;
  int paths = 0;
  int images = 0;
};

// What a letter must have in an area to be one of it, of what it inks; of blanks, of what they
// take.
inline constexpr double kLetterShare = 0.2;
inline constexpr double kBlankShare = 0.5;

// What is known of all content that is cut for a document.
struct CutRecord {
  CutCounts counts = {};
  std::vector<std::string> texts = {};  // that were taken out, run by run, in UTF-8
  // Marked content that was hit, by its page or form and its number (14.7.5).
  std::set<std::pair<ObjectId, int>> marked = {};
  // Images, forms, patterns and states by what stands in their places where they were hit.
  std::map<ObjectId, std::vector<ObjectId>> replaced = {};
  std::vector<std::string> remarks = {};  // what was left out as a whole
};

class ContentCutter {
 public:
  // `areas` are in the page's space.
  ContentCutter(const document::Core& core, file::Ledger& ledger, Areas areas, CutRecord& record);

  struct Result {
    std::string content = {};
    Dict resources = {};
    bool is_changed = false;
  };
  // Errors: limit, io, need_more_data.
  lumvet::Result<Result> cut_page(const Page& page);

 private:
  friend class StreamCutter;

  std::shared_ptr<const fonts::Font> font_of(const Object& font);

  const document::Core& core_;
  file::Ledger& ledger_;
  Areas areas_;
  CutRecord& record_;
  ImageCutter images_;
  std::map<ObjectId, std::shared_ptr<const fonts::Font>> fonts_;
  std::set<ObjectId> running_;         // forms, so that none runs within itself
  std::map<ObjectId, bool> drawings_;  // procedures of glyphs: whether they are more than shapes
  int depth_ = 0;
  std::uint64_t operators_ = 0;
};

}  // namespace lumvet::redacting

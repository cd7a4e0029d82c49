// SPDX-License-Identifier: Apache-2.0
// What a page says and where: one string, and in it words, lines and blocks with their places.
//
//   const lumvet::PageWords words = lumvet::PageWords::of(page).value();
//   std::cout << words.text();
//   for (const lumvet::Quad& quad : words.quads(0, words.word(0).end)) mark(quad);
//
// A scene that is there already has the text in it:
//
//   lumvet::Scene scene = lumvet::Scene::record(page).value();
//   lumvet::PageWords same = lumvet::PageWords::of(scene);
//
// The order is that of reading, by where things stand: columns one after the other, tables row by
// row. Invisible text is there, that of hidden layers and of annotations is not. What marked
// content says its glyphs stand for (ISO 32000-2, 14.9.4) takes their place; a glyph of which
// nothing tells what it is becomes U+FFFD.
//
// Copies share it. Threads: immutable, share freely. Since: 0.2
#pragma once

#include <array>
#include <cstddef>
#include <functional>
#include <memory>
#include <string>
#include <vector>

#include "lumvet/content/scene.h"
#include "lumvet/text/text_span.h"

namespace lumvet {

// Around text, in display space (points from the top left corner of the page as shown, y downward):
// where its line begins above it, where it ends above, where it ends below, where it begins below.
using Quad = std::array<Point, 4>;

struct TextWord {
  std::size_t begin = 0;  // byte of the text
  std::size_t end = 0;    // one behind its last byte
  std::size_t line = 0;
  int column = 0;  // of a table, from 0
  Quad quad = {};
  double size = 0;  // of its font, in points
};

struct TextLine {
  std::size_t begin = 0;  // bytes of the text, without the line's end
  std::size_t end = 0;
  std::size_t first_word = 0;
  std::size_t words_end = 0;
  std::size_t block = 0;
  bool is_row = false;  // of a table: cells are parted by tabs
};

// A paragraph, a heading or a table.
struct TextBlock {
  std::size_t begin = 0;  // bytes of the text, without the blank line behind it
  std::size_t end = 0;
  std::size_t first_line = 0;
  std::size_t lines_end = 0;
};

class LUMVET_EXPORT PageWords {
 public:
  // Errors: as Scene::record's; limit, when putting the letters together takes too long
  // (Limits::page_milliseconds). Annotations are not recorded, whatever the options say.
  static Result<PageWords> of(const Page& page, const RecordOptions& options = {});
  static PageWords of(const Scene& scene);

  // UTF-8: blanks between words, a line end behind each line but the last, one more between blocks,
  // tabs where there are wide gaps in lines and between the cells of tables.
  const std::string& text() const;

  std::size_t word_count() const;
  std::size_t line_count() const;
  std::size_t block_count() const;
  // By their numbers in the order of the text, each below its count.
  TextWord word(std::size_t number) const;
  TextLine line(std::size_t number) const;
  TextBlock block(std::size_t number) const;

  // Around the bytes from `begin` to `end` of the text, one for each stretch of a line; what is
  // beyond the text is passed over.
  std::vector<Quad> quads(std::size_t begin, std::size_t end) const;
  // The byte of the text before which a caret stands that is put at a point of display space: in
  // the nearest word, on the nearer side of the character. Zero on an empty page.
  std::size_t offset_at(Point point) const;

  // What a person selects. From one point to another, whichever comes first in the text, as with a
  // caret put at each.
  TextSpan between(Point one, Point other) const;
  // The word, the line and the block that a byte of the text is in or behind; of what is between
  // two, the one before. Nothing on an empty page.
  TextSpan word_around(std::size_t offset) const;
  TextSpan line_around(std::size_t offset) const;
  TextSpan block_around(std::size_t offset) const;
  // The words whose middles lie in an area of display space, those that follow each other as one.
  std::vector<TextSpan> within(const PageArea& area) const;

  // Characters of which the document does not tell what they are.
  std::size_t unknown_count() const;
  std::size_t memory() const;  // bytes

 private:
  struct Impl;
  explicit PageWords(std::shared_ptr<const Impl> impl) : impl_(std::move(impl)) {}

  std::shared_ptr<const Impl> impl_;
};

struct ReadOptions {
  RecordOptions record = {};
  int threads = 0;         // on which pages are read ahead; 0 is one for each core
  Progress progress = {};  // pages, of all
  CancelToken cancel = {};
};

// Gets each page in the order asked for, on the calling thread, while those behind are read; an
// error ends the work and is returned, and an exception reaches the caller once all threads have
// stopped. Pages are counted from 0. Errors: invalid_argument for a page that is not there; as
// Scene::record's.
using TakeWords = std::function<Status(int page, const PageWords& words)>;
LUMVET_EXPORT Status read_pages(const Document& document, const std::vector<int>& pages,
                                const ReadOptions& options, const TakeWords& take);

// PageWords::text of a scene or a page.
LUMVET_EXPORT std::string text_of(const Scene& scene);
LUMVET_EXPORT Result<std::string> text_of(const Page& page, const RecordOptions& options = {});

}  // namespace lumvet

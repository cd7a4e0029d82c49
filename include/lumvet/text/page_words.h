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
// row, letters along a bend as one line. Invisible text is there, and each word tells whether it is
// seen; that of hidden layers is not, and that of annotations when it is asked for. What marked
// content says its glyphs stand for (ISO 32000-2, 14.9.4) takes their place; a glyph of which
// nothing tells what it is becomes U+FFFD.
//
// Copies share it. Threads: immutable, share freely. Since: 0.2
#pragma once

#include <array>
#include <compare>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "lumvet/content/letter_mode.h"
#include "lumvet/content/scene.h"
#include "lumvet/geometry/quad.h"
#include "lumvet/text/text_span.h"

namespace lumvet {

// What is done to characters before they are words.
struct WordOptions {
  bool splits_ligatures = true;  // "fi" for the one character; letters for the forms of Arabic ones
  bool composes_accents = true;  // "é" where a letter and an accent were drawn one over the other
  // What abbreviations stand for (ISO 32000-2, 14.9.5) in their place.
  bool expands_abbreviations = false;
  // What fields and marks show, in blocks of their own behind the page's.
  bool reads_annotations = false;
  bool operator==(const WordOptions&) const = default;
};

// Whether something can be seen where it stands.
enum class Visibility : std::uint8_t {
  seen,
  invisible,  // shown in a way that paints nothing (9.3.6), as text over scans, or wholly clear
  covered,    // by an image or a shape of one color that was drawn over it
  clipped,    // out of what is shown of the page there
  as_ground,  // in the color of what is below it, white on white
};

struct WordStyle {
  std::string font = {};  // its name, without a subset's prefix
  bool is_bold = false;   // as the name of the font says
  bool is_italic = false;
  LetterMode mode = LetterMode::fill;
  // 0 to 255 each, of the screen; none of patterns and of what paints nothing.
  std::optional<std::array<std::uint8_t, 3>> color = {};
  bool operator==(const WordStyle&) const = default;
};

// Marked content that structure elements hold (14.7.5).
struct ContentMark {
  int number = 0;
  std::optional<std::uint64_t> form = {};  // that it is in, by offset in the file; none of a page's
  auto operator<=>(const ContentMark&) const = default;
};

struct TextWord {
  std::size_t begin = 0;  // byte of the text
  std::size_t end = 0;    // one behind its last byte
  std::size_t line = 0;
  int column = 0;   // of a table, from 0
  int columns = 1;  // of the table that its cell takes
  Quad quad = {};   // around all of it, along the line
  double size = 0;  // of its font, in points
  // Of its first letter.
  std::size_t style = 0;                     // of PageWords::styles
  Visibility visibility = Visibility::seen;  // seen, when a part of it is
  std::optional<ContentMark> mark = {};      // innermost
  bool is_artifact = false;                  // no content, as running heads (14.8.2.2)
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
  bool is_of_annotations = false;  // not of the page's content
};

class LUMVET_EXPORT PageWords {
 public:
  // Errors: as Scene::record's; limit, when putting the letters together takes too long
  // (Limits::page_milliseconds). Whether annotations are recorded is what `letters` says.
  static Result<PageWords> of(const Page& page, const RecordOptions& options = {},
                              const WordOptions& letters = {});
  // Annotations are read of scenes that were recorded with them.
  static PageWords of(const Scene& scene, const WordOptions& letters = {});

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
  const std::vector<WordStyle>& styles() const;

  // Around the bytes from `begin` to `end` of the text, one for each stretch of a line, and one for
  // each letter where the line bends; what is beyond the text is passed over.
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

  // A page that says the rest: without the lines of which a part lies in one of some spans.
  PageWords without_lines(const std::vector<TextSpan>& spans) const;

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
  WordOptions letters = {};
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

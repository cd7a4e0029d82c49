// SPDX-License-Identifier: Apache-2.0
// Letters and lines anywhere on a page, turned and sized by the bytes: words, lines and blocks hold
// together, every part of the text has its place, and what is read is found.
#include <string>

#include "fuzz/small_limits.h"
#include "lumvet/text/page_glyphs.h"
#include "lumvet/text/running_heads.h"
#include "lumvet/text/text_search.h"
#include "lumvet/text/written_words.h"
#include "tests/support/pdf_builder.h"

namespace {

// A piece takes seven bytes: place, size, turn, length, letters.
std::string content_of(const std::uint8_t* data, std::size_t size) {
  static const char* const kTurns[] = {
      "1 0 0 1", "0 1 -1 0", "-1 0 0 -1",      ".9 .4 -.4 .9",   "1 0 0 -1",    "1e-9 0 0 1",
      "1 0 0 0", "4 0 .3 1", ".99 .1 -.1 .99", ".95 .3 -.3 .95", ".8 .6 -.6 .8"};
  std::string content;
  for (std::size_t i = 0; i + 7 <= size; i += 7) {
    const std::uint8_t* b = data + i;
    const std::string place = std::to_string(b[0] * 2) + " " + std::to_string(b[1] * 2);
    if (b[2] % 16 == 15) {  // a line across or along
      content += place + " m " + std::to_string(b[0] * 2 + (b[3] % 2) * b[4]) + " " +
                 std::to_string(b[1] * 2 + (1 - b[3] % 2) * b[4]) + " l S\n";
      continue;
    }
    if (b[2] % 16 == 14) {  // a shape over letters, or below them
      content += std::to_string(b[3] % 2) + " g " + place + " " + std::to_string(b[4]) + " " +
                 std::to_string(b[5]) + " re f\n";
      continue;
    }
    if (b[6] % 9 == 0) content += "/S<</E(ab)/MCID " + std::to_string(b[5]) + ">>BDC ";
    if (b[6] % 7 == 6) content += "EMC ";
    content += std::string("BT /") + (b[5] % 4 == 0 ? "U " : "F ") + std::to_string(b[2] % 16) +
               " Tf " + kTurns[b[3] % 11] + " " + place + " Tm (";
    for (int k = 0; k < b[4] % 12; ++k)
      content += static_cast<char>("abcAB 019-.d"[(b[5] + k * b[6]) % 12]);
    content += ") Tj ET\n";
  }
  return content;
}

lumvet::Document page_with(const std::string& content) {
  test::PdfBuilder pdf;
  pdf.page(content,
           "/MediaBox[0 0 500 500]/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont"
           "/Helvetica>>/U 5 0 R>>>>");
  pdf.object(5, "<</Type/Font/Subtype/Type1/BaseFont/Courier/ToUnicode 6 0 R>>");
  pdf.stream(6, "",
             "1 begincodespacerange <00><FF> endcodespacerange 5 beginbfchar <61> <05D0> <62> "
             "<0627> <63> <6A4B> <41> <00660069> <64> <0301> endbfchar");
  const std::string bytes = pdf.finish();
  return lumvet::Document::open(lumvet::Bytes(bytes.begin(), bytes.end()),
                                {.limits = fuzz::kSmallLimits})
      .value();
}

void check(bool holds) {
  if (!holds) __builtin_trap();
}

// Every word has its style and its mark, and glyphs have places.
void check_glyphs(const lumvet::Document& document, const lumvet::PageWords& words) {
  for (std::size_t i = 0; i < words.word_count(); ++i)
    check(words.word(i).style < words.styles().size());
  const auto scene = lumvet::Scene::record(document.page(0).value()).value();
  const lumvet::PageGlyphs drawn = lumvet::glyphs_of(scene);
  for (const lumvet::PageGlyph& glyph : drawn.glyphs) {
    check(glyph.style < drawn.styles.size());
    for (const lumvet::Point corner : glyph.quad)
      check(corner.x == corner.x && corner.y == corner.y);
  }
  static_cast<void>(lumvet::PageWords::of(scene, {false, false, true}));
}

// What comes again is left out, and the rest stays as it is.
void check_heads(const lumvet::PageWords& words) {
  const auto heads = lumvet::running_heads({words, words});
  const lumvet::PageWords rest = words.without_lines(heads[0]);
  check(rest.line_count() <= words.line_count());
  check(words.without_lines({}).text() == words.text());
  for (std::size_t i = 0; i < rest.word_count(); ++i) {
    const lumvet::TextWord word = rest.word(i);
    check(word.begin < word.end && word.end <= rest.text().size());
    check(!rest.quads(word.begin, word.end).empty());
  }
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  if (size > 4000) return 0;
  const lumvet::Document document = page_with(content_of(data, size));
  const auto words = lumvet::PageWords::of(document.page(0).value()).value();
  const std::string& text = words.text();
  std::size_t end = 0;
  for (std::size_t i = 0; i < words.word_count(); ++i) {
    const lumvet::TextWord word = words.word(i);
    check(word.begin >= end && word.begin < word.end && word.end <= text.size());
    check(text.find_first_not_of(" \n\t", end) == word.begin);
    end = word.end;
    const lumvet::TextLine line = words.line(word.line);
    check(line.begin <= word.begin && word.end <= line.end);
    check(line.first_word <= i && i < line.words_end);
    const lumvet::TextBlock block = words.block(line.block);
    check(block.begin <= line.begin && line.end <= block.end);
    check(!words.quads(word.begin, word.end).empty());
    check(words.offset_at(word.quad[0]) <= text.size());
  }
  check(text.find_first_not_of(" \n\t", end) == std::string::npos);
  check(words.quads(text.size(), text.size() + 9).empty());
  if (words.word_count() > 0) {
    const lumvet::TextWord word = words.word(words.word_count() / 2);
    const auto search =
        lumvet::TextSearch::of(std::string_view(text).substr(word.begin, word.end - word.begin));
    if (search.ok()) {
      const auto hits = search->in(words).value();
      for (const lumvet::TextSpan& hit : hits) {
        check(hit.begin < hit.end && hit.end <= text.size());
        static_cast<void>(lumvet::snippet_around(text, hit, size % 50));
      }
    }
  }
  static_cast<void>(lumvet::laid_out(words));
  static_cast<void>(lumvet::as_html(words));
  check_glyphs(document, words);
  check_heads(words);
  static_cast<void>(lumvet::tables_as_csv(words));
  return 0;
}

// SPDX-License-Identifier: Apache-2.0
// Where words are: held against the pixels that are drawn, and against each other.
#include <cmath>

#include "lumvet/lumvet.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;

namespace {

const std::string kFont =
    "/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>>>>>";

Page page_of(const std::string& content, const std::string& entries) {
  test::PdfBuilder pdf;
  pdf.page(content, kFont + entries);
  return test::open(pdf.finish())->page(0).value();
}

PageWords words_of(const std::string& content,
                   const std::string& entries = "/MediaBox[0 0 400 400]") {
  return PageWords::of(page_of(content, entries)).value();
}

bool is_inside(const Quad& quad, Point p, double spare) {
  for (std::size_t i = 0; i < 4; ++i) {
    const Point side = quad[(i + 1) % 4] - quad[i];
    const Point to = p - quad[i];
    const double length = std::hypot(side.x, side.y);
    if (length > 0 && (side.x * to.y - side.y * to.x) / length < -spare) return false;
  }
  return true;
}

std::string turned(double degrees, const std::string& shown) {
  const double angle = degrees * 3.14159265358979 / 180;
  const auto n = [](double value) { return std::to_string(value); };
  return "BT /F 14 Tf " + n(std::cos(angle)) + " " + n(std::sin(angle)) + " " +
         n(-std::sin(angle)) + " " + n(std::cos(angle)) + " 200 200 Tm " + shown + " ET";
}

}  // namespace

TEST_CASE("the ink of a word lies within its quad, on pages and lines turned by any angle",
          "[text]") {
  for (const std::string entries :
       {"/MediaBox[0 0 400 400]", "/MediaBox[0 0 400 400]/Rotate 90",
        "/MediaBox[0 0 400 400]/Rotate 180", "/MediaBox[0 0 400 400]/Rotate 270/UserUnit 1.5",
        "/MediaBox[-50 -50 450 450]/CropBox[60 70 390 380]"})
    for (const double degrees : {0.0, 90.0, 180.0, 270.0, 17.0}) {
      CAPTURE(entries, degrees);
      // One word is red: its pixels are known from those of the others.
      const Page page =
          page_of(turned(degrees, "(Alder ) Tj 1 0 0 rg (Quarry) Tj 0 g ( Weir) Tj"), entries);
      const PageWords words = PageWords::of(page).value();
      REQUIRE(words.text() == "Alder Quarry Weir");
      REQUIRE(words.word_count() == 3);
      const Quad quad = words.word(1).quad;
      constexpr double kScale = 3;
      const Raster sheet = render(page, {.dpi = 72 * kScale}).value();
      std::size_t red = 0;
      for (int y = 0; y < sheet.height(); ++y)
        for (int x = 0; x < sheet.width(); ++x) {
          const PixelColor color = sheet.at(x, y);
          if (color.red < 200 || color.green > 60) continue;
          ++red;
          CHECK(is_inside(quad, {(x + 0.5) / kScale, (y + 0.5) / kScale}, 0.3));
        }
      CHECK(red > 300);
      // And no larger than it must be: less than twice the letters' height.
      const double height = std::hypot(quad[3].x - quad[0].x, quad[3].y - quad[0].y);
      CHECK(height < 2 * 14 * page.user_unit());
    }
}

TEST_CASE("a quad of part of a word is of just those letters", "[text]") {
  const PageWords words = words_of("BT /F 10 Tf 50 300 Td (mmmm) Tj ET");
  const Quad all = words.quads(0, 4).at(0);
  const Quad middle = words.quads(1, 3).at(0);
  const double width = all[1].x - all[0].x;
  CHECK(width == Approx(4 * 8.33).margin(0.01));
  CHECK(middle[0].x == Approx(all[0].x + width / 4).margin(0.01));
  CHECK(middle[1].x == Approx(all[0].x + width * 3 / 4).margin(0.01));
  CHECK(words.quads(2, 2).empty());
  CHECK(words.quads(4, 99).empty());
  // Of lines, one each; blanks between words are within.
  const PageWords lines = words_of("BT /F 10 Tf 50 300 Td (one two) Tj 0 -12 Td (three) Tj ET");
  CHECK(lines.quads(0, lines.text().size()).size() == 2);
}

TEST_CASE("the caret at the side of a letter is where that letter is in the text", "[text]") {
  for (const double degrees : {0.0, 90.0, 17.0}) {
    const PageWords words = words_of(turned(degrees, "(Hollin Mill crossing) Tj"));
    for (std::size_t byte = 0; byte < words.text().size(); ++byte) {
      if (words.text()[byte] == ' ') continue;
      CAPTURE(degrees, byte);
      const Quad quad = words.quads(byte, byte + 1).at(0);
      const Point begin = (quad[0] + quad[3]) * 0.5;
      const Point end = (quad[1] + quad[2]) * 0.5;
      CHECK(words.offset_at(begin + (end - begin) * 0.3) == byte);
      CHECK(words.offset_at(begin + (end - begin) * 0.7) == byte + 1);
    }
  }
  CHECK(words_of("").offset_at({10, 10}) == 0);
}

TEST_CASE("words, lines and blocks follow each other without gap or overlap", "[text]") {
  const PageWords words = words_of(
      "BT /F 20 Tf 50 350 Td (Bridges) Tj /F 10 Tf 0 -40 Td (one two) Tj 0 -12 Td (three) Tj "
      "0 -40 Td (four) Tj ET");
  CHECK(words.text() == "Bridges\n\none two\nthree\n\nfour");
  CHECK(words.block_count() == 3);
  CHECK(words.line_count() == 4);
  REQUIRE(words.word_count() == 5);
  std::size_t end = 0;
  for (std::size_t i = 0; i < words.word_count(); ++i) {
    const TextWord word = words.word(i);
    CHECK(word.begin >= end);
    CHECK(words.text().find_first_not_of(" \n", end) == word.begin);
    end = word.end;
    const TextLine line = words.line(word.line);
    CHECK((line.begin <= word.begin && word.end <= line.end));
    CHECK((line.first_word <= i && i < line.words_end));
    const TextBlock block = words.block(line.block);
    CHECK((block.begin <= line.begin && line.end <= block.end));
  }
  CHECK(end == words.text().size());
  CHECK(words.word(0).size == Approx(20));
  CHECK(words.word(1).size == Approx(10));
}

TEST_CASE("a selection is one run of the text, wherever it begins and ends", "[text]") {
  const PageWords words = words_of(
      "BT /F 20 Tf 50 350 Td (Bridges) Tj /F 10 Tf 0 -40 Td (one two) Tj 0 -12 Td (three) Tj "
      "0 -40 Td (four) Tj ET");
  const std::string& text = words.text();
  const auto middle = [&](std::size_t word) {
    const Quad quad = words.word(word).quad;
    return (quad[0] + quad[2]) * 0.5;
  };
  for (std::size_t a = 0; a < words.word_count(); ++a)
    for (std::size_t b = 0; b < words.word_count(); ++b) {
      const TextSpan span = words.between(middle(a), middle(b));
      CHECK(span == words.between(middle(b), middle(a)));
      CHECK(span.begin <= span.end);
      // Cut at a point, the two parts are the whole.
      const TextSpan first = words.between(middle(a), middle(2));
      const TextSpan second = words.between(middle(2), middle(b));
      if (a <= 2 && 2 <= b)
        CHECK((first.begin == span.begin && first.end == second.begin && second.end == span.end));
    }
  CHECK(words.between({0, 0}, {400, 400}) == TextSpan{0, text.size()});
  const auto said = [&](const TextSpan& span) {
    return text.substr(span.begin, span.end - span.begin);
  };
  const std::size_t two = text.find("two");
  CHECK(said(words.word_around(two + 1)) == "two");
  CHECK(said(words.word_around(two + 3)) == "two");
  CHECK(said(words.line_around(two)) == "one two");
  CHECK(said(words.block_around(two)) == "one two\nthree");
  CHECK(said(words.word_around(text.size() + 9)) == "four");
  CHECK(words_of("").word_around(0) == TextSpan());
  const auto all = words.within({0, 0, 400, 400});
  REQUIRE(all.size() == 1);
  CHECK(said(all[0]) == text);
  const Quad one = words.word(1).quad;
  const auto inside = words.within({one[0].x - 1, one[0].y - 1, one[1].x - one[0].x + 2, 30});
  REQUIRE(inside.size() == 2);  // "two" stands between them in the text
  CHECK(said(inside[0]) == "one");
  CHECK(said(inside[1]) == "three");
}

TEST_CASE("what the document does not tell is told as such", "[text]") {
  test::PdfBuilder pdf;
  pdf.page("BT /F 10 Tf 10 50 Td (AB) Tj ET",
           "/MediaBox[0 0 100 100]/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont"
           "/Helvetica/Encoding<</Differences[66/nothing.known]>>>>>>>>");
  const PageWords words = PageWords::of(test::open(pdf.finish())->page(0).value()).value();
  CHECK(words.text() == "A\uFFFD");
  CHECK(words.unknown_count() == 1);
}

TEST_CASE("which fonts cannot be read is told by name", "[text]") {
  test::PdfBuilder pdf;
  pdf.page("BT /F 10 Tf 10 50 Td (ABA) Tj /G 10 Tf (AB) Tj /S<</ActualText(x)>>BDC (B) Tj EMC ET",
           "/MediaBox[0 0 100 100]/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont"
           "/Helvetica>>/G<</Type/Font/Subtype/Type1/BaseFont/AAAAAA+Courier"
           "/Encoding<</Differences[66/nothing.known]>>>>>>>>");
  const auto readings = font_readings(test::open(pdf.finish()).value()).value();
  REQUIRE(readings.size() == 2);
  CHECK(readings[0].name == "Courier");
  CHECK(readings[0].characters == 3);
  CHECK(readings[0].unknown == 1);
  CHECK(readings[1].name == "Helvetica");
  CHECK(readings[1].unknown == 0);
}

TEST_CASE("what turns text around or moves a cursor is not part of words", "[text]") {
  const PageWords words =
      words_of("BT /F 10 Tf 10 50 Td /S<</ActualText<FEFF00610007202E0062>>>BDC (xyz) Tj EMC ET");
  CHECK(words.text() == "ab");
  CHECK(words.quads(0, 1).at(0)[1].x < words.quads(1, 2).at(0)[1].x);
}

TEST_CASE("letters that others stand over are not parted by them", "[text]") {
  // A mark over the first letter, which takes no more room.
  CHECK(words_of("BT /F 10 Tf 10 50 Td (m) Tj [450 (i)] TJ 1 0 0 1 18.33 50 Tm (a) Tj ET").text() ==
        "mia");
  // The glyphs of one text are one letter, all around them.
  const PageWords words = words_of(
      "BT /F 10 Tf 10 50 Td /S<</ActualText(m)>>BDC [(m) 700 (i)] TJ EMC "
      "1 0 0 1 18.33 50 Tm (a) Tj /S<</ActualText(bb)>>BDC (xyz) Tj EMC ET");
  CHECK(words.text() == "mabb");
  CHECK(words.quads(0, 1).at(0)[1].x == Approx(18.33).margin(0.01));
  CHECK(words.quads(2, 4).at(0)[1].x - words.quads(2, 4).at(0)[0].x == Approx(15).margin(0.1));
}

TEST_CASE("a page's words are kept in little memory", "[text]") {
  const Document document =
      Document::open(std::string(LUMVET_SOURCE_DIR) + "/demo/producers/loads.pdf").value();
  const PageWords words = PageWords::of(document.page(0).value()).value();
  CHECK(words.memory() < 24 * words.text().size());
}

TEST_CASE("letters all over a page end at a limit of time, or are read before it", "[text]") {
  std::string content = "BT /F 1 Tf\n";
  constexpr int kSide = 300;
  for (int y = 0; y < kSide; ++y)
    for (int x = 0; x < kSide; ++x)
      content += "1 0 0 1 " + std::to_string(x * 3) + " " + std::to_string(y * 3) + " Tm(a)Tj\n";
  test::PdfBuilder pdf;
  pdf.page(content + "ET", kFont + "/MediaBox[0 0 900 900]");
  const std::string bytes = pdf.finish();
  const auto document = [&](int milliseconds) {
    Limits limits;
    limits.page_milliseconds = static_cast<std::uint64_t>(milliseconds);
    return Document::open(Bytes(bytes.begin(), bytes.end()), {.limits = limits}).value();
  };
  const auto all = PageWords::of(document(0).page(0).value()).value();
  CHECK(all.word_count() == kSide * kSide);
  // However little time there is, it is never half a page that is taken for a whole one.
  const auto some = PageWords::of(document(1).page(0).value());
  CHECK((some.ok() || some.error().code() == ErrorCode::limit));
  CancelToken cancelled;
  cancelled.cancel();
  const auto none = PageWords::of(document(0).page(0).value(), {.cancel = cancelled});
  REQUIRE_FALSE(none.ok());
  CHECK(none.error().code() == ErrorCode::cancelled);
}

TEST_CASE("a page that is only read says what its drawing says", "[text]") {
  const std::string folder = std::string(LUMVET_SOURCE_DIR) + "/demo/producers/";
  for (const char* name : {"loads.pdf", "notice.pdf", "tariff.pdf", "drawing.pdf",
                           "words/spans.pdf", "words/mixed.pdf"}) {
    CAPTURE(name);
    const Page page = Document::open(folder + name)->page(0).value();
    const PageWords read = PageWords::of(page).value();
    const PageWords drawn = PageWords::of(Scene::record(page).value());
    CHECK(read.text() == drawn.text());
    CHECK(read.styles() == drawn.styles());
    REQUIRE(read.word_count() == drawn.word_count());
    for (std::size_t i = 0; i < read.word_count(); ++i) {
      CHECK(read.word(i).quad == drawn.word(i).quad);
      CHECK(read.word(i).visibility == drawn.word(i).visibility);
    }
  }
  // What clips to letters, and images over them, is there all the same.
  const Page covered = page_of(
      "q BT /F 40 Tf 7 Tr 50 200 Td (clip) Tj ET 1 0 0 rg 0 0 400 400 re f Q "
      "BT /F 10 Tf 0 g 50 50 Td (word) Tj ET 1 g 40 40 60 30 re f",
      "/MediaBox[0 0 400 400]");
  const PageWords words = PageWords::of(covered).value();
  REQUIRE(words.text() == "clip\n\nword");
  CHECK(words.word(1).visibility == Visibility::covered);
  CHECK(words.word(0).visibility ==
        PageWords::of(Scene::record(covered).value()).word(0).visibility);
}

// SPDX-License-Identifier: Apache-2.0
// How words look, whether they are seen, and the characters that letters become.
#include <cmath>

#include "lumvet/lumvet.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;

namespace {

const std::string kResources =
    "/MediaBox[0 0 400 400]/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>"
    "/B<</Type/Font/Subtype/Type1/BaseFont/ABCDEF+Courier-BoldOblique>>"
    "/A<</Type/Font/Subtype/Type1/BaseFont/Helvetica/Encoding<</Differences[65/acute/dieresis"
    "/dotlessi/fi/uniFEFB/cedilla/uni0303/adieresis]>>>>>>/XObject<</I 7 0 R/M 8 0 "
    "R>>/ExtGState<</G<</ca 0>>"
    "/H<</ca 0.5>>>>>>";

Page page_of(const std::string& content) {
  test::PdfBuilder pdf;
  pdf.page(content, kResources);
  pdf.stream(7, "/Subtype/Image/Width 1/Height 1/BitsPerComponent 8/ColorSpace/DeviceGray", "x");
  pdf.stream(8,
             "/Subtype/Image/Width 1/Height 1/BitsPerComponent 8/ColorSpace/DeviceGray"
             "/Mask[0 9]",
             "x");
  return test::open(pdf.finish())->page(0).value();
}

PageWords words_of(const std::string& content, const WordOptions& letters = {}) {
  return PageWords::of(page_of(content), {}, letters).value();
}

Visibility visibility_of(const std::string& content) {
  const PageWords words = words_of(content);
  REQUIRE(words.word_count() == 1);
  return words.word(0).visibility;
}

}  // namespace

TEST_CASE("a word has the font, the color and the way of showing of its first letter", "[text]") {
  const PageWords words = words_of(
      "BT /F 10 Tf 1 0 0 rg 10 300 Td (red) Tj /B 12 Tf 0 0 1 RG 1 Tr 0 -20 Td (line) Tj "
      "3 Tr 0 -20 Td (none) Tj /F 10 Tf 0 Tr 0 -20 Td (red) Tj ET");
  REQUIRE(words.word_count() == 4);
  REQUIRE(words.styles().size() == 3);
  const WordStyle& red = words.styles()[words.word(0).style];
  CHECK(red == WordStyle{"Helvetica", false, false, LetterMode::fill, {{255, 0, 0}}});
  const WordStyle& line = words.styles()[words.word(1).style];
  CHECK(line == WordStyle{"Courier-BoldOblique", true, true, LetterMode::stroke, {{0, 0, 255}}});
  const WordStyle& none = words.styles()[words.word(2).style];
  CHECK(none.mode == LetterMode::invisible);
  CHECK_FALSE(none.color);
  CHECK(words.word(3).style == words.word(0).style);
}

TEST_CASE("a word tells whether it is seen where it stands", "[text]") {
  const std::string shown = "BT /F 10 Tf 50 300 Td (word) Tj ET ";
  struct Case {
    std::string content;
    Visibility visibility;
  };
  for (const Case& known : {
           Case{shown, Visibility::seen},
           Case{"BT /F 10 Tf 3 Tr 50 300 Td (word) Tj ET", Visibility::invisible},
           Case{"/G gs " + shown, Visibility::invisible},
           // Shapes and images over it, and what is not whole, or see-through, or drawn before.
           Case{shown + "1 0 0 rg 40 290 100 30 re f", Visibility::covered},
           Case{shown + "q 100 0 0 30 40 290 cm /I Do Q", Visibility::covered},
           Case{shown + "q 100 0 0 30 40 290 cm /M Do Q", Visibility::seen},
           Case{shown + "1 0 0 rg 40 290 5 30 re f", Visibility::seen},
           Case{shown + "/H gs 1 0 0 rg 40 290 100 30 re f", Visibility::seen},
           Case{shown + "1 0 0 rg 40 290 m 140 290 l 90 330 l f", Visibility::seen},
           Case{shown + "0 0 9 9 re W n 1 0 0 rg 40 290 100 30 re f", Visibility::seen},
           Case{"1 0 0 rg 40 290 100 30 re f 0 g " + shown, Visibility::seen},
           // Colors that are those of what is below.
           Case{"1 g " + shown, Visibility::as_ground},
           Case{"1 0 0 rg 40 290 100 30 re f " + shown, Visibility::as_ground},
           Case{"1 0 0 rg 40 290 100 30 re f 1 g " + shown, Visibility::seen},
           Case{"q 100 0 0 30 40 290 cm /I Do Q 1 g " + shown, Visibility::seen},
           Case{"0 g 90 300 m 140 300 140 350 90 350 c 40 350 40 290 90 290 c f 1 g " + shown,
                Visibility::seen},
           Case{"q 10 10 50 50 re W n " + shown + "Q", Visibility::clipped},
           Case{"q 10 10 350 350 re W n " + shown + "Q", Visibility::seen},
       }) {
    CAPTURE(known.content);
    CHECK(visibility_of(known.content) == known.visibility);
  }
}

TEST_CASE("of words of one line, those that were covered before the rest came are told apart",
          "[text]") {
  const PageWords words = words_of(
      "BT /F 10 Tf 50 300 Td (name) Tj ET 0 g 40 290 36 30 re f "
      "BT /F 10 Tf 50 300 Td 30 0 Td ( open) Tj ET");
  REQUIRE(words.text() == "name open");
  CHECK(words.word(0).visibility == Visibility::covered);
  CHECK(words.word(1).visibility == Visibility::seen);
}

TEST_CASE("an accent drawn over a letter or under it is part of the letter", "[text]") {
  // Widths of Helvetica: acute, dieresis and cedilla 0.333, e 0.556, c 0.5, dotlessi 0.278.
  struct Case {
    const char* content;
    const char* said;
  };
  for (const Case& known : {
           Case{"BT /A 10 Tf 10 50 Td (caf) Tj [(A) 445 (e)] TJ ET", "café"},
           Case{"BT /A 10 Tf 10 50 Td [(caf) -110 (A) 445 (e)] TJ ET", "café"},
           Case{"BT /A 10 Tf 10 50 Td [(nae) 440 (B) 110 (x)] TJ ET", "naëx"},
           Case{"BT /A 10 Tf 10 50 Td [(na) -30 (B) 305 (C) (ve)] TJ ET", "naïve"},
           Case{"BT /A 10 Tf 10 50 Td [(gar) (c) 416 (F) 83 (on)] TJ ET", "garçon"},
           // A mark that combines follows its letter, though it has the next one's place.
           Case{"BT /A 10 Tf 10 50 Td [(nao) 0 (G) 333 (n)] TJ ET", "naõn"},
           // Beside letters it is a character of its own, as in what programmers write.
           Case{"BT /F 10 Tf 10 50 Td (x^2 a~b |c|) Tj ET", "x^2 a~b |c|"},
       }) {
    CAPTURE(known.content);
    CHECK(words_of(known.content).text() == known.said);
  }
  const PageWords apart =
      words_of("BT /A 10 Tf 10 50 Td (caf) Tj [(A) 445 (e)] TJ ET", {.composes_accents = false});
  CHECK(apart.text() != "café");
  CHECK_THAT(apart.text(), Catch::Contains("´"));
}

TEST_CASE("ligatures are letters, or stay what they are", "[text]") {
  const std::string content = "BT /A 10 Tf 10 50 Td (Dve E) Tj ET";
  const PageWords apart = words_of(content);
  CHECK(apart.text() == "five لا");
  const PageWords whole = words_of(content, {.splits_ligatures = false});
  CHECK(whole.text() == "ﬁve ﻻ");
  const Quad first = apart.quads(0, 1).at(0);
  const Quad second = apart.quads(1, 2).at(0);
  CHECK(first[1].x == Approx(second[0].x).margin(0.01));
}

TEST_CASE("abbreviations are written out on request", "[text]") {
  const std::string content =
      "BT /F 10 Tf 10 50 Td /Span<</E(Doctor)>>BDC (Dr.) Tj EMC ( Alder) Tj ET";
  CHECK(words_of(content).text() == "Dr. Alder");
  CHECK(words_of(content, {.expands_abbreviations = true}).text() == "Doctor Alder");
}

TEST_CASE("a line that bends is one line, and its letters are where they are drawn", "[text]") {
  const std::string text = "Ostrel Valley bridges";
  std::string content = "BT /B 12 Tf\n";  // each letter 7.2 points wide
  const auto n = [](double value) { return std::to_string(value); };
  std::vector<Point> places;  // of each letter, about its middle, in display space
  for (std::size_t i = 0; i < text.size(); ++i) {
    const double angle = 2.4 - static_cast<double>(i) * 0.09;  // from the left, over the top
    const double x = 200 + 80 * std::cos(angle);
    const double y = 200 + 80 * std::sin(angle);
    content += n(std::sin(angle)) + " " + n(-std::cos(angle)) + " " + n(std::cos(angle)) + " " +
               n(std::sin(angle)) + " " + n(x) + " " + n(y) + " Tm (" + text[i] + ") Tj\n";
    const double middle = angle - 3.6 / 80;
    places.push_back({200 + 84 * std::cos(middle), 200 - 84 * std::sin(middle)});
  }
  const PageWords words = words_of(content + "ET");
  REQUIRE(words.text() == text);
  CHECK(words.line_count() == 1);
  for (std::size_t i = 0; i < text.size(); ++i) {
    if (text[i] == ' ') continue;
    CAPTURE(i, text[i]);
    const auto quads = words.quads(i, i + 1);
    REQUIRE(quads.size() == 1);
    const Quad& quad = quads[0];
    const Point side = quad[1] - quad[0];
    const double expected = 2.4 - static_cast<double>(i) * 0.09 - 1.5707963;
    CHECK(std::atan2(-side.y, side.x) == Approx(expected).margin(0.01));
    const std::size_t at = words.offset_at(places[i]);
    CHECK((at == i || at == i + 1));
  }
  // The ink lies within the quads.
  const Raster sheet = render(page_of(content + "ET"), {.dpi = 144}).value();
  const auto quads = words.quads(0, text.size());
  std::size_t dark = 0;
  for (int y = 0; y < sheet.height(); ++y)
    for (int x = 0; x < sheet.width(); ++x) {
      if (sheet.at(x, y).red > 100) continue;
      ++dark;
      bool is_inside = false;
      for (const Quad& quad : quads) {
        bool within = true;
        for (std::size_t i = 0; i < 4; ++i) {
          const Point side = quad[(i + 1) % 4] - quad[i];
          const Point to = Point{(x + 0.5) / 2, (y + 0.5) / 2} - quad[i];
          within &= side.x * to.y - side.y * to.x > -0.5 * std::hypot(side.x, side.y);
        }
        is_inside |= within;
      }
      CHECK(is_inside);
    }
  CHECK(dark > 300);
}

TEST_CASE("words know the marked content that they lie in", "[text]") {
  const PageWords words = words_of(
      "BT /F 10 Tf 10 300 Td /Artifact BMC (head) Tj EMC 0 -30 Td /P<</MCID 4>>BDC (body) Tj "
      "/Span<</MCID 5>>BDC ( inner) Tj EMC EMC 0 -30 Td (loose) Tj ET");
  REQUIRE(words.word_count() == 4);
  CHECK(words.word(0).is_artifact);
  CHECK_FALSE(words.word(0).mark);
  CHECK(words.word(1).mark == ContentMark{4, {}});
  CHECK(words.word(2).mark == ContentMark{5, {}});
  CHECK_FALSE(words.word(3).mark);
  CHECK_FALSE(words.word(3).is_artifact);
}

// SPDX-License-Identifier: Apache-2.0
// Paragraphs: where lines end and stand, and that they are read back as they were set.
#include "lumvet/draw/paragraph.h"

#include <unicode/ubrk.h>

#include <set>

#include "document/inside.h"
#include "fonts/font_matcher.h"
#include "fonts/font_program.h"
#include "fonts/substitute.h"
#include "lumvet/draw/new_document.h"
#include "lumvet/render/placed_images.h"
#include "lumvet/render/render.h"
#include "lumvet/text/page_words.h"
#include "objects/text_string.h"
#include "tests/support/catch.h"
#include "tests/support/layered_font.h"

using namespace lumvet;
using Align = ParagraphStyle::Align;

namespace {

const std::string kText =
    "Six footbridges over the Ostrel, the Lesser Ostrel and the Pell were inspected on one day. "
    "Two are in very good condition, two need small repairs with the next painting, one has to be "
    "looked at by divers, and one was limited to ten persons at a time until its hangers have been "
    "replaced.";

Typeface face() { return Typeface::named("Liberation Serif").value(); }

PageWords read(const Drawing& drawing) {
  const Document document = drawing.as_document().value();
  CHECK(document.findings().empty());
  return PageWords::of(document.page(0).value()).value();
}

PageWords read(const SetParagraph& set, Point at = {50, 50}) {
  Drawing page(600, 800);
  page.write(set, at);
  REQUIRE(page.status().ok());
  return read(page);
}

std::string in_one_line(std::string text) {
  for (char& c : text)
    if (c == '\n') c = ' ';
  return text;
}

}  // namespace

TEST_CASE("text is read back as it was set, in the scripts of the valley's visitors", "[draw]") {
  // What a script needs that the font lacks comes from another.
  for (const char* text :
       {"Six footbridges, office affluent", "Γέφυρες της κοιλάδας", "Мосты долины Острель",
        "جسور الوادي", "גשרים בעמק", "पुल क्षेत्र निरीक्षण", "山谷中的人行桥", "谷の歩道橋を点検",
        "계곡의 보도교", "Prüfung „Stahl“ – 12 °C"}) {
    CAPTURE(text);
    const PageWords words = read(Paragraph(text, {.face = face(), .size = 14}).set(500).value());
    CHECK(words.text() == text);
    CHECK(words.unknown_count() == 0);
  }
}

TEST_CASE("words stand where they were asked for, in nine scripts", "[draw]") {
  struct Case {
    const char* text;
    bool to_left = false;
  };
  const TextStyle look{.face = face(), .size = 14};
  const double left = 60;
  const double top = 70;
  for (const Case& known :
       {Case{"Six footbridges inspected"}, Case{"Γέφυρες της κοιλάδας"},
        Case{"Мосты долины Острель"}, Case{"جسور الوادي", true}, Case{"גשרים בעמק", true},
        Case{"पुल क्षेत्र निरीक्षण"}, Case{"山谷中的人行桥"}, Case{"たにのほどうきょう"},
        Case{"계곡의 보도교"}})
    for (const Align align : {Align::left, Align::right, Align::center}) {
      CAPTURE(known.text);
      const SetParagraph set = Paragraph(known.text, look, {.align = align}).set(300).value();
      const PageWords words = read(set, {left, top});
      REQUIRE(words.text() == known.text);
      REQUIRE(set.line_count() == 1);
      for (std::size_t i = 0; i < words.word_count(); ++i) {
        CAPTURE(i);
        // As far along as what comes before it is wide, with the blank between.
        const auto width_until = [&](std::size_t end) {
          return Drawing::text_width(words.text().substr(0, end), look).value();
        };
        const TextSpan span{words.word(i).begin, words.word(i).end};
        const std::string own = words.text().substr(span.begin, span.end - span.begin);
        const double along = width_until(span.end) - Drawing::text_width(own, look).value();
        const Quad& quad = words.word(i).quad;
        const double begin = known.to_left ? left + set.line_right(0) - quad[1].x
                                           : quad[0].x - left - set.line_left(0);
        CHECK(begin == Approx(along).margin(0.15));
        // Letters stand within the line, around its base line.
        CHECK(quad[0].y > top - 2);
        CHECK(quad[3].y < top + set.height() + 4);
        CHECK(words.word(i).size == Approx(14).margin(0.01));
      }
      const Quad& last = words.word(words.word_count() - 1).quad;
      const double end =
          known.to_left ? last[0].x - set.line_left(0) : last[1].x - set.line_right(0);
      CHECK(end == Approx(left).margin(0.2));
    }
}

TEST_CASE("lines stand where the paragraph says", "[draw]") {
  for (const Align align : {Align::left, Align::right, Align::center, Align::justified}) {
    const double width = 220;
    const SetParagraph set =
        Paragraph(kText, {.face = face(), .size = 11}, {.align = align}).set(width).value();
    REQUIRE(set.line_count() > 5);
    const PageWords words = read(set, {60, 70});
    REQUIRE(words.line_count() == set.line_count());
    CHECK(in_one_line(words.text()) == kText);
    for (std::size_t i = 0; i < set.line_count(); ++i) {
      CAPTURE(i);
      const auto quads = words.quads(words.line(i).begin, words.line(i).end);
      REQUIRE(quads.size() == 1);
      CHECK(quads[0][0].x == Approx(60 + set.line_left(i)).margin(0.2));
      CHECK(quads[0][1].x == Approx(60 + set.line_right(i)).margin(0.2));
      const bool is_last = i + 1 == set.line_count();
      const double left = set.line_left(i);
      const double right = width - set.line_right(i);
      if (align == Align::left || (align == Align::justified && is_last)) CHECK(left == Approx(0));
      if (align == Align::right) CHECK(right == Approx(0).margin(1e-6));
      if (align == Align::center) CHECK(left == Approx(right).margin(1e-6));
      if (align == Align::justified && !is_last) {
        CHECK(left == Approx(0).margin(1e-6));
        CHECK(right == Approx(0).margin(1e-6));
      }
    }
    CHECK(set.height() == Approx(11 * 1.25 * static_cast<double>(set.line_count())));
  }
}

TEST_CASE("lines end where the scripts let them, and are as full as can be", "[draw]") {
  for (const std::string& text :
       {kText, std::string("山谷中的人行桥在秋天检查过了。其中两座状况良好,两座需要小修。"),
        std::string("a-b c/d https://example.org/a/very/long/path e\u00A0f g\u200Bh")}) {
    CAPTURE(text);
    const std::u16string units = objects::utf8_to_utf16(text);
    UErrorCode failed = U_ZERO_ERROR;
    UBreakIterator* breaks =
        ubrk_open(UBRK_LINE, "", units.data(), static_cast<int>(units.size()), &failed);
    std::vector<std::size_t> ends;
    for (int at = ubrk_next(breaks); at != UBRK_DONE; at = ubrk_next(breaks))
      ends.push_back(static_cast<std::size_t>(at));
    ubrk_close(breaks);
    const TextStyle look{.face = face(), .size = 11};
    const auto width_of = [&](std::size_t from, std::size_t to) {
      std::u16string part = units.substr(from, to - from);
      while (!part.empty() && part.back() == ' ') part.pop_back();
      return Drawing::text_width(objects::utf16_to_utf8(part), look).value();
    };
    const double room = 120;
    const SetParagraph set = Paragraph(text, look).set(room).value();
    std::size_t at = 0;
    for (std::size_t i = 0; i < set.line_count(); ++i) {
      // The last opportunity up to which there is room, by measuring each.
      std::size_t expected = 0;
      for (const std::size_t end : ends)
        if (end > at && width_of(at, end) <= room) expected = end;
      REQUIRE(expected > at);
      std::u16string line = units.substr(at, expected - at);
      while (!line.empty() && line.back() == ' ') line.pop_back();
      CHECK(set.line_text(i) == objects::utf16_to_utf8(line));
      at = expected;
    }
    CHECK(at == units.size());
  }
}

TEST_CASE("words are divided by the patterns of their language, where that is asked for",
          "[draw]") {
  const TextStyle look{.face = face(), .size = 11, .language = "en-US"};
  const std::string text = "maintenance responsibilities notwithstanding administration";
  const SetParagraph whole = Paragraph(text, look).set(90).value();
  const SetParagraph divided = Paragraph(text, look, {.divides_words = true}).set(90).value();
  std::string joined;
  int hyphens = 0;
  for (std::size_t i = 0; i < divided.line_count(); ++i) {
    std::string line = divided.line_text(i);
    CHECK(divided.line_right(i) <= 90 + 1e-6);
    if (line.ends_with('-')) {
      ++hyphens;
      line.pop_back();
    } else {
      line += ' ';
    }
    joined += line;
  }
  joined.pop_back();
  CHECK(joined == text);
  CHECK(hyphens >= 2);
  CHECK(divided.line_text(0) == "maintenance re-");
  for (std::size_t i = 0; i < whole.line_count(); ++i)
    CHECK_FALSE(whole.line_text(i).ends_with('-'));
  // A soft hyphen shows where a line ends behind it only.
  const SetParagraph soft = Paragraph("Brücken\u00ADprüfung", look).set(60).value();
  CHECK(soft.line_text(0) == "Brücken-");
  CHECK(soft.line_text(1) == "prüfung");
  CHECK(read(Paragraph("Brücken\u00ADprüfung", look).set(200).value()).text() == "Brückenprüfung");
}

TEST_CASE("a word that is wider than the paragraph is cut between letters", "[draw]") {
  const SetParagraph set =
      Paragraph("ab Donaudampfschifffahrt", {.face = face(), .size = 11}).set(40).value();
  std::string all;
  for (std::size_t i = 1; i < set.line_count(); ++i) {
    CHECK(set.line_right(i) <= 40 + 1e-6);
    all += set.line_text(i);
  }
  CHECK(set.line_text(0) == "ab");
  CHECK(all == "Donaudampfschifffahrt");
  // However narrow: a letter a line.
  CHECK(Paragraph("abc", {.face = face(), .size = 11}).set(0.5).value().line_count() == 3);
}

TEST_CASE("tabs lead to their stops, and leaders fill the way", "[draw]") {
  const ParagraphStyle style{.tabs = {{200, TabStop::Align::right, "."}}};
  const SetParagraph set =
      Paragraph("Summary\t3\nConditions\t114", {.face = face(), .size = 11}, style)
          .set(220)
          .value();
  REQUIRE(set.line_count() == 2);
  CHECK(set.line_right(0) == Approx(200));
  CHECK(set.line_right(1) == Approx(200));
  const PageWords words = read(set);
  CHECK(words.text().starts_with("Summary"));
  CHECK(words.text().find(". . .") + words.text().find("....") != 2 * std::string::npos);
  CHECK(words.text().find("114") != std::string::npos);
}

TEST_CASE("styles change within a paragraph, and its lines are as high as their largest letters",
          "[draw]") {
  Paragraph text("small ", {.face = face(), .size = 10});
  text.add("LARGE", {.face = Typeface::named("Liberation Sans:bold").value(),
                     .size = 20,
                     .color = Color::rgb(0.8, 0.2, 0.1)})
      .add(" small\nsmall again", {.face = face(), .size = 10});
  const SetParagraph set = text.set(300).value();
  REQUIRE(set.line_count() == 2);
  CHECK(set.line_top(1) == Approx(25));
  CHECK(set.height() == Approx(37.5));
  const PageWords words = read(set);
  CHECK(in_one_line(words.text()).starts_with("small LARGE small"));
  CHECK(words.text().ends_with("small again"));
  const TextWord large = words.word(1);
  CHECK(large.size == Approx(20));
  CHECK(words.styles()[large.style].is_bold);
  CHECK(words.styles()[large.style].color == std::array<std::uint8_t, 3>{204, 51, 26});
}

TEST_CASE("a letter that no font has is named; a box stands for it on request", "[draw]") {
  const auto alone =
      Typeface::of_file("/usr/share/fonts/truetype/liberation/LiberationSerif-Regular.ttf").value();
  const auto wrong = Paragraph("bridge 桥", {.face = alone, .size = 11}).set(100);
  REQUIRE_FALSE(wrong.ok());
  CHECK(wrong.error().code() == ErrorCode::invalid_argument);
  CHECK_THAT(wrong.error().message(), Catch::Contains("Liberation Serif") &&
                                          Catch::Contains("'桥'") && Catch::Contains("U+6865"));
  CHECK(Paragraph("bridge 桥", {.face = alone, .size = 11, .shows_missing = true}).set(100).ok());
  CHECK(Paragraph("bridge 桥", {.face = alone.or_else(Typeface()), .size = 11}).set(100).ok());
  CHECK_FALSE(Paragraph("a", {.face = alone}).set(0).ok());
  CHECK_FALSE(Paragraph("a", {.face = alone, .size = -1}).set(10).ok());
  CHECK(Typeface::named("No Such Family").error().code() == ErrorCode::invalid_argument);
  CHECK(Typeface::of(Bytes{1, 2, 3}).error().code() == ErrorCode::malformed);
}

TEST_CASE("features of fonts, and room between letters, count", "[draw]") {
  const Typeface plain = face();
  const auto width = [&](const Typeface& used, const std::string& text) {
    return Drawing::text_width(text, {.face = used, .size = 100}).value();
  };
  // Without ligatures "ffi" is as wide as its letters.
  const Typeface apart = plain.with_feature("liga", 0);
  CHECK(width(apart, "fi") == Approx(width(plain, "f") + width(plain, "i")));
  // Spacing and kerning.
  CHECK(Drawing::text_width("abc", {.face = plain, .size = 10, .spacing = 2}).value() ==
        Approx(width(plain, "abc") / 10 + 6));
  CHECK(width(plain, "AVAV") < width(plain.with_feature("kern", 0), "AVAV"));
}

TEST_CASE("a variable font is embedded as it is at its place on the axes", "[draw]") {
  const auto variable =
      Typeface::of_file("/usr/share/fonts/truetype/inter-vf/Inter-roman.var.ttf").value();
  const auto ink = [&](double weight) {
    Drawing page(200, 60);
    page.write("Ostrel", {10, 45}, {.face = variable.with_axis("wght", weight), .size = 40});
    const Document document = page.as_document().value();
    CHECK(document.findings().empty());
    CHECK(text_of(document.page(0).value()).value() == "Ostrel");
    const Raster raster = render(document.page(0).value(), {.dpi = 144}).value();
    double dark = 0;
    for (int y = 0; y < raster.height(); ++y)
      for (int x = 0; x < raster.width(); ++x) dark += 255 - raster.at(x, y).red;
    return dark;
  };
  CHECK(ink(700) > 1.4 * ink(400));
  CHECK(ink(400) > 1.4 * ink(100));
  // Beyond its ends an axis ends, and one that a font has not changes nothing.
  CHECK(ink(5000) == Approx(ink(900)));
  CHECK(Drawing::text_width("a", {.face = variable.with_axis("none", 3), .size = 10}).value() ==
        Drawing::text_width("a", {.face = variable, .size = 10}).value());
  // Two places on the axes are two fonts of a document.
  Drawing both(200, 60);
  both.write("thin", {10, 20}, {.face = variable.with_axis("wght", 200), .size = 12});
  both.write("bold", {10, 40}, {.face = variable.with_axis("wght", 800), .size = 12});
  const Document document = both.as_document().value();
  const Dict resources = document.resolve(document.page(0)->dict()["Resources"]).value().as_dict();
  const Dict fonts = document.resolve(resources["Font"]).value().as_dict();
  REQUIRE(fonts.size() == 2);
  CHECK_FALSE(fonts["F0"] == fonts["F1"]);
}

TEST_CASE("lines that run downward are written from any of them on", "[draw]") {
  const TextStyle letters{
      .face = Typeface::named("IPAGothic").value(), .size = 20, .language = "ja"};
  const SetParagraph set =
      Paragraph("谷の歩道橋を点検", letters, {.runs_down = true}).set(80).value();
  REQUIRE(set.line_count() == 2);
  const auto drawn = [](const SetParagraph& lines, std::size_t first) {
    Drawing drawing(100, 100);
    drawing.write(lines, {60, 10}, first, first + 1);
    return render(drawing.as_document()->page(0).value()).value();
  };
  const SetParagraph second = Paragraph("橋を点検", letters, {.runs_down = true}).set(80).value();
  const Raster left = drawn(set, 1);
  const Raster right = drawn(second, 0);
  CHECK(std::equal(left.bytes().begin(), left.bytes().end(), right.bytes().begin()));
}

TEST_CASE("lines run downward, from the right to the left", "[draw]") {
  const Typeface gothic = Typeface::named("IPAGothic").value();
  const TextStyle letters{.face = gothic, .size = 20, .language = "ja"};
  // 、 and 「 have forms of their own; Latin is turned.
  const std::string text = "谷の歩道橋を、「秋」に点検しました。Ostrel川";
  const SetParagraph set =
      Paragraph(text, letters, {.line_height = 1.5, .runs_down = true}).set(170).value();
  REQUIRE(set.line_count() == 3);
  CHECK(set.height() == Approx(3 * 30));
  for (const Drawing::Space space : {Drawing::Space::downward, Drawing::Space::upward}) {
    Drawing drawing(300, 220, space);
    drawing.write(set, {250, space == Drawing::Space::downward ? 20.0 : 200.0});
    const Document document = drawing.as_document().value();
    const PageWords words = PageWords::of(document.page(0).value()).value();
    CHECK(document.findings().empty());
    std::string read;
    for (const char c : words.text())
      if (c != '\n' && c != ' ') read += c;
    CHECK(read == text);
    const std::vector<Quad> all = words.quads(0, words.text().size());
    REQUIRE(all.size() >= 3);
    const Raster raster = render(document.page(0).value()).value();
    const auto is_dark = [&](int left, int right, int top, int bottom) {
      for (int y = top; y < bottom; ++y)
        for (int x = left; x < right; ++x)
          if (raster.at(x, y).red < 128) return true;
      return false;
    };
    // Each column within its own room, none below what it has.
    CHECK_FALSE(is_dark(250, 300, 0, 220));
    for (int column = 0; column < 3; ++column) {
      CAPTURE(column);
      const int right = 250 - 30 * column;
      CHECK_FALSE(is_dark(right - 5, right, 0, 220));
      CHECK_FALSE(is_dark(right - 30, right - 25, 0, 220));
      CHECK_FALSE(is_dark(right - 30, right, 0, 20));
      CHECK_FALSE(is_dark(right - 30, right, 191, 220));
      // One letter below the other.
      for (int letter = 0; letter < 4; ++letter)
        CHECK(is_dark(right - 25, right - 5, 20 + 20 * letter, 40 + 20 * letter));
    }
    CHECK_FALSE(is_dark(0, 160, 0, 220));
  }
}

TEST_CASE("letters that are pictures are shown as pictures, and say what they are", "[draw]") {
  // By the plain font's chain, and by name.
  for (const Typeface& letters : {face(), Typeface::named("Noto Color Emoji").value()}) {
    const SetParagraph set =
        Paragraph("\U0001F6A7\U0001F309\U0001F6A7", {.face = letters, .size = 40}).set(400).value();
    CHECK(set.line_right(0) > 100);
    Drawing drawing(300, 100);
    drawing.write(set, {20, 20});
    const Document document = drawing.as_document().value();
    CHECK(document.findings().empty());
    const Page page = document.page(0).value();
    CHECK(PageWords::of(page).value().text() == "\U0001F6A7\U0001F309\U0001F6A7");
    const Scene scene = Scene::record(page).value();
    const auto images = placed_images(scene);
    REQUIRE(images.size() == 3);
    CHECK(images[0].quad()[0].x >= 20 - 1);
    CHECK(images[1].quad()[0].x > images[0].quad()[1].x - 5);
    // In color, upright, and the same one once.
    const Raster raster = render(page).value();
    int colored = 0;
    for (int y = 20; y < 75; ++y)
      for (int x = 20; x < 70; ++x)
        colored += raster.at(x, y).red > raster.at(x, y).blue + 60 ? 1 : 0;
    CHECK(colored > 200);
    const Dict resources = store_of(document).resolve(page.dict()["Resources"]).as_dict();
    CHECK(store_of(document).resolve(resources["XObject"]).as_dict().size() == 2);
  }
}

TEST_CASE("letters of several layers are shown in their colors, and say what they are", "[draw]") {
  // An H that is an O in red below an I in blue, and an L that is an I in the color of the text.
  const Typeface plain = Typeface::named("DejaVu Sans").value();
  const auto program = fonts::find_face("DejaVu Sans", fonts_of(FontSupply())).value();
  const auto glyph = [&](char letter) {
    return program->glyph_for_unicode(static_cast<unsigned char>(letter));
  };
  const Typeface layered =
      Typeface::of(test::with_layers(program->bytes(),
                                     {{glyph('H'), {{glyph('O'), 0}, {glyph('I'), 1}}},
                                      {glyph('L'), {{glyph('I'), 0xFFFF}}}},
                                     {{255, 0, 0, 255}, {0, 0, 255, 255}}))
          .value();
  Drawing drawing(300, 100);
  drawing.write("xHLx", {20, 60}, {.face = layered, .size = 40, .color = Color::rgb(0, 0.5, 0)});
  const Document document = drawing.as_document().value();
  CHECK(document.findings().empty());
  const Page page = document.page(0).value();
  const PageWords words = PageWords::of(page).value();
  REQUIRE(words.text() == "xHLx");
  CHECK(words.word(0).visibility == Visibility::seen);
  CHECK(words.word(0).quad[1].x ==
        Approx(20 + Drawing::text_width("xHLx", {.face = plain, .size = 40}).value()).margin(0.5));
  // The same, shape by shape.
  Drawing expected(300, 100);
  const auto write = [&](const char* text, const char* before, Color color) {
    const double left = Drawing::text_width(before, {.face = plain, .size = 40}).value();
    expected.write(text, {20 + left, 60}, {.face = plain, .size = 40, .color = color});
  };
  const Color own = Color::rgb(0, 0.5, 0);
  write("x", "", own);
  write("O", "x", Color::rgb(1, 0, 0));
  write("I", "x", Color::rgb(0, 0, 1));
  write("I", "xH", own);
  write("x", "xHL", own);
  const Raster shown = render(page).value();
  const Raster wanted = render(expected.as_document()->page(0).value()).value();
  int different = 0;
  for (int y = 0; y < shown.height(); ++y)
    for (int x = 0; x < shown.width(); ++x) {
      const auto a = shown.at(x, y);
      const auto b = wanted.at(x, y);
      if (std::abs(a.red - b.red) + std::abs(a.green - b.green) + std::abs(a.blue - b.blue) > 24)
        ++different;
    }
  CHECK(different == 0);
}

TEST_CASE("letters stand on the base line that a paragraph tells", "[draw]") {
  const TextStyle look{.face = face(), .size = 40};
  const SetParagraph set = Paragraph("H\nH", look).set(100).value();
  Drawing page(200, 200);
  page.write(set, {20, 10});
  const Raster raster = render(page.as_document()->page(0).value(), {.dpi = 288}).value();
  for (std::size_t line = 0; line < 2; ++line) {
    const double base = 10 + set.base_line(line);
    const auto is_dark = [&](double y) {
      for (int x = 80; x < 240; ++x)
        if (raster.at(x, static_cast<int>(y * 4)).red < 128) return true;
      return false;
    };
    CHECK(is_dark(base - 1));
    CHECK_FALSE(is_dark(base + 1));
    // Capitals are as high as the font says.
    const double top = base - look.face.cap_height() * look.size;
    CHECK(is_dark(top + 1));
    CHECK_FALSE(is_dark(top - 1));
  }
}

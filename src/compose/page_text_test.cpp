// SPDX-License-Identifier: Apache-2.0
// Text set onto pages, held against the font that it was set in.
#include "lumvet/compose/page_text.h"
#include "fonts/font_matcher.h"

#include <algorithm>
#include <cmath>

#include "fonts/cmap.h"
#include "fonts/font_program.h"
#include "fonts/substitute.h"
#include "lumvet/document/document.h"
#include "lumvet/render/render.h"
#include "objects/lexer.h"
#include "objects/text_string.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;

namespace {

constexpr const char* kTrueType = "DejaVu Sans";
constexpr const char* kOpenType = "C059";

Document blank(int pages = 1, const std::string& catalog = "", const std::string& more = "") {
  test::PdfBuilder pdf;
  std::string kids;
  for (int i = 0; i < pages; ++i) {
    kids += std::to_string(100 + i) + " 0 R ";
    pdf.object(100 + i, "<</Type/Page/Parent 2 0 R" + more + ">>");
  }
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R" + catalog + ">>");
  pdf.object(2, "<</Type/Pages/Kids[" + kids + "]/Count " + std::to_string(pages) +
                    "/MediaBox[0 0 400 300]>>");
  pdf.object(3, "<</Title(The report)>>");
  return test::open(pdf.finish("/Root 1 0 R/Info 3 0 R")).value();
}

PageSelection pages(const std::string& text) { return PageSelection::parse(text).value(); }

Document written(const Document& document, const PageText& text, const char* on = "all") {
  EditableDocument edited = EditableDocument::of(document);
  const Status done = write_on_pages(edited, pages(on), text);
  if (!done.ok()) FAIL(done.error().to_string());
  BufferSink sink;
  REQUIRE(edited.save(sink).ok());
  Document saved = Document::open(sink.take()).value();
  CHECK(saved.findings().empty());
  return saved;
}

// The one form that is drawn onto a page, and the one font in it.
struct Set {
  std::vector<unsigned> codes;
  std::string text;  // of the codes, by way of ToUnicode
  Dict font;
  Dict descendant;
};

Set set_on(const Document& document, int page = 0) {
  const auto get = [&](const Dict& dict, const char* key) {
    return document.resolve(dict[key]).value();
  };
  const Object resources = get(document.page(page)->dict(), "Resources");
  const Object forms = get(resources.as_dict(), "XObject");
  REQUIRE(forms.as_dict().size() == 1);
  const Object form = document.resolve(forms.as_dict().begin()->second).value();
  const Object own = get(form.as_dict(), "Resources");
  const Object fonts = get(own.as_dict(), "Font");
  REQUIRE(fonts.as_dict().size() == 1);
  Set set;
  set.font = document.resolve(fonts.as_dict().begin()->second).value().as_dict();
  set.descendant =
      document.resolve(get(set.font, "DescendantFonts").as_array().at(0)).value().as_dict();
  const ByteSlice map_bytes = document.decoded(get(set.font, "ToUnicode")).value();
  const fonts::CMap map = fonts::CMap::parse(map_bytes.view()).value();
  const ByteSlice content = document.decoded(form).value();
  objects::Lexer lexer(content.view());
  for (;;) {
    const objects::Token token = lexer.next().value();
    if (token.kind == objects::TokenKind::end) break;
    if (token.kind != objects::TokenKind::string) continue;
    for (std::size_t i = 0; i + 1 < token.text.size(); i += 2) {
      const auto byte = [&](std::size_t at) { return static_cast<unsigned char>(token.text[at]); };
      set.codes.push_back(static_cast<unsigned>(byte(i) << 8 | byte(i + 1)));
      if (const auto character = map.unicode(set.codes.back()))
        objects::append_utf8(*character, set.text);
    }
  }
  return set;
}

// Where there is anything but paper, in points.
Rect ink(const Document& document, int page = 0) {
  constexpr double kFine = 2;  // pixels to the point
  const Raster raster =
      render(document.page(page).value(), {.dpi = 72 * kFine, .format = PixelFormat::gray}).value();
  Rect bounds = Rect::nothing();
  for (int y = 0; y < raster.height(); ++y)
    for (int x = 0; x < raster.width(); ++x)
      if (raster.row(y)[x] < 200)
        bounds.include({(x + 0.5) / kFine, (raster.height() - y - 0.5) / kFine});
  return bounds;
}

}  // namespace

TEST_CASE("embedded glyphs are the font's own, under codes that lead back to the text",
          "[compose]") {
  const std::string text = "Oštrel, page 12: Ω";
  const std::string plain = "Ostrel, page 12: ?";
  for (const char* family : {kTrueType, kOpenType}) {
    CAPTURE(family);
    const std::string used = family == kTrueType ? text : plain;
    const Document document = written(blank(), {.text = used, .font = family});
    const Set set = set_on(document);
    CHECK(set.text == used);
    const auto original = fonts::find_face(family, fonts_of(FontSupply())).value();
    const Dict descriptor = document.resolve(set.descendant["FontDescriptor"]).value().as_dict();
    const bool is_truetype = descriptor.contains("FontFile2");
    CHECK(is_truetype == (family == kTrueType));
    const ByteSlice bytes =
        document
            .decoded(document.resolve(descriptor[is_truetype ? "FontFile2" : "FontFile3"]).value())
            .value();
    const auto subset =
        fonts::FontProgram::load(Bytes(bytes.view().begin(), bytes.view().end())).value();
    // Glyphs keep their numbers; those that are not used are empty.
    std::size_t drawn = 0;
    for (unsigned glyph = 0; glyph < subset->glyph_count(); ++glyph)
      drawn += subset->outline(glyph) != nullptr;
    CHECK(drawn < 30);
    CHECK(bytes.size() < original->size() / 5);
    std::size_t at = 0;
    for (const unsigned code : set.codes) {
      const unsigned glyph = original->glyph_for_unicode(objects::next_code_point(used, at));
      CAPTURE(code, glyph);
      const auto own = original->outline(glyph);
      const auto embedded = subset->outline(code);
      REQUIRE((own == nullptr) == (embedded == nullptr));
      if (own) CHECK(*own == *embedded);
      CHECK(subset->advance(code) == Approx(original->advance(glyph)));
    }
    // Widths are what the descendant says, in thousandths.
    const Object widths = document.resolve(set.descendant["W"]).value();
    for (std::size_t i = 0; i + 1 < widths.as_array().size(); i += 2) {
      const auto code = static_cast<unsigned>(widths.as_array()[i].as_integer());
      const double width = widths.as_array()[i + 1].as_array()[0].as_number();
      CHECK(width == Approx(subset->advance(code) * 1000).margin(0.06));
    }
  }
}

TEST_CASE("ligatures and text from right to left lead back to their characters", "[compose]") {
  // Set from left to right, the letters of Hebrew come in the order in which they are seen.
  const Document hebrew = written(blank(), {.text = "\u05D0\u05D1\u05D2", .font = kTrueType});
  CHECK(set_on(hebrew).text == "\u05D2\u05D1\u05D0");
  const Document ligature = written(blank(), {.text = "ffi", .font = kTrueType});
  const Set set = set_on(ligature);
  CHECK(set.codes.size() < 3);
  const ByteSlice map = ligature.decoded(ligature.resolve(set.font["ToUnicode"]).value()).value();
  CHECK_THAT(std::string(as_text(map.view())), Catch::Contains("<006600660069>"));
}

TEST_CASE("text stands where it is anchored, in its size", "[compose]") {
  // The capitals of a plain font of 40 points are about 29 points high.
  const auto at = [](Anchor anchor, double degrees = 0) {
    return ink(written(blank(), {.text = "HHH",
                                 .anchor = anchor,
                                 .margin = 20,
                                 .size = 40,
                                 .font = kTrueType,
                                 .degrees = degrees}));
  };
  const Rect low = at(Anchor::bottom);
  CHECK(low.bottom == Approx(20).margin(1));
  CHECK(low.height() == Approx(29.2).margin(1));
  CHECK((low.left + low.right) / 2 == Approx(200).margin(1));
  CHECK(at(Anchor::bottom_left).left == Approx(20 + 0.1 * 40).margin(1));  // side bearing
  CHECK(at(Anchor::top_right).right == Approx(380 - 0.1 * 40).margin(1));
  CHECK(at(Anchor::top_right).top == Approx(280).margin(1));
  CHECK(at(Anchor::center).bottom == Approx(150 - 14.6).margin(1));
  const Rect upright = at(Anchor::left, 90);
  CHECK(upright.left == Approx(20).margin(1));
  CHECK(upright.width() == Approx(low.height()).margin(1));
  CHECK(upright.height() == Approx(low.width()).margin(1));
  // In the middle and without a size: as large as there is room for.
  const Rect large = ink(written(blank(), {.text = "HHH", .anchor = Anchor::center}));
  CHECK(large.width() > 280);
  CHECK(large.width() < 330);
  // On a page that is turned it stands as that is seen.
  const Rect turned = ink(written(blank(1, "", "/Rotate 90"), {.text = "HHH", .margin = 20}));
  CHECK(turned.bottom == Approx(20).margin(1));
  CHECK((turned.left + turned.right) / 2 == Approx(150).margin(1));
}

TEST_CASE("what stands in braces is filled in for each page", "[compose]") {
  const Document document =
      written(blank(4, "/PageLabels<</Nums[0<</S/r>>2<</S/D/P(A-)>>]>>/Outlines<</First 4 0 R>>"),
              {.text = "{page}/{pages} {label} {title} {{x}}", .font = kTrueType}, "2-3");
  CHECK(set_on(document, 1).text == "2/4 ii The report {x}");
  CHECK(set_on(document, 2).text == "3/4 A-1 The report {x}");
  CHECK(document.page(0)->content().value().empty());
}

TEST_CASE("texts that cannot be set are refused, and nothing is done", "[compose]") {
  EditableDocument edited = EditableDocument::of(blank(2));
  const auto refused = [&](const PageText& text, const char* why, const char* on = "all") {
    const Status status = write_on_pages(edited, pages(on), text);
    REQUIRE_FALSE(status.ok());
    CHECK(status.error().code() == ErrorCode::invalid_argument);
    CHECK_THAT(status.error().to_string(), Catch::Contains(why));
  };
  refused({.text = ""}, "no text");
  refused({.text = "{day}"}, "{day} means nothing");
  refused({.text = "{page"}, "means nothing");
  refused({.text = "x"}, "there are 2", "3");
  refused({.text = "x", .size = 0}, "points high");
  refused({.text = "x", .color = {0, 2, 0}}, "0 to 1");
  refused({.text = "x", .opacity = 2}, "opacity");
  refused({.text = "x", .font = "No Such Face"}, "no font called 'No Such Face'");
  refused({.text = "a\U000F1234", .font = kOpenType}, "has no");
  refused({.text = "x", .fonts = FontSupply(FontSupply::System::left_out)}, "supply one");
  CHECK(edited.steps().empty());
}

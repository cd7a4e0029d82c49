// SPDX-License-Identifier: Apache-2.0
// Fields without an appearance, or with one that is out of date, show what they hold.
#include "appearance/field_look.h"

#include <cmath>

#include "lumvet/render/render.h"
#include "lumvet/text/page_words.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using appearance::WidgetLook;
using Kind = FormField::Kind;

namespace {

constexpr std::int64_t kMultiline = 1 << 12;
constexpr std::int64_t kPassword = 1 << 13;
constexpr std::int64_t kComb = 1 << 24;

FormField field(Kind kind, std::vector<std::string> values, std::int64_t flags = 0) {
  FormField made;
  made.kind = kind;
  made.flags = flags;
  made.values = std::move(values);
  made.default_appearance = "/Helv 12 Tf 0 g";
  return made;
}

PageWords words_of(const FormField& made, WidgetLook widget = {}) {
  if (widget.rect.is_empty()) widget.rect = {0, 0, 200, 24};
  const auto look = appearance::look_of(made, widget, {});
  REQUIRE(look);
  return PageWords::of(look->drawing.as_document()->page(0).value()).value();
}

Raster drawn(const std::string& widget, const std::string& form = "",
             const std::string& page = "") {
  test::PdfBuilder pdf;
  pdf.page("", "/MediaBox[0 0 100 100]/Annots[9 0 R]" + page);
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/AcroForm<</Fields[9 0 R]" + form + ">>>>");
  pdf.object(9, "<</Type/Annot/Subtype/Widget/F 4" + widget + ">>");
  pdf.stream(10, "/Type/XObject/Subtype/Form/BBox[0 0 10 10]", "1 0 0 rg 0 0 10 10 re f");
  return render(test::open(pdf.finish())->page(0).value(), {.dpi = 72}).value();
}

int count(const Raster& raster, bool (*is_counted)(const PixelColor&)) {
  int all = 0;
  for (int y = 0; y < raster.height(); ++y)
    for (int x = 0; x < raster.width(); ++x) all += is_counted(raster.at(x, y)) ? 1 : 0;
  return all;
}
bool is_red(const PixelColor& p) { return p.red > 200 && p.green < 80; }
bool is_dark(const PixelColor& p) { return p.red < 120 && p.green < 120; }

}  // namespace

TEST_CASE("values stand where their side says, within their field", "[appearance]") {
  using Alignment = FormField::Alignment;
  for (const Alignment side : {Alignment::left, Alignment::centered, Alignment::right}) {
    FormField made = field(Kind::text, {"Merrow Ford"});
    made.alignment = side;
    const PageWords words = words_of(made);
    REQUIRE(words.text() == "Merrow Ford");
    const double left = words.word(0).quad[0].x;
    const double right = words.word(1).quad[1].x;
    CAPTURE(left, right);
    if (side == Alignment::left) CHECK(left == Approx(2).margin(1.5));
    if (side == Alignment::centered) CHECK((left + right) / 2 == Approx(100).margin(1));
    if (side == Alignment::right) CHECK(right == Approx(198).margin(1.5));
    CHECK(words.word(0).size == Approx(12));
  }
}

TEST_CASE("text without a size is as large as there is room", "[appearance]") {
  FormField made = field(Kind::text, {"short"});
  made.default_appearance = "/Helv 0 Tf 0 g";
  const double high = words_of(made, {.rect = {0, 0, 200, 40}}).word(0).size;
  CHECK(high > 25);
  CHECK(words_of(made, {.rect = {0, 0, 40, 40}}).word(0).size < high);
  made.values = {std::string(60, 'w')};
  const PageWords small = words_of(made, {.rect = {0, 0, 200, 40}});
  CHECK(small.word(0).quad[1].x <= 200);
  made.flags = kMultiline;
  made.values = {
      "The railing is loose at two posts, and the deck has to be looked at by divers "
      "before the winter, when the river is high and nobody can get below it."};
  const PageWords lines = words_of(made, {.rect = {0, 0, 120, 60}});
  CHECK(lines.line_count() > 3);
  CHECK(lines.word(0).size < 12);
  for (std::size_t i = 0; i < lines.word_count(); ++i) CHECK(lines.word(i).quad[3].y < 61);
}

TEST_CASE("cells hold a character each, and secrets are not shown", "[appearance]") {
  FormField made = field(Kind::text, {"4711"}, kComb);
  made.longest = 8;
  const Raster cells = render(appearance::look_of(made, {.rect = {0, 0, 160, 20}}, {})
                                  ->drawing.as_document()
                                  ->page(0)
                                  .value())
                           .value();
  for (int cell = 0; cell < 8; ++cell) {
    int dark = 0;
    for (int y = 0; y < 20; ++y)
      for (int x = 20 * cell; x < 20 * cell + 20; ++x) dark += is_dark(cells.at(x, y)) ? 1 : 0;
    CAPTURE(cell);
    CHECK((dark > 0) == (cell < 4));
  }
  CHECK(words_of(field(Kind::text, {"geheim"}, kPassword)).text() == "******");
}

TEST_CASE("lists show what people read, and what is chosen", "[appearance]") {
  FormField made = field(Kind::combo_box, {"gs"});
  made.options = {{"gs", "galvanized steel"}, {"wo", "wood"}};
  CHECK(words_of(made).text() == "galvanized steel");
  made.kind = Kind::list_box;
  const WidgetLook tall{.rect = {0, 0, 200, 60}};
  CHECK(words_of(made, tall).text() == "galvanized steel\nwood");
  WidgetLook second = tall;
  second.first_option = 1;
  CHECK(words_of(made, second).text() == "wood");
  const Raster list =
      render(appearance::look_of(made, tall, {})->drawing.as_document()->page(0).value()).value();
  const PixelColor chosen = list.at(195, 5);
  const PixelColor other = list.at(195, 22);
  CHECK(chosen.red < 220);
  CHECK(other.red == 255);
}

TEST_CASE("boxes and buttons show their signs when they are on", "[appearance]") {
  for (const Kind kind : {Kind::check_box, Kind::radio_buttons})
    for (const char* sign : {"", "4", "8", "l", "n", "u", "H", "?"}) {
      CAPTURE(sign);
      WidgetLook widget{.rect = {0, 0, 40, 40}, .caption = sign};
      FormField made = field(kind, {});
      made.default_appearance = "/ZaDb 0 Tf 0 g";
      const auto pixels = [&] {
        const auto look = appearance::look_of(made, widget, {});
        return count(render(look->drawing.as_document()->page(0).value()).value(), is_dark);
      };
      CHECK(pixels() == 0);
      widget.is_on = true;
      CHECK(pixels() > 60);
      CHECK(pixels() < 1200);
    }
  CHECK(
      words_of(field(Kind::push_button, {}), {.rect = {0, 0, 90, 24}, .caption = "Send"}).text() ==
      "Send");
}

TEST_CASE("a field turned with its page reads upright there", "[appearance]") {
  for (const int rotation : {0, 90, 180, 270}) {
    const bool is_flat = rotation % 180 == 0;
    const auto look = appearance::look_of(
        field(Kind::text, {"upright"}),
        {.rect = is_flat ? Rect{0, 0, 120, 24} : Rect{0, 0, 24, 120}, .rotation = rotation}, {});
    REQUIRE(look);
    const Document document = look->drawing.as_document().value();
    const PageWords words = PageWords::of(document.page(0).value()).value();
    REQUIRE(words.text() == "upright");
    const Point along = words.word(0).quad[1] - words.word(0).quad[0];
    const double angle = std::atan2(-along.y, along.x) * 180 / 3.14159265;
    CAPTURE(rotation, angle);
    CHECK(std::fmod(angle + 360.5, 360) - 0.5 == Approx(rotation).margin(0.1));
  }
}

TEST_CASE("what a form says of its fields is drawn on the page", "[appearance]") {
  // Background, border, the value, in the fonts that the form names.
  const Raster typed =
      drawn("/FT/Tx/T(a)/V(MM)/DA(/F 20 Tf 1 0 0 rg)/Rect[10 30 90 60]/MK<</BG[.9 .9 1]/BC[0]>>",
            "/DR<</Font<</F<</Type/Font/Subtype/Type1/BaseFont/Times-Bold>>>>>>");
  CHECK(count(typed, is_red) > 50);
  CHECK(typed.at(85, 50).blue == 255);
  CHECK(typed.at(85, 50).red == 230);
  CHECK(is_dark(typed.at(50, 40)));
  CHECK(is_dark(typed.at(50, 69)));
  CHECK_FALSE(is_dark(typed.at(50, 39)));
  // Values and looks come down from the fields above.
  test::PdfBuilder pdf;
  pdf.page("", "/MediaBox[0 0 100 100]/Annots[9 0 R]");
  pdf.object(1,
             "<</Type/Catalog/Pages 2 0 R/AcroForm<</Fields[8 0 R]/DA(/Helv 20 Tf 1 0 0 rg)>>>>");
  pdf.object(8, "<</T(group)/FT/Tx/V(MM)/Kids[9 0 R]>>");
  pdf.object(9, "<</Type/Annot/Subtype/Widget/F 4/Parent 8 0 R/Rect[10 30 90 60]>>");
  CHECK(count(render(test::open(pdf.finish())->page(0).value(), {.dpi = 72}).value(), is_red) > 50);
}

TEST_CASE("appearances that are out of date are made anew where the form says so", "[appearance]") {
  const std::string stale =
      "/FT/Tx/T(a)/V(x)/DA(/Helv 12 Tf 0 g)/Rect[10 10 90 90]/AP<</N 10 0 R>>";
  CHECK(count(drawn(stale), is_red) > 6000);
  CHECK(count(drawn(stale, "/NeedAppearances true"), is_red) == 0);
  CHECK(count(drawn(stale, "/NeedAppearances true"), is_dark) > 5);
  // Boxes have their looks for each state.
  const std::string box = "/FT/Btn/T(b)/Rect[10 10 90 90]/AP<</N<</Yes 10 0 R>>>>";
  CHECK(count(drawn(box + "/V/Yes/AS/Yes", "/NeedAppearances true"), is_red) > 6000);
  CHECK(count(drawn(box + "/V/Yes"), is_red) > 6000);  // no state of its own: that of the value
  CHECK(count(drawn(box + "/V/Off"), is_red) == 0);
  CHECK(count(drawn(box + "/V/Yes/AS/Off"), is_red) == 0);
}

TEST_CASE("hostile fields are drawn as far as they make sense", "[appearance]") {
  for (const char* widget : {"/FT/Tx/V(a)/DA(/Helv -5 Tf)/Rect[10 10 90 90]",
                             "/FT/Tx/Ff 16777216/MaxLen 999999999/V(a)/Rect[10 10 90 90]",
                             "/FT/Tx/V 7/MK<</R 45/BC[1 2 3 4 5 6]/BG[]>>/Rect[10 10 90 90]",
                             "/FT/Ch/Ff 131072/V(a)/Opt 7/Rect[10 10 90 90]",
                             "/FT/Ch/V(a)/Opt[[(a)]7[]]/TI -9/Rect[10 10 90 90]",
                             "/FT/Tx/V(a)/BS<</W 1e9/S/B>>/MK<</BC[0]>>/Rect[10 10 90 90]",
                             "/FT/Tx/V(a)/Parent 9 0 R/Rect[10 10 90 90]",
                             "/FT/Btn/V/Yes/MK<</CA(\\377)>>/Rect[10 10 11 11]"}) {
    CAPTURE(widget);
    CHECK(drawn(widget).width() == 100);
  }
}

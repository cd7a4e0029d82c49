// SPDX-License-Identifier: Apache-2.0
// Drawings as pages: what they refer to, what they keep apart, what they refuse.
#include "lumvet/draw/drawing.h"

#include <algorithm>

#include "document/inside.h"
#include "lumvet/draw/new_document.h"
#include "lumvet/render/render.h"
#include "lumvet/text/page_words.h"
#include "lumvet/text/tagged_text.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;

namespace {

Raster shown(const Drawing& drawing) {
  const Document document = drawing.as_document().value();
  CHECK(document.findings().empty());
  return render(document.page(0).value()).value();
}

PixelColor at(const Drawing& drawing, int x, int y) { return shown(drawing).at(x, y); }

Bytes saved(const NewDocument& document) {
  BufferSink sink;
  document.save(sink).value();
  return sink.take();
}

const Color kRed = Color::rgb(1, 0, 0);
const Color kBlue = Color::rgb(0, 0, 1);
constexpr PixelColor kRedPixel{255, 0, 0, 255};
constexpr PixelColor kBluePixel{0, 0, 255, 255};

Dict resources_of(const Document& document, int page) {
  const Object dict = store_of(document).resolve(Object(document.page(page)->id()));
  return store_of(document).resolve(dict.as_dict()["Resources"]).as_dict();
}

}  // namespace

TEST_CASE("places are counted from the top left corner, or as in the standard", "[draw]") {
  Drawing down(100, 50);
  down.fill(box({0, 0, 10, 10}), kRed);
  CHECK(at(down, 5, 5) == kRedPixel);
  CHECK(at(down, 5, 45) == kWhite);
  Drawing up(100, 50, Drawing::Space::upward);
  up.fill(box({0, 0, 10, 10}), kRed);
  CHECK(at(up, 5, 45) == kRedPixel);
  CHECK(at(up, 5, 5) == kWhite);
  // Text and drawings stand upright in both.
  Drawing part(20, 20);
  part.fill(box({0, 0, 20, 5}), kBlue);
  down.draw(part, {40, 20});
  up.draw(part, {40, 30});
  CHECK(at(down, 50, 22) == kBluePixel);
  CHECK(at(up, 50, 22) == kBluePixel);
}

TEST_CASE("what is set within a scope ends with it", "[draw]") {
  Drawing page(100, 100);
  {
    const auto outer = page.scope();
    page.move(50, 50);
    page.set_opacity(0.5);
    {
      const auto inner = page.scope();
      page.turn(90);
      page.fill(box({0, -10, 20, 10}), kBlue);
    }
    page.clip(box({0, 0, 5, 5}));
    page.fill(box({0, 0, 50, 50}), kRed);
  }
  page.fill(box({0, 0, 10, 10}), kRed);
  const Raster raster = shown(page);
  CHECK(raster.at(5, 5) == kRedPixel);
  // Half of the red box over half of the turned blue one.
  CHECK(int{raster.at(52, 52).green} == Approx(64).margin(2));
  CHECK(int{raster.at(55, 65).red} == Approx(127).margin(2));
  CHECK(int{raster.at(55, 65).blue} == 255);
  CHECK(raster.at(70, 55) == kWhite);  // beyond the clip
  // A scope that was left open is closed with the page.
  Drawing open(10, 10);
  const auto left = std::make_unique<Drawing::Scope>(open.scope());
  CHECK(open.as_document().value().findings().empty());
}

TEST_CASE("a copy is a drawing of its own", "[draw]") {
  Drawing page(40, 40);
  page.fill(box({0, 0, 10, 10}), kRed);
  Drawing copy = page;
  copy.fill(box({20, 20, 10, 10}), kBlue);
  CHECK(at(page, 25, 25) == kWhite);
  CHECK(at(copy, 25, 25) == kBluePixel);
  CHECK(at(copy, 5, 5) == kRedPixel);
}

TEST_CASE("pages of other documents are drawn upright, whatever their turn", "[draw]") {
  for (const int turn : {0, 90, 180, 270}) {
    CAPTURE(turn);
    test::PdfBuilder pdf;
    // A red corner that is at the top left as shown.
    const char* const corner = turn == 0     ? "0 80 20 20"
                               : turn == 90  ? "0 0 20 20"
                               : turn == 180 ? "80 0 20 20"
                                             : "80 80 20 20";
    pdf.page("1 0 0 rg " + std::string(corner) + " re f",
             "/MediaBox[0 0 100 100]/Rotate " + std::to_string(turn));
    const Document other = test::open(pdf.finish()).value();
    Drawing page(200, 200);
    page.draw(other.page(0).value(), {50, 50, 100, 100});
    CHECK(at(page, 55, 55) == kRedPixel);
    CHECK(at(page, 145, 145) == kWhite);
    Drawing up(200, 200, Drawing::Space::upward);
    up.draw(other.page(0).value(), {50, 150, 100, 100});
    CHECK(at(up, 55, 55) == kRedPixel);
  }
}

TEST_CASE("a page that sets nothing is drawn as it is, whatever was set before", "[draw]") {
  const Document guest =
      test::open(test::PdfBuilder()
                     .page("20 20 30 30 re f 60 60 m 90 60 l S", "/MediaBox[0 0 100 100]")
                     .finish())
          .value();
  const Page page = guest.page(0).value();
  Drawing drawing(100, 100);
  drawing.fill(box({0, 0, 1, 1}), Color::rgb(1, 0, 0));
  drawing.stroke(box({0, 0, 1, 1}), Color::rgb(0, 1, 0), {.width = 8, .dashes = {2, 2}});
  drawing.fill(box({0, 0, 2, 2}), Color::gray(1));
  drawing.write("x", {2, 200}, TextStyle{.size = 9, .color = Color::rgb(0, 0, 1), .spacing = 4});
  drawing.draw(page, {0, 0, 100, 100});
  const Document made = drawing.as_document().value();
  CHECK(render(made.page(0).value(), {.area = PageArea{10, 10, 90, 90}}).value() ==
        render(page, {.area = PageArea{10, 10, 90, 90}}).value());
}

TEST_CASE("what is drawn often is in the document once", "[draw]") {
  const Picture picture =
      Picture::of_rows(Bytes(3 * 64 * 64, 77), 64, 64, Picture::Pixels::rgb).value();
  const Picture again =
      Picture::of_rows(Bytes(3 * 64 * 64, 77), 64, 64, Picture::Pixels::rgb).value();
  const Document report =
      Document::open(std::string(LUMVET_SOURCE_DIR) + "/demo/producers/drawing.pdf").value();
  NewDocument document;
  Drawing stamp(50, 20);
  stamp.write("seen", {2, 15}, {.size = 12});
  for (int i = 0; i < 3; ++i) {
    Drawing& page = document.add_page({300, 300});
    page.draw(picture, {0, 0, 50, 50});
    page.draw(again, {60, 0, 50, 50});
    page.draw(stamp, {100, 100});
    page.draw(report.page(0).value(), {0, 100, 100, 100});
    page.write("text", {10, 290}, {.size = 12});
  }
  const Document made = document.as_document().value();
  const auto first = resources_of(made, 0);
  for (int i = 1; i < 3; ++i) {
    const auto other = resources_of(made, i);
    for (const char* kind : {"Font", "XObject"}) CHECK(first[kind] == other[kind]);
  }
  const Dict objects = store_of(made).resolve(first["XObject"]).as_dict();
  CHECK(objects["I0"] == objects["I1"]);
}

TEST_CASE("the same drawings give the same bytes", "[draw]") {
  const auto made = [] {
    NewDocument document({.title = "Day 12", .language = "en"});
    for (int i = 0; i < 3; ++i) {
      Drawing& page = document.add_page({200, 100});
      page.write("page " + std::to_string(i), {10, 50}, {.size = 20});
      page.fill(box({0, 0, 20, 20}), Gradient::along({0, 0}, {20, 0}, {{0, kRed}, {1, kBlue}}));
      page.add_outline_entry("part " + std::to_string(i), 50, i % 2);
    }
    return saved(document);
  };
  CHECK(made() == made());
}

TEST_CASE("links, named places, the outline and properties are told by the document", "[draw]") {
  NewDocument document({.title = "Day 12", .author = "Ilse Marren", .language = "de-AT"});
  Drawing& first = document.add_page({200, 100});
  first.link({10, 10, 50, 20}, "https://example.org/day-12");
  first.link({10, 40, 50, 20}, "#costs");
  first.add_outline_entry("Summary", 10);
  first.add_outline_entry("Grades", 30, 1);
  Drawing& second = document.add_page({200, 100});
  second.name_place("costs", {0, 25});
  second.add_outline_entry("Costs", 25);
  second.write("see", {10, 60}, {.size = 10, .underlined = true, .link = "#costs"});
  const Document made = document.as_document().value();
  CHECK(made.metadata()->properties.title == "Day 12");
  CHECK(made.metadata()->properties.author == "Ilse Marren");
  const auto annotations = made.page(0)->annotations().value();
  REQUIRE(annotations.size() == 2);
  CHECK(annotations[0].rect == Rect{10, 70, 60, 90});
  REQUIRE(annotations[0].actions.size() == 1);
  CHECK(annotations[0].actions[0].target == "https://example.org/day-12");
  REQUIRE(annotations[1].destination);
  CHECK(annotations[1].destination->page == 1);
  CHECK(annotations[1].destination->top == 75);
  const auto outline = made.outline().value();
  REQUIRE(outline.size() == 3);
  CHECK(outline[1].title == "Grades");
  CHECK(outline[1].depth == 1);
  CHECK(outline[2].page == 1);
  CHECK(made.page(1)->annotations()->size() == 1);

  NewDocument wrong;
  wrong.add_page({10, 10}).link({0, 0, 5, 5}, "#nowhere");
  CHECK_THAT(wrong.as_document().error().to_string(),
             Catch::Contains("#nowhere") && Catch::Contains("page 1"));
}

TEST_CASE("tags are read in their order, and what is outside of them is no content", "[draw]") {
  NewDocument document;
  for (int i = 0; i < 2; ++i) {
    Drawing& page = document.add_page({300, 200});
    page.write("running head", {10, 12}, {.size = 8});
    if (i == 0) {
      const auto heading = page.tag("H1");
      page.write("Costs", {10, 40}, {.size = 20});
    }
    const auto list = page.tag("Table", {.key = "costs"});
    const auto row = page.tag("TR");
    {
      const auto cell = page.tag("TD");
      page.write("lamps " + std::to_string(i), {10, 80}, {.size = 10});
    }
    {
      const auto cell = page.tag("TD", {.alternate = "nine hundred crowns"});
      page.write("900", {100, 80}, {.size = 10});
    }
  }
  const Document made = document.as_document().value();
  const Structure structure = made.structure().value();
  CHECK(structure.is_marked);
  std::vector<std::string> roles;
  for (const auto& element : structure.elements) roles.push_back(element.role);
  CHECK(roles == std::vector<std::string>{"H1", "Table", "TR", "TD", "TD", "TR", "TD", "TD"});
  CHECK(structure.elements[4].alternate == "nine hundred crowns");
  const PageWords words = PageWords::of(made.page(0).value()).value();
  CHECK(words.word(0).is_artifact);
  for (std::size_t i = 2; i < words.word_count(); ++i) {
    CHECK_FALSE(words.word(i).is_artifact);
    CHECK(words.word(i).mark);
  }
  std::string said;
  for (const auto& part : tagged_text(made).value()) said += part.text + "|";
  CHECK_THAT(said, Catch::Contains("Costs") && !Catch::Contains("running"));
}

TEST_CASE("links, places and entries of drawings go with them where they are drawn", "[draw]") {
  Drawing part(60, 40);
  part.link({10, 5, 20, 10}, "#lamps");
  part.add_outline_entry("Lamps", 30);
  part.name_place("lamps", {0, 30});
  Drawing middle(100, 60);
  middle.draw(part, {30, 15});
  NewDocument document;
  Drawing& page = document.add_page({300, 200});
  {
    const auto scope = page.scope();
    page.move(50, 20);
    page.draw(middle, {0, 0});
  }
  const Document made = document.as_document().value();
  const Annotation link = made.page(0)->annotations()->at(0);
  CHECK(link.rect.left == Approx(50 + 30 + 10));
  CHECK(link.rect.top == Approx(200 - (20 + 15 + 5)));
  CHECK(link.rect.width() == Approx(20));
  CHECK(link.rect.height() == Approx(10));
  CHECK(link.destination->top == Approx(200 - (20 + 15 + 30)));
  CHECK(made.outline()->at(0).destination->top == Approx(200 - (20 + 15 + 30)));
}

TEST_CASE("links within tags are elements, which the tags hold", "[draw]") {
  NewDocument document;
  Drawing& page = document.add_page({300, 200});
  {
    const auto paragraph = page.tag("P");
    page.write("the office", {10, 40}, {.size = 10, .link = "https://example.org"});
  }
  page.link({0, 0, 10, 10}, "https://example.org/other");
  const Document made = document.as_document().value();
  const Structure structure = made.structure().value();
  std::vector<std::string> roles;
  for (const auto& element : structure.elements) roles.push_back(element.role);
  REQUIRE(roles == std::vector<std::string>{"P", "Link", "Link"});
  CHECK(structure.elements[1].parent == 0);
  CHECK(structure.elements[2].parent == -1);
  const auto annotations = made.page(0)->annotations().value();
  REQUIRE(annotations.size() == 2);
  for (std::size_t i = 0; i < 2; ++i) {
    const auto& parts = structure.elements[i + 1].parts;
    REQUIRE(parts.size() == 1);
    CHECK(parts[0].kind == StructurePart::Kind::object);
    CHECK(parts[0].object == annotations[i].id);
  }
}

TEST_CASE("the first thing that goes wrong stays with a drawing", "[draw]") {
  const auto error = [](const auto& draw) {
    Drawing page(100, 100);
    draw(page);
    page.fill(box({0, 0, 10, 10}), kRed);
    CHECK_FALSE(page.as_document().ok());
    const Status status = page.status();
    REQUIRE_FALSE(status.ok());
    CHECK(status.error().code() == ErrorCode::invalid_argument);
    return status.error().message();
  };
  const double nothing = std::numeric_limits<double>::quiet_NaN();
  CHECK_THAT(error([&](Drawing& d) {
               d.line({0, nothing}, {1, 1}, kRed);
             }),
             Catch::Contains("no number"));
  CHECK_THAT(error([&](Drawing& d) { d.scale(0, 1); }), Catch::Contains("taken back"));
  CHECK_THAT(error([&](Drawing& d) {
               d.fill(box({0, 0, 1, 1}), Gradient{});
             }),
             Catch::Contains("one color at least"));
  CHECK_THAT(
      error([&](Drawing& d) {
        d.fill(box({0, 0, 1, 1}), Gradient::along({0, 0}, {1, 0}, {{0.8, kRed}, {0.2, kBlue}}));
      }),
      Catch::Contains("in order"));
  CHECK_THAT(error([&](Drawing& d) {
               d.fill(box({0, 0, 1, 1}),
                      Gradient::along({0, 0}, {1, 0}, {{0, kRed}, {1, Color::cmyk(1, 0, 0, 0)}}));
             }),
             Catch::Contains("one color space"));
  CHECK_THAT(error([&](Drawing& d) {
               d.fill(box({0, 0, 1, 1}), Tiling{});
             }),
             Catch::Contains("tiling"));
  CHECK_FALSE(Drawing(0, 10).status().ok());
  CHECK_FALSE(NewDocument().as_document().ok());
  // Of a drawing that is drawn onto another, too.
  Drawing bad(10, 10);
  bad.scale(0, 0);
  Drawing page(10, 10);
  page.draw(bad, {0, 0});
  CHECK_FALSE(page.status().ok());
}

TEST_CASE("colors of every kind are what they say", "[draw]") {
  Drawing page(100, 20);
  const auto profile = std::make_shared<const Bytes>(Bytes(64));
  CHECK_FALSE(Color::of_profile(profile, {1, 0, 0}).ok());
  page.fill(box({0, 0, 10, 20}), Color::gray(0.5));
  page.fill(box({10, 0, 10, 20}), Color::cmyk(0, 0, 0, 1));
  page.fill(box({20, 0, 10, 20}), Color::lab(100, 0, 0));
  page.fill(box({30, 0, 10, 20}), Color::ink("Ostrel Green", 1, Color::rgb(0, 0.5, 0)));
  page.fill(box({40, 0, 10, 20}), Color::ink("Ostrel Green", 0.5, Color::rgb(0, 0.5, 0)));
  page.fill(box({50, 0, 10, 20}), Color::parse("#F00").value());
  page.fill(box({60, 0, 10, 20}), Color::parse("#0000ff").value());
  const Raster raster = shown(page);
  CHECK(int{raster.at(5, 10).red} == Approx(128).margin(1));
  CHECK(int{raster.at(15, 10).red} < 60);
  CHECK(int{raster.at(25, 10).green} > 250);
  CHECK(raster.at(35, 10) == PixelColor{0, 128, 0, 255});
  CHECK(int{raster.at(45, 10).red} == Approx(128).margin(2));
  CHECK(raster.at(55, 10) == kRedPixel);
  CHECK(raster.at(65, 10) == kBluePixel);
  CHECK_FALSE(Color::parse("red").ok());
  CHECK_FALSE(Color::parse("#12345").ok());
  CHECK(Color::rgb(2, -1, 0) == kRed);
}

TEST_CASE("a document is handed over as text for an inline frame", "[draw]") {
  CHECK(data_address(as_bytes("%PDF-1.7")) == "data:application/pdf;base64,JVBERi0xLjc=");
}

TEST_CASE("layers can be hidden, and are one for one name", "[draw]") {
  NewDocument document;
  for (int i = 0; i < 2; ++i) {
    Drawing& page = document.add_page(PaperSize{100, 50});
    const auto tag = page.tag("Figure", {.alternate = "areas"});
    page.fill(box({0, 0, 20, 20}), kBlue);
    const auto layer = page.layer("Yard", {.is_shown = false, .is_printed = false});
    page.fill(box({20, 0, 20, 20}), kRed);
    {
      const auto within = page.layer("Sketch");
      page.fill(box({40, 0, 20, 20}), kRed);
    }
    page.fill(box({60, 0, 20, 20}), kRed);
  }
  const Document written = document.as_document().value();
  CHECK(written.findings().empty());
  const Layers layers = written.layers().value();
  REQUIRE(layers.all.size() == 2);
  for (int i = 0; i < 2; ++i) {
    const Raster page = render(written.page(i).value()).value();
    CHECK(page.at(10, 10) == kBluePixel);
    CHECK(page.at(30, 10) == kWhite);
    CHECK(page.at(50, 10) == kWhite);  // within a hidden one
    CHECK(page.at(70, 10) == kWhite);
  }
  CHECK(written.structure()->elements.size() == 2);
  // Beside those of a page of another document.
  Drawing sheet(100, 50);
  sheet.draw(written.page(0).value(), {0, 0, 100, 50});
  {
    const auto layer = sheet.layer("Notes");
    sheet.fill(box({80, 0, 20, 20}), kBlue);
  }
  const Document drawn = sheet.as_document().value();
  CHECK(drawn.layers()->all.size() == 3);
  const Raster raster = render(drawn.page(0).value()).value();
  CHECK(raster.at(30, 10) == kWhite);
  CHECK(raster.at(90, 10) == kBluePixel);
}

TEST_CASE("marks of a page that is drawn mix with it, are in layers and stay upright as there",
          "[draw]") {
  const auto mark = [](int form, const char* rect, const char* more) {
    return "<</Type/Annot/Subtype/Stamp/Rect[" + std::string(rect) + "]/AP<</N " +
           std::to_string(form) + " 0 R>>" + more + ">>";
  };
  test::PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/OCProperties<</OCGs[9 0 R]/D<</OFF[9 0 R]>>>>>>");
  pdf.object(2, "<</Type/Pages/Kids[3 0 R]/Count 1>>");
  pdf.object(3, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 100 60]/Rotate 90/Contents 4 0 R/Annots[" +
                    mark(5, "10 30 30 40", "/F 20") + mark(5, "50 10 70 20", "/BM/Multiply") +
                    mark(5, "70 30 90 40", "/OC 9 0 R") + "]>>");
  pdf.stream(4, "", "0 1 1 rg 0 0 100 25 re f");
  pdf.stream(5, "/Subtype/Form/BBox[0 0 20 10]", "1 0 0 rg 0 0 20 10 re f 0 g 0 0 5 5 re f");
  pdf.object(9, "<</Type/OCG/Name(Notes)>>");
  const Document guest = test::open(pdf.finish()).value();
  const Page page = guest.page(0).value();
  Drawing sheet(60, 100);
  sheet.draw(page, {0, 0, 60, 100});
  CHECK(render(sheet.as_document()->page(0).value(), {}).value() == render(page, {}).value());
}

TEST_CASE("several inks are painted as each of them would be over the others", "[draw]") {
  const Color river = Color::cmyk(0.8, 0.1, 0, 0);
  const Color rust = Color::cmyk(0, 0.6, 0.9, 0.2);
  Drawing press(60, 20);
  press.fill(box({0, 0, 20, 20}),
             Color::inks({{"River", 0.5, river}, {"Rust", 0.5, rust}}).value());
  press.fill(box({20, 0, 20, 20}), Color::cmyk(0.4, 0.35, 0.45, 0.1));
  press.fill(box({40, 0, 20, 20}), Color::inks({{"River", 1, river}, {"Rust", 0, rust}}).value());
  const Raster shown_press = shown(press);
  CHECK(shown_press.at(10, 10) == shown_press.at(30, 10));
  Drawing screen(40, 20);
  screen.fill(box({0, 0, 20, 20}), Color::inks({{"Sea", 1, Color::rgb(0.2, 0.6, 1)},
                                                {"Sand", 0.5, Color::rgb(1, 0.8, 0.4)},
                                                {"Coal", 0.25, Color::gray(0)}})
                                       .value());
  screen.fill(box({20, 0, 20, 20}), Color::rgb(0.2 * 0.75, 0.6 * 0.9 * 0.75, 0.7 * 0.75));
  const Raster shown_screen = shown(screen);
  const PixelColor mixed = shown_screen.at(10, 10);
  const PixelColor plain = shown_screen.at(30, 10);
  CHECK(std::abs(mixed.red - plain.red) <= 1);
  CHECK(std::abs(mixed.green - plain.green) <= 1);
  CHECK(std::abs(mixed.blue - plain.blue) <= 1);
  CHECK_THAT(Color::inks({{"Sea", 1, river}, {"Sea", 1, rust}}).error().message(),
             Catch::Contains("twice"));
  CHECK(Color::inks({}).error().code() == ErrorCode::invalid_argument);
  CHECK(Color::inks({{"Sea", 1, Color::lab(50, 0, 0)}}).error().code() ==
        ErrorCode::invalid_argument);
}

TEST_CASE("a drawing tells where fields are to go, from the top left corner", "[draw]") {
  Drawing down(200, 100);
  down.move(10, 20);
  down.note_field("name", {5, 5, 80, 20});
  Drawing up(200, 100, Drawing::Space::upward);
  up.note_field("name", {15, 75, 80, 20});
  for (const Drawing* drawing : {&down, &up}) {
    const std::vector<FieldPlace> places = drawing->field_places();
    REQUIRE(places.size() == 1);
    CHECK(places[0].name == "name");
    CHECK(places[0].area.left == Approx(15));
    CHECK(places[0].area.top == Approx(25));
    CHECK(places[0].area.width == Approx(80));
    CHECK(places[0].area.height == Approx(20));
  }
}

TEST_CASE("artifacts are seen and not read aloud", "[draw]") {
  NewDocument document;
  Drawing& page = document.add_page(PaperSize{200, 100});
  {
    const auto tag = page.tag("P");
    page.write("Read", {20, 40}, {.size = 12});
    const auto artifact = page.artifact();
    page.write("Ornament", {100, 40}, {.size = 12});
  }
  const Document written = document.as_document().value();
  const auto blocks = tagged_text(written).value();
  REQUIRE(blocks.size() == 1);
  CHECK(blocks[0].text == "Read");
  const PageWords words = PageWords::of(written.page(0).value()).value();
  REQUIRE(words.word_count() == 2);
  CHECK_FALSE(words.word(0).is_artifact);
  CHECK(words.word(1).is_artifact);
}

// SPDX-License-Identifier: Apache-2.0
#include "lumvet/assemble/arrangement.h"

#include <algorithm>
#include <random>

#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/saved.h"

using namespace lumvet;
using test::saved;

namespace {

// Page i shows "i"; an entry of the outline leads to each, under one heading, and a field of one
// name has a widget on each.
Document book(int count, const std::string& page = "") {
  test::PdfBuilder pdf;
  pdf.object(1,
             "<</Type/Catalog/Pages 2 0 R/Outlines<</First 3 0 R>>/AcroForm<</Fields[4 0 R]>>>>");
  std::string kids;
  std::string widgets;
  for (int i = 0; i < count; ++i) {
    const auto number = [i](int base) { return std::to_string(base + i); };
    kids += number(100) + " 0 R ";
    widgets += number(400) + " 0 R ";
    pdf.object(100 + i, "<</Type/Page/Parent 2 0 R/Contents " + number(200) + " 0 R/Annots[" +
                            number(400) + " 0 R]" + page + ">>");
    pdf.stream(200 + i, "", std::to_string(i));
    pdf.object(300 + i, "<</Title(page " + std::to_string(i) + ")/Dest[" + number(100) +
                            " 0 R/Fit]" + (i + 1 < count ? "/Next " + number(301) + " 0 R" : "") +
                            ">>");
    pdf.object(400 + i, "<</Type/Annot/Subtype/Widget/Rect[0 0 9 9]/Parent 4 0 R>>");
  }
  pdf.object(2, "<</Type/Pages/Kids[" + kids + "]/Count " + std::to_string(count) +
                    "/MediaBox[0 0 200 300]>>");
  pdf.object(3, "<</Title(Book)/First 300 0 R>>");
  pdf.object(4, "<</T(name)/FT/Tx/Kids[" + widgets + "]>>");
  return test::open(pdf.finish()).value();
}

PageSelection pages(const std::string& text) { return PageSelection::parse(text).value(); }

std::vector<int> shown(const Document& document) {
  std::vector<int> numbers;
  for (int i = 0; i < document.page_count(); ++i) {
    const Bytes content = document.page(i)->content().value();
    const std::string text(as_text(content));
    numbers.push_back(text.empty() ? -1 : std::stoi(text));
  }
  return numbers;
}

// Does one random step to an arrangement and to a plain list.
void random_step(std::mt19937& random, Arrangement& arrangement, std::vector<int>& model) {
  const int count = static_cast<int>(model.size());
  const auto below = [&](int end) {
    return static_cast<int>(random() % static_cast<unsigned>(end));
  };
  std::vector<int> some;
  for (int i = 0; i < count; ++i)
    if (random() % 3 == 0) some.push_back(i);
  if (some.empty()) some.push_back(below(count));
  std::shuffle(some.begin(), some.end(), random);
  const auto is_chosen = [&](int i) {
    return std::find(some.begin(), some.end(), i) != some.end();
  };
  const PageSelection selection = PageSelection::of(some);
  std::vector<int> next;
  switch (random() % 6) {
    case 0: {
      const int before = below(count + 1);
      REQUIRE(arrangement.move(selection, before).ok());
      for (int i = 0; i <= count; ++i) {
        if (i == before)
          for (const int index : some) next.push_back(model[static_cast<std::size_t>(index)]);
        if (i < count && !is_chosen(i)) next.push_back(model[static_cast<std::size_t>(i)]);
      }
      break;
    }
    case 1:
      if (static_cast<int>(some.size()) == count) return;
      REQUIRE(arrangement.drop(selection).ok());
      for (int i = 0; i < count; ++i)
        if (!is_chosen(i)) next.push_back(model[static_cast<std::size_t>(i)]);
      break;
    case 2:
      if (count > 40) return;
      REQUIRE(arrangement.duplicate(selection).ok());
      for (int i = 0; i < count; ++i)
        next.insert(next.end(), is_chosen(i) ? 2 : 1, model[static_cast<std::size_t>(i)]);
      break;
    case 3:
      REQUIRE(arrangement.keep(selection).ok());
      for (const int index : some) next.push_back(model[static_cast<std::size_t>(index)]);
      break;
    case 4: {
      REQUIRE(arrangement.reverse(selection).ok());
      next = model;
      std::sort(some.begin(), some.end());
      for (std::size_t i = 0; i < some.size(); ++i)
        next[static_cast<std::size_t>(some[i])] =
            model[static_cast<std::size_t>(some[some.size() - 1 - i])];
      break;
    }
    default:
      REQUIRE(arrangement.turn(selection, 90).ok());
      next = model;
      break;
  }
  model = next;
}

}  // namespace

TEST_CASE("steps in any order do what they say, and are taken back at any depth", "[assemble]") {
  const Document document = book(9);
  for (unsigned seed = 1; seed <= 12; ++seed) {
    CAPTURE(seed);
    std::mt19937 random(seed);
    Arrangement arrangement(document);
    std::vector<std::vector<int>> models = {{0, 1, 2, 3, 4, 5, 6, 7, 8}};
    for (int step = 0; step < 40; ++step) {
      std::vector<int> model = models.back();
      const std::size_t before = arrangement.steps().size();
      random_step(random, arrangement, model);
      if (arrangement.steps().size() == before) continue;
      models.push_back(model);
      REQUIRE(arrangement.order() == model);
      if (random() % 4 == 0) {  // some back, some forth, and on from there
        const std::size_t back = random() % models.size();
        for (std::size_t i = 0; i < back; ++i) arrangement.undo();
        REQUIRE(arrangement.order() == models[models.size() - 1 - back]);
        const std::size_t forth = back == 0 ? 0 : random() % back;
        for (std::size_t i = 0; i < forth; ++i) arrangement.redo();
        models.resize(models.size() - back + forth);
        REQUIRE(arrangement.order() == models.back());
      }
    }
    CHECK(shown(saved(arrangement)) == models.back());
    while (arrangement.can_undo()) arrangement.undo();
    CHECK(arrangement.order() == models.front());
    CHECK(arrangement.steps().empty());
    arrangement.undo();
    CHECK(arrangement.page_count() == 9);
  }
}

TEST_CASE("an arranged document keeps one outline and one form", "[assemble]") {
  Arrangement arrangement(book(4));
  REQUIRE(arrangement.insert_blank(2, 1, PaperSize::parse("A5 landscape").value()).ok());
  REQUIRE(arrangement.insert(book(3), pages("2"), 0).ok());
  REQUIRE(arrangement.reverse().ok());
  const Document document = saved(arrangement);
  CHECK(shown(document) == std::vector<int>{3, 2, -1, 1, 0, 1});
  CHECK(document.page(2)->width() == Approx(595.28).margin(0.1));
  CHECK(document.page(2)->height() == Approx(419.53).margin(0.1));
  std::vector<std::string> titles;
  for (const OutlineEntry& entry : document.outline().value()) titles.push_back(entry.title);
  CHECK(titles ==
        std::vector<std::string>{"Book", "page 0", "page 1", "page 2", "page 3", "Book", "page 1"});
  CHECK(document.outline().value()[1].page == 4);
  std::map<std::string, std::size_t> fields;
  for (const FormField& field : document.form().value().fields)
    fields[field.name] = field.widgets.size();
  CHECK(fields == std::map<std::string, std::size_t>{{"name", 4}, {"name-2", 1}});
  CHECK(arrangement.steps() ==
        std::vector<std::string>{"inserted 1 page", "inserted 1 page", "reversed 6 pages"});
}

TEST_CASE("a document still opens as it did with a cover before it", "[assemble]") {
  test::PdfBuilder pdf;
  pdf.page("", "/MediaBox[0 0 9 9]");
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/PageLayout/TwoColumnLeft/Lang(de)>>");
  Arrangement arrangement(test::open(pdf.finish()).value());
  REQUIRE(arrangement.insert(book(1), {}, 0).ok());
  const Document document = saved(arrangement);
  CHECK(document.language().value() == "de");
  CHECK(document.catalog()["PageLayout"].is_name("TwoColumnLeft"));
}

TEST_CASE("fronts and backs are laid together", "[assemble]") {
  Arrangement arrangement(book(6));
  REQUIRE(arrangement.interleave(true).ok());
  CHECK(arrangement.order() == std::vector<int>{0, 5, 1, 4, 2, 3});
  arrangement.undo();
  REQUIRE(arrangement.interleave().ok());
  CHECK(arrangement.order() == std::vector<int>{0, 3, 1, 4, 2, 5});
  REQUIRE(arrangement.drop(pages("1")).ok());
  CHECK(arrangement.interleave().error().code() == ErrorCode::invalid_argument);
}

TEST_CASE("what is cut off is cut off where it is seen, however a page is turned", "[assemble]") {
  const int stated = GENERATE(0, 90, 180, 270);
  const int turn = GENERATE(0, 90, 270, -180);
  const Document document =
      book(1, "/Rotate " + std::to_string(stated) + "/UserUnit 2/CropBox[10 20 150 260]");
  Arrangement arrangement(document);
  REQUIRE(arrangement.turn(pages("1"), turn).ok());
  const Page before = saved(arrangement).page(0).value();
  CHECK(before.rotation() == ((stated + turn) % 360 + 360) % 360);
  REQUIRE(arrangement.crop(pages("1"), {.left = 6, .top = 8, .right = 10, .bottom = 12}).ok());
  const Page after = saved(arrangement).page(0).value();
  CHECK(after.width() == Approx(before.width() - 16));
  CHECK(after.height() == Approx(before.height() - 20));
  const Point some = before.to_display().apply({50, 60});
  const Point moved = after.to_display().apply({50, 60});
  CHECK(moved.x == Approx(some.x - 6));
  CHECK(moved.y == Approx(some.y - 8));
  CHECK(arrangement.crop(pages("1"), {.left = 1000}).error().code() == ErrorCode::invalid_argument);
}

TEST_CASE("a step that makes no sense is refused and changes nothing", "[assemble]") {
  Arrangement arrangement(book(3));
  const auto is_refused = [&](const Status& status) {
    CHECK(arrangement.page_count() == 3);
    CHECK_FALSE(arrangement.can_undo());
    REQUIRE_FALSE(status.ok());
    return status.error().code() == ErrorCode::invalid_argument &&
           !status.error().message().empty();
  };
  CHECK(is_refused(arrangement.turn(pages("1"), 45)));
  CHECK(is_refused(arrangement.turn(pages("4"), 90)));
  CHECK(is_refused(arrangement.move(pages("1"), 4)));
  CHECK(is_refused(arrangement.move(pages("1"), -1)));
  CHECK(is_refused(arrangement.drop(pages("all"))));
  CHECK(is_refused(arrangement.drop(pages("9"))));
  CHECK(is_refused(arrangement.interleave()));
  CHECK(is_refused(arrangement.insert_blank(0, 0, {100, 100})));
  CHECK(is_refused(arrangement.insert_blank(0, 1, {1, 100})));
  CHECK(is_refused(arrangement.insert(book(2), pages("3"), 0)));
}

TEST_CASE("steps say what they did", "[assemble]") {
  Arrangement arrangement(book(6));
  REQUIRE(arrangement.duplicate(pages("1-2")).ok());
  REQUIRE(arrangement.drop(pages("4-6")).ok());
  REQUIRE(arrangement.turn(pages("1"), 180).ok());
  REQUIRE(arrangement.move(pages("2-3"), 0).ok());
  REQUIRE(arrangement.keep(pages("last-1")).ok());
  CHECK(arrangement.steps() == std::vector<std::string>{"duplicated 2 pages", "dropped 3 pages",
                                                        "turned 1 page", "moved 2 pages",
                                                        "kept 5 pages in a new order"});
}

TEST_CASE("pages can be looked at before anything is saved", "[assemble]") {
  Arrangement arrangement(book(5));
  REQUIRE(arrangement.reverse().ok());
  REQUIRE(arrangement.turn(pages("2"), 90).ok());
  const Document two = arrangement.preview(pages("2,1")).value();
  CHECK(shown(two) == std::vector<int>{3, 4});
  CHECK(two.page(0)->rotation() == 90);
}

TEST_CASE("paper is known by name and by its sides", "[assemble]") {
  const auto millimetres = [](const char* text) {
    const PaperSize size = PaperSize::parse(text).value();
    return std::pair(std::lround(size.width / 72 * 25.4), std::lround(size.height / 72 * 25.4));
  };
  CHECK(millimetres("A4") == std::pair(210l, 297l));
  CHECK(millimetres("a3 Landscape") == std::pair(420l, 297l));
  CHECK(millimetres("100.5x60") == std::pair(101l, 60l));
  for (const char* wrong : {"", "A", "10x", "x10", "0x5", "1.2.3x4", "letters", "1e9x1"})
    CHECK(PaperSize::parse(wrong).error().code() == ErrorCode::invalid_argument);
}

TEST_CASE("what an owner does not let readers do is refused, and told", "[assemble]") {
  const auto opened = [](const char* name, const char* password) {
    return Document::open(std::filesystem::path(LUMVET_SOURCE_DIR) / "demo/producers" / name,
                          {.password = password})
        .value();
  };
  const auto bound = [](const Document& document) {
    Assembly assembly;
    return assembly.add(document);
  };
  const auto arranged = [](const Document& document) {
    BufferSink sink;
    return Status(Arrangement(document).save(sink).ok()
                      ? Status(Done{})
                      : Status(Arrangement(document).save(sink).error()));
  };
  for (const char* name : {"locked-r3.pdf", "locked-r4.pdf", "locked-r6.pdf"}) {
    CAPTURE(name);
    const Document reader = opened(name, "ostrel");
    CHECK(bound(reader).error().code() == ErrorCode::password);
    CHECK_THAT(bound(reader).error().message(), Catch::Contains("owner's password"));
    CHECK(arranged(reader).error().code() == ErrorCode::password);
    CHECK(bound(opened(name, "valley")).ok());
    CHECK(arranged(opened(name, "valley")).ok());
  }
  CHECK(bound(opened("locked-r2.pdf", "ostrel")).ok());
}

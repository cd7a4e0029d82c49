// SPDX-License-Identifier: Apache-2.0
// Pages duplicated, kept, interleaved and taken from other documents, with what belongs to them.
#include <algorithm>
#include <map>

#include "lumvet/assemble/assembly.h"
#include "lumvet/assemble/paper.h"
#include "lumvet/edit/editable_document.h"
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

}  // namespace

TEST_CASE("an arranged document keeps one outline and one form", "[edit]") {
  EditableDocument edited = EditableDocument::of(book(4));
  REQUIRE(edited.insert_blank(2, 1, PaperSize::parse("A5 landscape").value()).ok());
  REQUIRE(edited.insert(book(3), pages("2"), 0).ok());
  REQUIRE(edited.reverse().ok());
  const Document document = saved(edited);
  CHECK(shown(document) == std::vector<int>{3, 2, -1, 1, 0, 1});
  CHECK(document.page(2)->width() == Approx(595.28).margin(0.1));
  CHECK(document.page(2)->height() == Approx(419.53).margin(0.1));
  std::vector<std::string> titles;
  for (const OutlineEntry& entry : document.outline().value()) titles.push_back(entry.title);
  CHECK(titles ==
        std::vector<std::string>{"Book", "page 1", "Book", "page 0", "page 1", "page 2", "page 3"});
  CHECK(document.outline().value()[1].page == 5);
  CHECK(document.outline().value()[3].page == 4);
  std::map<std::string, std::size_t> fields;
  for (const FormField& field : document.form().value().fields)
    fields[field.name] = field.widgets.size();
  CHECK(fields == std::map<std::string, std::size_t>{{"name", 4}, {"name-2", 1}});
  CHECK(edited.steps() ==
        std::vector<std::string>{"inserted 1 page", "inserted 1 page", "reversed 6 pages"});
}

TEST_CASE("a document still opens as it did with a cover before it", "[edit]") {
  test::PdfBuilder pdf;
  pdf.page("", "/MediaBox[0 0 9 9]");
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/PageLayout/TwoColumnLeft/Lang(de)>>");
  EditableDocument edited = EditableDocument::of(test::open(pdf.finish()).value());
  REQUIRE(edited.insert(book(1), {}, 0).ok());
  const Document document = saved(edited);
  CHECK(document.language().value() == "de");
  CHECK(document.catalog()["PageLayout"].is_name("TwoColumnLeft"));
}

TEST_CASE("fronts and backs are laid together", "[edit]") {
  EditableDocument edited = EditableDocument::of(book(6));
  REQUIRE(edited.interleave(true).ok());
  CHECK(edited.page_origins().value() == std::vector<int>{0, 5, 1, 4, 2, 3});
  edited.undo();
  REQUIRE(edited.interleave().ok());
  CHECK(edited.page_origins().value() == std::vector<int>{0, 3, 1, 4, 2, 5});
  REQUIRE(edited.drop(pages("1")).ok());
  CHECK(edited.interleave().error().code() == ErrorCode::invalid_argument);
}

TEST_CASE("a step that makes no sense is refused and changes nothing", "[edit]") {
  EditableDocument edited = EditableDocument::of(book(3));
  const auto is_refused = [&](const Status& status) {
    CHECK(edited.now()->page_count() == 3);
    CHECK_FALSE(edited.can_undo());
    REQUIRE_FALSE(status.ok());
    return status.error().code() == ErrorCode::invalid_argument &&
           !status.error().message().empty();
  };
  CHECK(is_refused(edited.rotate(pages("1"), 45)));
  CHECK(is_refused(edited.rotate(pages("4"), 90)));
  CHECK(is_refused(edited.move(pages("1"), 4)));
  CHECK(is_refused(edited.move(pages("1"), -1)));
  CHECK(is_refused(edited.drop(pages("all"))));
  CHECK(is_refused(edited.drop(pages("9"))));
  CHECK(is_refused(edited.interleave()));
  CHECK(is_refused(edited.insert_blank(0, 0, {100, 100})));
  CHECK(is_refused(edited.insert_blank(0, 1, {1, 100})));
  CHECK(is_refused(edited.insert(book(2), pages("3"), 0)));
}

TEST_CASE("steps say what they did", "[edit]") {
  EditableDocument edited = EditableDocument::of(book(6));
  REQUIRE(edited.duplicate(pages("1-2")).ok());
  REQUIRE(edited.drop(pages("4-6")).ok());
  REQUIRE(edited.rotate(pages("1"), 180).ok());
  REQUIRE(edited.move(pages("2-3"), 0).ok());
  REQUIRE(edited.keep(pages("last-1")).ok());
  CHECK(edited.steps() == std::vector<std::string>{"duplicated 2 pages", "dropped 3 pages",
                                                   "rotated 1 page", "moved 2 pages",
                                                   "kept 5 pages in a new order"});
}

TEST_CASE("paper is known by name and by its sides", "[edit]") {
  const auto millimeters = [](const char* text) {
    const PaperSize size = PaperSize::parse(text).value();
    return std::pair(std::lround(size.width / 72 * 25.4), std::lround(size.height / 72 * 25.4));
  };
  CHECK(millimeters("A4") == std::pair(210l, 297l));
  CHECK(millimeters("a3 Landscape") == std::pair(420l, 297l));
  CHECK(millimeters("100.5x60") == std::pair(101l, 60l));
  for (const char* wrong : {"", "A", "10x", "x10", "0x5", "1.2.3x4", "letters", "1e9x1"})
    CHECK(PaperSize::parse(wrong).error().code() == ErrorCode::invalid_argument);
}

TEST_CASE("what an owner does not let readers do is refused, and told", "[edit]") {
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
    EditableDocument edited = EditableDocument::of(document);
    const bool is_refused = !edited.rotate({}, 90).ok() && !edited.insert_blank(0, 1, {9, 9}).ok();
    CHECK(is_refused == !edited.set_language("de").ok());
    CHECK(edited.steps().empty() == is_refused);
    return edited.rotate({}, 90);
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

TEST_CASE("what could not come along is told when the document is saved", "[edit]") {
  EditableDocument edited = EditableDocument::of(book(2));
  REQUIRE(edited.insert(book(3), pages("1"), 0).ok());
  const auto notes = [&] {
    BufferSink sink;
    std::string text;
    for (const Finding& finding : edited.save(sink).value().findings) text += finding.what + "; ";
    return text;
  };
  CHECK_THAT(notes(), Catch::Contains("1 form field got another name") &&
                          Catch::Contains("2 entries of the outline lead to pages"));
  edited.undo();
  CHECK(notes().empty());
}

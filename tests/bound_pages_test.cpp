// SPDX-License-Identifier: Apache-2.0
// Pages that are bound, cut, laid on sheets or drawn upon, held against themselves pixel for pixel,
// and with all that stands on them. With LUMVET_BOUND_FOLDER the documents of that folder are bound
// and cut too.
#include <algorithm>
#include <cstdlib>
#include <set>

#include "lumvet/lumvet.h"
#include "tests/support/catch.h"
#include "tests/support/office.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/saved.h"

using namespace lumvet;
using test::office;
using test::saved;

namespace {

namespace fs = std::filesystem;

PageSelection pages(const std::string& text) { return PageSelection::parse(text).value(); }

// All of them, and those of a folder that somebody names.
std::vector<fs::path> documents() {
  static const std::vector<fs::path> all = [] {
    std::vector<fs::path> found = {office("report.pdf"), office("annex.pdf"),
                                   office("inspection.pdf")};
    for (const auto& entry : fs::directory_iterator(LUMVET_SOURCE_DIR "/demo/producers"))
      if (entry.path().extension() == ".pdf") found.push_back(entry.path());
    if (const char* more = std::getenv("LUMVET_BOUND_FOLDER"))
      for (const auto& entry : fs::recursive_directory_iterator(more))
        if (entry.path().extension() == ".pdf" && entry.file_size() < 4'000'000)
          found.push_back(entry.path());
    std::sort(found.begin(), found.end());
    return found;
  }();
  return all;
}

Document reopened(BufferSink& sink) { return Document::open(sink.take()).value(); }

Raster drawn(const Page& page, double dpi = 72) {
  return render(page, {.dpi = dpi, .format = PixelFormat::rgb}).value();
}

// By how much two images differ at most, where the second has its corner in the first; 256 when
// it does not lie in it.
int difference(const Raster& sheet, const Raster& part, int left = 0, int top = 0) {
  if (left + part.width() > sheet.width() || top + part.height() > sheet.height()) return 256;
  int most = 0;
  for (int y = 0; y < part.height(); ++y)
    for (int i = 0; i < 3 * part.width(); ++i)
      most = std::max(most, std::abs(sheet.row(top + y)[3 * left + i] - part.row(y)[i]));
  return most;
}

// What a page says in its annotations, as far as it does not lead elsewhere.
std::vector<std::string> marks_of(const Page& page) {
  std::vector<std::string> marks;
  for (const Annotation& mark : page.annotations().value())
    marks.push_back(mark.type + " " + mark.contents + " " + mark.author + " " +
                    to_text(Array{Object(mark.rect.left), Object(mark.rect.bottom),
                                  Object(mark.rect.right), Object(mark.rect.top)}));
  return marks;
}

void check_same_page(const Page& page, const Page& original) {
  CHECK(page.media_box() == original.media_box());
  CHECK(page.crop_box() == original.crop_box());
  CHECK(page.trim_box() == original.trim_box());
  CHECK(page.rotation() == original.rotation());
  CHECK(page.user_unit() == original.user_unit());
  CHECK(page.content().value() == original.content().value());
  CHECK(marks_of(page) == marks_of(original));
  CHECK(difference(drawn(page, 30), drawn(original, 30)) == 0);
}

std::vector<std::string> outline_of(const Document& document) {
  std::vector<std::string> lines;
  for (const OutlineEntry& entry : document.outline().value())
    if (entry.page)
      lines.push_back(std::to_string(entry.depth) + " " + entry.title + " " +
                      std::to_string(*entry.page));
  return lines;
}

std::vector<std::string> fields_of(const Document& document) {
  std::vector<std::string> fields;
  for (const FormField& field : document.form().value().fields) fields.push_back(field.name);
  return fields;
}

}  // namespace

TEST_CASE("pages of a bound book are those of its parts", "[bound]") {
  Assembly book;
  int count = 0;
  for (const fs::path& path : documents()) {
    const auto document = Document::open(path);
    if (!document.ok() || !book.add(*document).ok()) continue;
    count += document->page_count();
  }
  REQUIRE(count > 15);
  BufferSink first;
  REQUIRE(book.save(first).ok());
  BufferSink second;
  REQUIRE(book.save(second).ok());
  const Bytes bytes = first.take();
  CHECK(bytes == second.take());
  const Document bound = Document::open(bytes).value();
  REQUIRE(bound.page_count() == count);
  int next = 0;
  for (const fs::path& path : documents()) {
    const auto document = Document::open(path);
    if (!document.ok() || document->page_count() == 0) continue;
    if (document->encryption() && !document->encryption()->permissions.assemble) continue;
    for (int i = 0; i < document->page_count(); ++i) {
      CAPTURE(path.string(), i);
      check_same_page(bound.page(next++).value(), document->page(i).value());
    }
  }
}

TEST_CASE("what is cut and bound again is as it was", "[bound]") {
  for (const fs::path& path : documents()) {
    CAPTURE(path.string());
    const auto document = Document::open(path);
    if (!document.ok()) continue;
    const test::TemporaryFolder folder;
    const auto parts = split(*document, SplitRule::every(2), {.folder = folder.path()});
    if (!parts.ok()) {
      CHECK(parts.error().code() == ErrorCode::password);
      continue;
    }
    std::vector<fs::path> files;
    for (const auto& entry : fs::directory_iterator(folder.path())) files.push_back(entry.path());
    std::sort(files.begin(), files.end(), [](const fs::path& a, const fs::path& b) {
      return natural_less(a.filename().string(), b.filename().string());
    });
    Assembly again({.join_fields = true});
    for (const fs::path& file : files) REQUIRE(again.add(Document::open(file).value()).ok());
    BufferSink sink;
    REQUIRE(again.save(sink).ok());
    const Document bound = reopened(sink);
    REQUIRE(bound.page_count() == document->page_count());
    for (int i = 0; i < bound.page_count(); ++i) {
      CAPTURE(i);
      const Page page = bound.page(i).value();
      const Page original = document->page(i).value();
      CHECK(page.crop_box() == original.crop_box());
      CHECK(page.rotation() == original.rotation());
      CHECK(page.content().value() == original.content().value());
      CHECK(difference(drawn(page, 30), drawn(original, 30)) == 0);
      CHECK(bound.page_label(i).value() == document->page_label(i).value());
    }
    // Headings that cover several parts are in each of them; what leads to pages is there once.
    const auto lines = outline_of(bound);
    std::set<std::string> titles;
    for (const OutlineEntry& entry : bound.outline().value()) titles.insert(entry.title);
    for (const OutlineEntry& entry : document->outline().value())
      if (entry.page) CHECK(titles.contains(entry.title));
    CHECK(fields_of(bound) == fields_of(*document));
  }
}

namespace {

void check_same_document(const Document& again, const Document& document) {
  CHECK_FALSE(again.was_repaired());
  REQUIRE(again.page_count() == document.page_count());
  for (int i = 0; i < again.page_count(); ++i)
    check_same_page(again.page(i).value(), document.page(i).value());
  CHECK(outline_of(again) == outline_of(document));
  CHECK(fields_of(again) == fields_of(document));
}

bool can_be_saved(const Result<Document>& document) {
  return document.ok() && document->page_count() > 0 && !document->encryption();
}

}  // namespace

TEST_CASE("saved in any layout, locked or packed anew, pages are as they were", "[bound]") {
  const auto layout = GENERATE(FileLayout::compact, FileLayout::classic, FileLayout::linearized,
                               FileLayout::linearized_classic);
  const bool is_linearized =
      layout == FileLayout::linearized || layout == FileLayout::linearized_classic;
  enum class How { plain, locked, packed_anew };
  for (const fs::path& path : documents()) {
    const auto document = Document::open(path);
    if (!can_be_saved(document)) continue;
    for (const How how : {How::plain, How::locked, How::packed_anew}) {
      CAPTURE(path.string(), static_cast<int>(layout), static_cast<int>(how));
      SaveOptions options{.layout = layout, .recompress = how == How::packed_anew};
      if (how == How::locked) options.protection = NewProtection{.user_password = "ostrel"};
      BufferSink sink;
      REQUIRE(save(*document, sink, options).ok());
      const Document again = Document::open(sink.take(), {.password = "ostrel"}).value();
      CHECK(again.encryption().has_value() == (how == How::locked));
      CHECK(again.is_linearized() == is_linearized);
      CHECK(check_linearized(again).value().differences.empty());
      CHECK(sizes_of(again).value().all() == again.file_size());
      check_same_document(again, *document);
    }
  }
}

TEST_CASE("with a change appended, pages are as they were", "[bound]") {
  for (const fs::path& path : documents()) {
    CAPTURE(path.string());
    const auto document = Document::open(path);
    if (!can_be_saved(document) || document->was_repaired()) continue;
    EditableDocument changes = EditableDocument::of(*document);
    REQUIRE(changes.set_properties({.title = "Again"}).ok());
    const auto update = changes.appended();
    if (!update.ok()) {
      CHECK(update.error().code() == ErrorCode::unsupported);
      continue;
    }
    const std::string before = test::read_file(path);
    Bytes bytes(before.begin(), before.end());
    bytes.insert(bytes.end(), update->begin(), update->end());
    const Document again = Document::open(std::move(bytes)).value();
    CHECK(again.info().value().title == "Again");
    check_same_document(again, *document);
  }
}

TEST_CASE("a sheet shows its pages, however they are turned", "[bound]") {
  const Document report = Document::open(office("report.pdf")).value();
  EditableDocument edited = EditableDocument::of(report);
  REQUIRE(edited.keep(pages("1-4")).ok());
  // Whole points, so that pixels fall onto pixels.
  const Page page = report.page(0).value();
  constexpr double kWidth = 500;
  constexpr double kHeight = 800;
  REQUIRE(
      edited.crop({}, {.right = page.width() - kWidth, .bottom = page.height() - kHeight}).ok());
  const int degrees = GENERATE(0, 90, 180, 270);
  REQUIRE(edited.rotate({}, degrees).ok());
  const Document parts = saved(edited);
  const bool is_wide = degrees % 180 != 0;
  const double width = is_wide ? kHeight : kWidth;
  const double height = is_wide ? kWidth : kHeight;
  const bool down = GENERATE(false, true);
  const SheetLayout layout{.columns = 2,
                           .rows = 2,
                           .paper = {2 * width, 2 * height},
                           .margin = 0,
                           .gap = 0,
                           .down_first = down};
  const SheetPlan plan = SheetPlan::of(edited.now().value(), layout).value();
  const Raster sheet = drawn(saved(plan).page(0).value());
  for (int i = 0; i < 4; ++i) {
    const int column = down ? i / 2 : i % 2;
    const int row = down ? i % 2 : i / 2;
    CAPTURE(degrees, down, i);
    CHECK(difference(sheet, drawn(parts.page(i).value()), column * static_cast<int>(width),
                     row * static_cast<int>(height)) <= 2);
  }
}

TEST_CASE("a page moved onto other paper looks the same there", "[bound]") {
  const Document annex = Document::open(office("annex.pdf")).value();
  const Page page = annex.page(0).value();
  EditableDocument edited = EditableDocument::of(annex);
  REQUIRE(edited.resize(pages("1"), {page.width() / 2, page.height() / 2}).ok());
  const Document half = saved(edited);
  CHECK(half.page(0)->width() == Approx(page.width() / 2));
  // Of half the size and drawn twice as finely it is the same.
  CHECK(difference(drawn(half.page(0).value(), 144), drawn(page, 72)) <= 2);
}

TEST_CASE("a page drawn over, or beneath, another is seen as it is", "[bound]") {
  const Document inspection = Document::open(office("inspection.pdf")).value();
  const Page form = inspection.page(0).value();
  test::PdfBuilder empty;
  empty.page("", "/MediaBox[0 0 " + to_text(Object(form.width())) + " " +
                     to_text(Object(form.height())) + "]");
  const Document blank = test::open(empty.finish()).value();
  for (const bool beneath : {false, true}) {
    EditableDocument edited = EditableDocument::of(blank);
    REQUIRE(overlay(edited, {}, inspection, {}, {.beneath = beneath}).ok());
    // With what its fields and notes look like.
    CHECK(difference(drawn(saved(edited).page(0).value()), drawn(form)) <= 2);
  }
  // White paper covers what is behind it, and shines through by halves.
  test::PdfBuilder paper;
  paper.page("1 g 0 0 100 100 re f");
  test::PdfBuilder ink;
  ink.page("0 g 0 0 100 100 re f");
  const Document white = test::open(paper.finish()).value();
  const Document black = test::open(ink.finish()).value();
  const auto gray = [&](const Overlay& how) {
    EditableDocument edited = EditableDocument::of(white);
    REQUIRE(overlay(edited, {}, black, {}, how).ok());
    return drawn(saved(edited).page(0).value()).at(50, 50).red;
  };
  CHECK(gray({.beneath = true}) == 255);
  CHECK(gray({}) == 0);
  CHECK(std::abs(gray({.opacity = 0.5}) - 127) <= 1);
  CHECK(gray({.anchor = Anchor::top_left, .scale = 0.4}) == 255);
  CHECK(gray({.anchor = Anchor::bottom_right, .margin = 5, .scale = 0.5}) == 0);
}

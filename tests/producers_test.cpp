// SPDX-License-Identifier: Apache-2.0
// Documents that our writer did not make: a typesetter's, troff's, a browser's, a drawing
// library's.
#include "lumvet/lumvet.h"
#include "tests/support/catch.h"

using namespace lumvet;

namespace {

const std::filesystem::path kFolder = std::filesystem::path(LUMVET_SOURCE_DIR) / "demo/producers";

double darkness(const Raster& raster) {
  double sum = 0;
  for (int y = 0; y < raster.height(); ++y)
    for (int x = 0; x < raster.width(); ++x) sum += 255 - raster.at(x, y).green;
  return sum / 255 / raster.width() / raster.height();
}

}  // namespace

TEST_CASE("documents of other producers open, list and draw without a finding", "[producers]") {
  const auto [name, pages, width, fonts, least, most] =
      GENERATE(table<std::string, int, double, std::size_t, double, double>({
          {"notice.pdf", 1, 595.0, 3, 0.006, 0.06},
          {"drawing.pdf", 2, 420.0, 1, 0.05, 0.35},
          {"tariff.pdf", 1, 419.5, 2, 0.01, 0.10},
          {"loads.pdf", 1, 595.3, 9, 0.005, 0.06},
      }));
  CAPTURE(name);
  const Document document = Document::open(kFolder / name).value();
  CHECK(document.page_count() == pages);
  CHECK(document.page(0)->width() == Approx(width).margin(1));
  CHECK(document.fonts().value().size() == fonts);
  const Raster sheet = render(document.page(0).value(), {.dpi = 60}).value();
  CHECK(darkness(sheet) > least);
  CHECK(darkness(sheet) < most);
  CHECK(document.findings().empty());
}

TEST_CASE("what is saved, bound and bound again draws the same pixels", "[producers]") {
  std::vector<Document> sources;
  Assembly book;
  for (const char* name : {"notice.pdf", "drawing.pdf", "tariff.pdf", "loads.pdf"}) {
    sources.push_back(Document::open(kFolder / name).value());
    REQUIRE(book.add(sources.back()).ok());
  }
  for (const FileLayout layout : {FileLayout::compact, FileLayout::classic}) {
    BufferSink sink;
    REQUIRE(book.save(sink, {.layout = layout}).ok());
    const Document bound = Document::open(sink.take()).value();
    REQUIRE(bound.page_count() == 5);
    int page = 0;
    for (const Document& source : sources)
      for (int i = 0; i < source.page_count(); ++i, ++page)
        CHECK(render(bound.page(page).value()).value() == render(source.page(i).value()).value());
    CHECK(bound.findings().empty());
  }
}

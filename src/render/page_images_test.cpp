// SPDX-License-Identifier: Apache-2.0
#include "lumvet/render/page_images.h"

#include <atomic>
#include <new>
#include <numeric>
#include <stdexcept>

#include "lumvet/render/thumbnail.h"
#include "lumvet/save/save.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;
using test::PdfBuilder;
using test::TemporaryFolder;

namespace {

// Page i is 30 + i points wide and gray by its number; labels are roman.
Document book(int pages) {
  PdfBuilder pdf;
  std::string kids;
  for (int i = 0; i < pages; ++i) {
    const std::string at = std::to_string(10 + 2 * i);
    kids += at + " 0 R ";
    pdf.object(10 + 2 * i, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 " + std::to_string(30 + i) +
                               " 40]/Contents " + std::to_string(11 + 2 * i) + " 0 R>>");
    pdf.stream(11 + 2 * i, "", "0." + std::to_string(i) + " g 0 0 90 20 re f");
  }
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/PageLabels<</Nums[0<</S/r>>]>>>>");
  pdf.object(2, "<</Type/Pages/Kids[" + kids + "]/Count " + std::to_string(pages) + ">>");
  const std::string bytes = pdf.finish();
  return Document::open(Bytes(bytes.begin(), bytes.end())).value();
}

Scene scene_of(const std::string& bytes) {
  return Scene::record(test::open(bytes)->page(0).value()).value();
}

const std::string kShapes =
    "0.2 0.4 0.8 rg 10 10 150 90 re f 1 0 0 RG 5 w 0 0 m 200 300 l S 0.3 g 90 120 60 100 re f";

Scene shapes() {
  PdfBuilder pdf;
  return scene_of(pdf.page(kShapes, "/MediaBox[0 0 200 300]").finish());
}

}  // namespace

TEST_CASE("bands put together are the whole page, in every format", "[render]") {
  const Scene scene = shapes();
  for (const PixelFormat format :
       {PixelFormat::rgba, PixelFormat::bgr, PixelFormat::gray, PixelFormat::bilevel}) {
    const RenderOptions options{
        .dpi = 1100, .tone = Tone::night, .format = format, .halftone = Halftone::ordered};
    const Raster whole = render(scene, options).value();
    CHECK(whole.format() == format);
    int next = 0;
    bool same = true;
    const Status status = render_rows(scene, options, [&](const PixelBuffer& rows, int top) {
      same = same && top == next && rows.format == format;
      for (int y = 0; y < rows.height; ++y)
        same = same && std::equal(whole.row(top + y), whole.row(top + y) + whole.stride(),
                                  rows.data + y * rows.stride);
      next = top + rows.height;
      return Status(Done{});
    });
    CHECK(status.ok());
    CHECK(same);
    CHECK(next == whole.height());
  }
  const Status refused = render_rows(
      scene, {}, [](const PixelBuffer&, int) { return Status(Error(ErrorCode::io, "enough")); });
  CHECK(refused.error().message() == "enough");
}

TEST_CASE("formats and tones are those of the colored page", "[render]") {
  const Scene scene = shapes();
  const Raster plain = render(scene, {.dpi = 72}).value();
  const Raster gray = render(scene, {.dpi = 72, .format = PixelFormat::gray}).value();
  const Raster toned = render(scene, {.dpi = 72, .tone = Tone::gray}).value();
  const Raster bits = render(scene, {.dpi = 72, .format = PixelFormat::bilevel}).value();
  const Raster night = render(scene, {.dpi = 72, .tone = Tone::night}).value();
  CHECK(plain.at(100, 240) == PixelColor{51, 102, 204});
  const int expected = (51 * 77 + 102 * 151 + 204 * 28 + 128) / 256;
  CHECK(gray.at(100, 240).green == expected);
  CHECK(toned.at(100, 240) == gray.at(100, 240));
  CHECK(bits.at(100, 240) == PixelColor{0, 0, 0});
  CHECK(bits.at(195, 240) == kWhite);
  CHECK(night.at(195, 240) == PixelColor{0, 0, 0});
  CHECK(night.at(100, 240) == PixelColor{51, 102, 204});  // as light as it is dark
  const RenderOptions paper{.dpi = 72, .background = {250, 240, 220}};
  CHECK(render(scene, paper)->at(195, 240) == PixelColor{250, 240, 220});
}

TEST_CASE("an area is the same part of the whole page", "[render]") {
  const Scene scene = shapes();
  const Raster whole = render(scene, {.dpi = 144}).value();
  const Raster part = render(scene, {.dpi = 144, .area = PageArea{60, 100, 50, 40}}).value();
  REQUIRE(part.width() == 100);
  REQUIRE(part.height() == 80);
  for (int y = 0; y < 80; ++y)
    REQUIRE(std::equal(part.row(y), part.row(y) + 400, whole.row(200 + y) + 480));
  // Dots are the page's, not the part's.
  const RenderOptions dots{
      .dpi = 72, .format = PixelFormat::bilevel, .halftone = Halftone::ordered};
  const Raster sheet = render(scene, dots).value();
  RenderOptions some = dots;
  some.area = PageArea{61, 99, 50, 40};
  const Raster dotted = render(scene, some).value();
  for (int y = 0; y < 40; ++y)
    for (int x = 0; x < 50; ++x) REQUIRE(dotted.at(x, y) == sheet.at(61 + x, 99 + y));
  CHECK(render(scene, {.area = PageArea{0, 0, 0, 5}}).error().code() ==
        ErrorCode::invalid_argument);
  // Beside the page there is paper.
  CHECK(render(scene, {.area = PageArea{-50, 0, 40, 40}})->at(5, 5) == kWhite);
}

TEST_CASE("pages come in the order asked for, whatever the threads, until an error", "[render]") {
  const Document document = book(9);
  const std::vector<int> wanted = {8, 0, 3, 3, 7, 1};
  for (const int threads : {1, 2, 5}) {
    std::vector<int> got;
    const Status all =
        render_pages(document, wanted, {.threads = threads}, [&](int page, const Raster& raster) {
          CHECK(raster.width() == 30 + page);
          got.push_back(page);
          return Status(Done{});
        });
    CHECK(all.ok());
    CHECK(got == wanted);
    int count = 0;
    const Status stopped =
        render_pages(document, wanted, {.threads = threads}, [&](int, const Raster&) {
          return ++count == 2 ? Status(Error(ErrorCode::io, "full")) : Status(Done{});
        });
    CHECK(stopped.error().message() == "full");
    CHECK(count == 2);
    const CancelToken cancel;
    const Status cancelled = render_pages(document, wanted, {.threads = threads, .cancel = cancel},
                                          [&](int, const Raster&) {
                                            cancel.cancel();
                                            return Status(Done{});
                                          });
    CHECK(cancelled.error().code() == ErrorCode::cancelled);
    CHECK(render_pages(document, {0, 9}, {.threads = threads},
                       [](int, const Raster&) { return Status(Done{}); })
              .error()
              .code() == ErrorCode::invalid_argument);
  }
}

TEST_CASE("pages become files by number, by label, or all in one", "[render]") {
  const TemporaryFolder folder;
  const Document document = book(9);
  const auto in_folder = [&](const char* pattern) {
    return ImageFiles{.pattern = (folder / pattern).string()};
  };
  const auto written = write_pages(document, {0, 8}, in_folder("p-{page}.png")).value();
  REQUIRE(written.size() == 2);
  CHECK(written[1].path == folder / "p-9.png");
  CHECK(written[1].width == 38);
  REQUIRE(write_pages(document, {1, 2}, in_folder("{label}.jpg")).ok());
  CHECK(std::filesystem::exists(folder / "iii.jpg"));
  REQUIRE(write_pages(document, {0, 1, 2}, in_folder("all.tiff")).ok());
  CHECK(folder.file_count() == 5);
  // Nothing is drawn when one name is taken, or names do not tell pages apart.
  CHECK(write_pages(document, {1, 0}, in_folder("p-{page}.png")).error().code() ==
        ErrorCode::exists);
  CHECK(write_pages(document, {1, 2}, in_folder("one.png")).error().code() ==
        ErrorCode::invalid_argument);
  CHECK(write_pages(document, {1, 1}, in_folder("x-{page}.png")).error().code() ==
        ErrorCode::invalid_argument);
  CHECK(write_pages(document, {1}, in_folder("x.gif")).error().code() ==
        ErrorCode::invalid_argument);
  CHECK(folder.file_count() == 5);
}

TEST_CASE("an embedded thumbnail is taken while it is current, and only then", "[render]") {
  const auto with_thumbnail = [](int width, int height, const std::string& update) {
    PdfBuilder pdf;
    pdf.page("0 1 0 rg 0 0 100 100 re f", "/MediaBox[0 0 100 100]/Thumb 8 0 R");
    std::string red;
    for (int i = 0; i < width * height; ++i) red += "\xFF\x01\x01";
    pdf.stream(8,
               "/Width " + std::to_string(width) + "/Height " + std::to_string(height) +
                   "/ColorSpace/DeviceRGB/BitsPerComponent 8",
               red);
    pdf.finish();
    if (!update.empty()) {
      const std::string previous = std::to_string(pdf.last_table());
      pdf.stream(4, "", update);
      pdf.finish("/Root 1 0 R/Prev " + previous);
    }
    return test::open(pdf.bytes())->page(0).value();
  };
  const PixelColor red{255, 1, 1};
  const PixelColor green{0, 255, 0};
  CHECK(thumbnail(with_thumbnail(32, 32, ""), {.side = 32})->at(5, 5) == red);
  CHECK(has_current_thumbnail(with_thumbnail(32, 32, ""), 20).value());
  CHECK(thumbnail(with_thumbnail(32, 32, ""), {.side = 32, .embedded = false})->at(5, 5) == green);
  // Too small, of another shape, older than the page's contents.
  CHECK(thumbnail(with_thumbnail(20, 20, ""), {.side = 32})->at(5, 5) == green);
  CHECK(thumbnail(with_thumbnail(32, 64, ""), {.side = 32})->at(5, 5) == green);
  const Page changed = with_thumbnail(32, 32, "0 0 1 rg 0 0 100 100 re f");
  CHECK(thumbnail(changed, {.side = 32})->at(5, 5) == PixelColor{0, 0, 255});
  CHECK(thumbnail(changed, {.side = 0}).error().code() == ErrorCode::invalid_argument);
  CHECK(thumbnail(changed, {.side = 32})->width() == 32);
}

TEST_CASE("an exception of the caller's function, or of a source, reaches the caller",
          "[render][threads]") {
  PdfBuilder pdf;
  std::string kids;
  for (int i = 10; i < 30; ++i) {
    kids += std::to_string(i) + " 0 R ";
    pdf.object(i, "<</Type/Page/Parent 2 0 R/Contents " + std::to_string(i + 30) + " 0 R>>");
    pdf.stream(i + 30, "", "0 0 9 9 re f");
  }
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[" + kids + "]/Count 20/MediaBox[0 0 9 9]>>");
  const std::string bytes = pdf.finish();
  const Document document = Document::open(test::to_bytes(bytes)).value();
  std::vector<int> all(20);
  std::iota(all.begin(), all.end(), 0);
  for (const int threads : {1, 2, 4})
    for (const int at : {0, 7, 19}) {
      CAPTURE(threads, at);
      CHECK_THROWS_WITH(render_pages(document, all, {.threads = threads},
                                     [at](int page, Raster) -> Status {
                                       if (page == at) throw std::runtime_error("enough");
                                       return Done{};
                                     }),
                        "enough");
    }

  // The application's own source runs out of memory on a thread that draws ahead.
  class Throwing final : public ByteSource {
   public:
    explicit Throwing(std::string bytes) : bytes_(std::move(bytes)) {}
    std::uint64_t size() const override { return bytes_.size(); }
    std::string name() const override { return "a source that throws"; }
    Status read(std::uint64_t offset, std::span<std::uint8_t> into) const override {
      if (throws && offset < bytes_.size() / 2 && offset > bytes_.size() / 3)
        throw std::bad_alloc();
      std::copy_n(bytes_.begin() + static_cast<std::ptrdiff_t>(offset), into.size(), into.begin());
      return Done{};
    }
    mutable std::atomic<bool> throws = false;

   private:
    std::string bytes_;
  };
  const auto source = std::make_shared<Throwing>(bytes);
  const Document late = Document::open(source).value();
  source->throws = true;
  const auto taken = [](int, Raster) -> Status { return Done{}; };
  CHECK_THROWS_AS(render_pages(late, all, {.threads = 3}, taken), std::bad_alloc);
  BufferSink sink;
  CHECK_THROWS_AS(save(late, sink, {.threads = 3}), std::bad_alloc);
  source->throws = false;
  CHECK(render_pages(late, all, {.threads = 3}, taken).ok());
  BufferSink again;
  REQUIRE(save(late, again).ok());
  BufferSink expected;
  REQUIRE(save(document, expected).ok());
  CHECK(as_text(again.bytes()) == as_text(expected.bytes()));
}

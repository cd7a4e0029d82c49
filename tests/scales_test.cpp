// SPDX-License-Identifier: Apache-2.0
// Pages look alike at every scale: drawn coarsely they are as dark, and where, as drawn finely and
// averaged.
#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <filesystem>

#include "base/luminance.h"
#include "lumvet/lumvet.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using test::PdfBuilder;

namespace {

constexpr int kFiner = 4;
constexpr double kCoarse = 72;  // dpi

struct Likeness {
  double coarse_ink = 0;  // darkness, in pixels of black
  double fine_ink = 0;
  double difference = 0;  // of gray values up to 255, the mean
  bool is_blank() const { return fine_ink < 20; }
  double ink_ratio() const { return coarse_ink / fine_ink; }
};

// The greatest part of the page that has whole points, within what is drawn in reasonable time.
Likeness likeness_of(const Scene& scene) {
  constexpr double kMost = 900;  // points a side
  const PageArea area{0, 0, std::floor(std::min(scene.width(), kMost)),
                      std::floor(std::min(scene.height(), kMost))};
  const auto drawn = [&](int finer) {
    return render(scene, {.dpi = kCoarse * finer, .area = area, .format = PixelFormat::gray})
        .value();
  };
  const Raster coarse = drawn(1);
  const Raster fine = drawn(kFiner);
  REQUIRE(fine.width() == coarse.width() * kFiner);
  REQUIRE(fine.height() == coarse.height() * kFiner);
  Likeness likeness;
  for (int y = 0; y < coarse.height(); ++y)
    for (int x = 0; x < coarse.width(); ++x) {
      double sum = 0;
      for (int v = 0; v < kFiner; ++v)
        for (int u = 0; u < kFiner; ++u) sum += fine.at(x * kFiner + u, y * kFiner + v).red;
      const double mean = sum / (kFiner * kFiner);
      const double there = coarse.at(x, y).red;
      likeness.coarse_ink += (255 - there) / 255;
      likeness.fine_ink += (255 - mean) / 255;
      likeness.difference += std::abs(there - mean);
    }
  likeness.difference /= static_cast<double>(coarse.width()) * coarse.height();
  return likeness;
}

Likeness likeness_of_page(const std::string& content, const std::string& entries = "") {
  PdfBuilder pdf;
  const std::string bytes = pdf.page(content, "/MediaBox[0 0 200 200]" + entries).finish();
  const Document document = Document::open(Bytes(bytes.begin(), bytes.end())).value();
  return likeness_of(Scene::record(document.page(0).value()).value());
}

}  // namespace

TEST_CASE("lines of every width and direction are as dark at every scale", "[scales]") {
  const double width = GENERATE(0.2, 0.25, 0.4, 0.75, 1.0, 1.4, 2.6);
  const bool adjusted = GENERATE(false, true);
  std::string content = (adjusted ? "/Even gs " : "") + std::to_string(width) + " w ";
  for (int i = 0; i < 12; ++i) {
    const std::string at = std::to_string(8.3 + 15.37 * i);
    content += at + " 5 m " + at + " 195 l S 5 " + at + " m 195 " + at + " l S ";
    content += "5 " + at + " m 190 " + std::to_string(11.7 * i) + " l S ";
  }
  const Likeness likeness =
      likeness_of_page(content, "/Resources<</ExtGState<</Even<</SA true>>>>>>");
  CAPTURE(width, adjusted);
  CHECK(likeness.ink_ratio() == Approx(1).margin(0.03));
  CHECK(likeness.difference < (adjusted ? 255 * width / 15 : 1.0));
}

// Every so many pages of all documents in a folder that the environment may name.
TEST_CASE("real pages are as dark at every scale", "[scales]") {
  const char* folder = std::getenv("LUMVET_SCALES_FOLDER");
  if (folder == nullptr) return;
  constexpr std::uintmax_t kMostBytes = 4'000'000;
  int pages = 0;
  int alike = 0;
  for (const auto& entry : std::filesystem::recursive_directory_iterator(folder)) {
    if (entry.path().extension() != ".pdf" || entry.file_size() > kMostBytes) continue;
    const auto document = Document::open(entry.path());
    if (!document.ok()) continue;
    for (int i = 0; i < document->page_count(); i += 1 + document->page_count() / 2) {
      const auto page = document->page(i);
      const auto scene = Scene::record(page.value());
      if (!scene.ok()) continue;
      const Likeness likeness = likeness_of(*scene);
      if (likeness.is_blank()) continue;
      ++pages;
      const bool is_alike = std::abs(likeness.ink_ratio() - 1) <= 0.05 && likeness.difference < 2;
      alike += is_alike ? 1 : 0;
      if (!is_alike)
        WARN(entry.path().string() << " page " << i + 1 << ": ink " << likeness.ink_ratio()
                                   << ", difference " << likeness.difference);
    }
  }
  WARN(alike << " of " << pages << " pages are alike");
  CHECK(pages > 0);
  CHECK(alike * 100 >= pages * 99);
}

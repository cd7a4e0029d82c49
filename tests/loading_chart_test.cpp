// SPDX-License-Identifier: Apache-2.0
// The chart is drawn, and its bars are measured in the image.
#include "apps/tool/inspect/loading_chart.h"

#include "lumvet/render/render.h"
#include "lumvet/text/page_words.h"
#include "tests/support/catch.h"

using namespace lumvet;
using tool::ChartedLoading;
using tool::loading_chart;

namespace {

LoadingReport report(std::vector<std::vector<double>> arrivals) {
  LoadingReport report{.file_bytes = 4'000'000, .whole_seconds = 16};
  for (std::size_t i = 0; i < arrivals.size(); ++i) {
    PageLoading page{.page = static_cast<int>(i), .fetches = {}, .bytes = 20'000};
    for (const double seconds : arrivals[i]) {
      const double begins = page.seconds;
      page.seconds += seconds;
      page.fetches.push_back({0, 20'000, begins, begins, page.seconds});
    }
    report.pages.push_back(std::move(page));
  }
  return report;
}

// The longest run in each row of the color of the first page's bars, where any.
std::vector<int> bars_of(const Raster& raster, int from, int until) {
  std::vector<int> widths;
  for (int y = 150; y < raster.height() - 60; ++y) {
    int run = 0;
    int longest = 0;
    for (int x = from; x < until; ++x) {
      const std::uint8_t* pixel = raster.row(y) + 4 * x;
      run = pixel[0] < 60 && pixel[1] > 80 && pixel[1] < 130 && pixel[2] > 80 ? run + 1 : 0;
      longest = std::max(longest, run);
    }
    if (longest > 40) widths.push_back(longest);  // text is thinner
  }
  return widths;
}

}  // namespace

TEST_CASE("bars are as long as what they stand for, by one scale", "[tool]") {
  const auto chart =
      loading_chart({{"before.pdf", report({{1, 1, 2}})}, {"after.pdf", report({{1}})}}).value();
  const Page page = chart.page(0).value();
  CHECK(page.width() == 840);
  CHECK(page.height() == 525);
  const Raster raster = render(page, {.dpi = 144}).value();
  std::vector<int> before = bars_of(raster, 0, raster.width() / 2);
  const std::vector<int> after = bars_of(raster, raster.width() / 2, raster.width());
  REQUIRE(before.size() > 20);
  REQUIRE_FALSE(after.empty());
  std::sort(before.begin(), before.end());
  CHECK(std::abs(before.back() - 2 * before.front()) <= 3);
  CHECK(std::abs(after.front() - before.front()) <= 2);
  const std::string text = text_of(page).value();
  CHECK_THAT(text, Catch::Contains("before.pdf") && Catch::Contains("after.pdf") &&
                       Catch::Contains("page 1: 3 requests, 20 kB, 4.00 s"));
}

TEST_CASE("many requests and odd names have room", "[tool]") {
  const std::string name = std::string(300, 'm') + "\xF0\x9F\x8C\x89.pdf";  // a bridge
  const auto chart =
      loading_chart({{name, report({std::vector<double>(900, 0.1), {0.5}})}}).value();
  CHECK_THAT(text_of(chart.page(0).value()).value(),
             Catch::Contains("page 1: 900 requests") && Catch::Contains("page 2: 1 request,"));
  CHECK(render(chart.page(0).value()).ok());
}

TEST_CASE("a chart has one to four documents", "[tool]") {
  CHECK(loading_chart({}).error().code() == ErrorCode::invalid_argument);
  CHECK(loading_chart(std::vector<ChartedLoading>(5, {"a", report({{1}})})).error().code() ==
        ErrorCode::invalid_argument);
}

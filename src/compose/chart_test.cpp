// SPDX-License-Identifier: Apache-2.0
// Charts: what stands where, and that nothing runs into anything.
#include "lumvet/compose/chart.h"

#include <array>
#include <cmath>

#include "lumvet/render/render.h"
#include "lumvet/text/page_words.h"
#include "tests/support/catch.h"

using namespace lumvet;

namespace {

struct Drawn {
  Document document;
  Raster raster;
  PageWords words;
};

Drawn drawn(const Chart& chart, const PageArea& area = {20, 20, 360, 260}) {
  Drawing page(400, 300);
  draw_chart(page, area, chart).value();
  Document document = page.as_document().value();
  CHECK(document.findings().empty());
  Raster raster = render(document.page(0).value(), {.dpi = 72}).value();
  PageWords words = PageWords::of(document.page(0).value()).value();
  return {std::move(document), std::move(raster), std::move(words)};
}

PixelColor pixel_of(const Color& color) {
  const auto byte = [&](std::size_t i) {
    return static_cast<std::uint8_t>(std::lround(color.parts()[i] * 255));
  };
  return {byte(0), byte(1), byte(2), 255};
}

int count_of(const Raster& raster, const Color& color) {
  int count = 0;
  for (int y = 0; y < raster.height(); ++y)
    for (int x = 0; x < raster.width(); ++x) count += raster.at(x, y) == pixel_of(color);
  return count;
}

Chart grades() {
  Chart chart{.title = "Grades", .labels = {"2024", "2025", "2026"}};
  chart.series = {{"good", {4, 6, 8}}, {"limited", {2, 3, 4}}};
  return chart;
}

}  // namespace

TEST_CASE("marks of axes are round, and go around all values", "[compose]") {
  for (const auto& [least, largest] : std::vector<std::pair<double, double>>{{0, 11},
                                                                             {0, 24},
                                                                             {0, 0.037},
                                                                             {-74070, 209865},
                                                                             {0, 1},
                                                                             {3, 3},
                                                                             {0, 0},
                                                                             {-5, 0},
                                                                             {0, 1e9}}) {
    CAPTURE(least, largest);
    const auto marks = round_marks(least, largest);
    REQUIRE(marks.size() >= 2);
    CHECK(marks.size() <= 7);
    CHECK(marks.front() <= least + 1e-9);
    CHECK(marks.back() >= largest - 1e-9 * std::abs(largest));
    const double step = marks[1] - marks[0];
    const double digits = step / std::pow(10, std::floor(std::log10(step) + 1e-9));
    CHECK((digits == Approx(1) || digits == Approx(2) || digits == Approx(5)));
    for (std::size_t i = 1; i < marks.size(); ++i) CHECK(marks[i] - marks[i - 1] == Approx(step));
  }
  CHECK(round_marks(0, 11) == std::vector<double>{0, 2, 4, 6, 8, 10, 12});
}

TEST_CASE("bars are as high as their values", "[compose]") {
  const Drawn chart = drawn(grades());
  // Equally wide, so that their areas are as their values; the legend's patches are left out.
  Chart without = grades();
  without.shows_legend = false;
  const Raster plain = drawn(without).raster;
  const double good = count_of(plain, chart_color(0));
  const double limited = count_of(plain, chart_color(1));
  CHECK(good / limited == Approx(18.0 / 9).epsilon(0.06));
  for (const char* word : {"Grades", "2024", "good", "limited", "8"})
    CHECK(chart.words.text().find(word) != std::string::npos);
  Chart stacked = without;
  stacked.kind = Chart::Kind::stacked_bars;
  const Raster upon = drawn(stacked).raster;
  CHECK(count_of(upon, chart_color(0)) / double(count_of(upon, chart_color(1))) ==
        Approx(2).epsilon(0.06));
}

TEST_CASE("sectors of a pie are as large as their shares", "[compose]") {
  Chart pie{.kind = Chart::Kind::pie, .labels = {"Painting", "Divers", "Lamps"}};
  pie.series = {{"", {50, 30, 20}}};
  pie.shows_legend = false;
  const Drawn chart = drawn(pie);
  const double first = count_of(chart.raster, chart_color(0));
  CHECK(first / count_of(chart.raster, chart_color(1)) == Approx(5.0 / 3).epsilon(0.06));
  CHECK(first / count_of(chart.raster, chart_color(2)) == Approx(5.0 / 2).epsilon(0.06));
  for (const char* share : {"50", "30", "20"})
    CHECK(chart.words.text().find(share) != std::string::npos);
}

TEST_CASE("what a chart cannot show is told", "[compose]") {
  Drawing page(400, 300);
  Chart chart = grades();
  chart.series[0].values[1] = std::nan("");
  const auto findings = draw_chart(page, {20, 20, 360, 260}, chart).value();
  REQUIRE(findings.size() == 1);
  CHECK_THAT(findings[0].what, Catch::Contains("'2025'") && Catch::Contains("'good'") &&
                                   Catch::Contains("no number"));
  chart.kind = Chart::Kind::stacked_bars;
  chart.series[1].values[2] = -1;
  CHECK(draw_chart(page, {20, 20, 360, 260}, chart)->size() == 2);
  CHECK(draw_chart(page, {20, 20, 360, 260}, Chart{}).error().code() ==
        ErrorCode::invalid_argument);
  CHECK_THAT(draw_chart(page, {20, 20, 30, 30}, grades()).error().message(),
             Catch::Contains("no room"));
  CHECK(page.status().ok());
}

TEST_CASE("no word of a chart runs into another", "[compose]") {
  for (const int count : {3, 12, 40})
    for (const auto kind : {Chart::Kind::bars, Chart::Kind::lines}) {
      CAPTURE(count, static_cast<int>(kind));
      Chart chart{.kind = kind, .value_title = "crowns", .shows_values = true};
      chart.series.resize(2);
      for (int i = 0; i < count; ++i) {
        chart.labels.push_back(count > 3 ? "Footbridge number " + std::to_string(i) : "day");
        chart.series[0].values.push_back(i * 1234.0);
        chart.series[1].values.push_back(50'000 - i * 1234.0);
      }
      chart.series[0].name = "up";
      chart.series[1].name = "down";
      const PageWords words = drawn(chart).words;
      // Words that stand level; those that are turned stand beside each other by their angle.
      std::vector<Rect> boxes;
      for (std::size_t i = 0; i < words.word_count(); ++i) {
        const Quad quad = words.word(i).quad;
        if (std::abs(quad[0].y - quad[1].y) > 0.01) continue;
        Rect box = Rect::nothing();
        for (const Point corner : quad) box.include(corner);
        const Rect inner{box.left + 0.3, box.bottom + box.height() * 0.25, box.right - 0.3,
                         box.top - box.height() * 0.25};
        for (const Rect& other : boxes) CHECK(inner.intersected(other).is_empty());
        boxes.push_back(inner);
      }
      CHECK(boxes.size() > 4);
    }
}

TEST_CASE("nothing of a chart stands out of its area", "[compose]") {
  const std::string longest =
      "The footbridge over the Lesser Ostrel below the quarry, with its approaches";
  for (const auto kind : {Chart::Kind::bars, Chart::Kind::lines, Chart::Kind::pie})
    for (const double width : {140.0, 360.0}) {
      CAPTURE(static_cast<int>(kind), width);
      Chart chart{.kind = kind, .title = "Costs", .shows_values = true};
      chart.series = {{longest, {}}, {"other", {}}};
      for (int i = 0; i < 14; ++i) {
        chart.labels.push_back(longest + " " + std::to_string(i));
        chart.series[0].values.push_back(i == 0 ? 90'000 : 1'000 * i);
        chart.series[1].values.push_back(500 * i);
      }
      chart.shows_legend = kind != Chart::Kind::pie;
      const PageArea area{20, 20, width, 260};
      const Drawn all = drawn(chart, area);
      for (int y = 0; y < all.raster.height(); ++y)
        for (int x = 0; x < all.raster.width(); ++x) {
          const bool is_inside = x >= area.left - 1 && x <= area.left + width + 1 &&
                                 y >= area.top - 1 && y <= area.top + area.height + 1;
          if (!is_inside && !(all.raster.at(x, y) == kWhite)) FAIL("at " << x << ", " << y);
        }
      CHECK(all.words.text().find("Costs") != std::string::npos);
    }
}

TEST_CASE("colors of charts differ for people who see fewer of them", "[compose]") {
  // What is left of red and green where the receptors of one are missing, in linear light (after
  // Viénot, Brettel and Mollon, 1999), and lightness and hue in L*a*b*.
  const auto linear = [](double v) {
    return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
  };
  using Triple = std::array<double, 3>;
  const auto lab = [](const Triple& rgb) {
    const auto f = [](double t) { return t > 0.008856 ? std::cbrt(t) : 7.787 * t + 16.0 / 116; };
    const double x = f((0.4124 * rgb[0] + 0.3576 * rgb[1] + 0.1805 * rgb[2]) / 0.9505);
    const double y = f(0.2126 * rgb[0] + 0.7152 * rgb[1] + 0.0722 * rgb[2]);
    const double z = f((0.0193 * rgb[0] + 0.1192 * rgb[1] + 0.9505 * rgb[2]) / 1.089);
    return Triple{116 * y - 16, 500 * (x - y), 200 * (y - z)};
  };
  const auto seen = [](const Triple& c, int how) {
    if (how == 1) {
      const double both = 0.11238 * c[0] + 0.88762 * c[1];
      return Triple{both, both, std::max(0.0, 0.00401 * c[0] - 0.00401 * c[1] + c[2])};
    }
    if (how == 2) {
      const double both = 0.29275 * c[0] + 0.70725 * c[1];
      return Triple{both, both, std::max(0.0, -0.02234 * c[0] + 0.02234 * c[1] + c[2])};
    }
    return c;
  };
  for (int how = 0; how < 3; ++how)
    for (std::size_t i = 0; i < 8; ++i)
      for (std::size_t k = 0; k < i; ++k) {
        CAPTURE(how, i, k);
        std::array<Triple, 2> pair;
        for (const std::size_t n : {i, k}) {
          const std::vector<double> parts = chart_color(n).parts();
          pair[n == i ? 0 : 1] =
              lab(seen({linear(parts[0]), linear(parts[1]), linear(parts[2])}, how));
        }
        const double distance =
            std::hypot(pair[0][0] - pair[1][0], pair[0][1] - pair[1][1], pair[0][2] - pair[1][2]);
        CHECK(distance > 20);
      }
}

// SPDX-License-Identifier: Apache-2.0
#include "loading_chart.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>

#include <lumvet/compose/chart.h>
#include <lumvet/draw/drawing.h>

namespace tool {
namespace {

using lumvet::Color;
using lumvet::Drawing;
using lumvet::Fetch;
using lumvet::LoadingReport;
using lumvet::PageLoading;
using Side = Drawing::Side;

constexpr double kWidth = 840;  // points
constexpr double kHeight = 525;
constexpr double kMargin = 32;
constexpr double kBetween = 44;
constexpr double kTop = 112;  // of the bars
constexpr double kBottom = kHeight - 52;

const Color kPaper = Color::rgb(0.984, 0.98, 0.969);
const Color kInk = Color::rgb(0.122, 0.161, 0.2);
const Color kFaint = Color::rgb(0.42, 0.45, 0.48);
const Color kGrid = Color::rgb(0.89, 0.88, 0.85);
const Color kWaiting = Color::rgb(0.8, 0.79, 0.75);
const std::array<Color, 4> kArriving = {Color::rgb(0.13, 0.42, 0.44), Color::rgb(0.78, 0.52, 0.16),
                                        Color::rgb(0.44, 0.29, 0.5), Color::rgb(0.62, 0.25, 0.24)};

std::string printed(double value, int digits) {
  std::array<char, 64> text{};
  std::snprintf(text.data(), text.size(), "%.*f", digits, value);
  return text.data();
}

std::string size_text(std::uint64_t bytes) {
  constexpr double kKilo = 1000;
  const auto size = static_cast<double>(bytes);
  if (size < kKilo) return std::to_string(bytes) + " bytes";
  if (size < kKilo * kKilo) return printed(size / kKilo, size < 10 * kKilo ? 1 : 0) + " kB";
  return printed(size / (kKilo * kKilo), 1) + " MB";
}

double seconds_of(const LoadingReport& report) {
  double seconds = 0;
  for (const PageLoading& page : report.pages) seconds += page.seconds;
  return seconds;
}

// What is drawn on, and with which letters.
struct ChartPage {
  Drawing drawing;
  lumvet::Typeface face;

  void fill(double left, double top, double width, double height, const Color& color) {
    drawing.fill(lumvet::box({left, top, width, height}), color);
  }
  // One line, cut to what has room; what no font has a letter for shows as a box. `x` is that side
  // of it; `line` is where it stands.
  void write(const std::string& text, double x, double line, double size, const Color& color,
             Side side = Side::left, double room = 1e9) {
    const lumvet::TextStyle style{
        .face = face, .size = size, .color = color, .shows_missing = true};
    std::string shown = text;
    std::string rest = text;
    while (Drawing::text_width(shown, style).value_or(0) > room && !rest.empty()) {
      // Whole characters from the beginning, since names end in what tells them apart.
      do rest.erase(0, 1);
      while (!rest.empty() && (static_cast<unsigned char>(rest[0]) & 0xC0) == 0x80);
      shown = "…" + rest;
    }
    drawing.write(shown, {x, line}, style, side);
  }
};

struct Panel {
  double left;
  double width;
  double seconds;  // that are as long as it is wide
};

void draw_axis(const Panel& panel, ChartPage& page) {
  const std::vector<double> marks = lumvet::round_marks(0, panel.seconds);
  // As many digits as the step has.
  const int digits = static_cast<int>(std::max(0.0, std::ceil(-std::log10(marks[1]) - 1e-9)));
  for (const double mark : marks) {
    if (mark > panel.seconds * 1.0001) break;
    const double x = panel.left + panel.width * mark / panel.seconds;
    page.fill(x - 0.25, kTop, 0.5, kBottom - kTop, kGrid);
    page.write(printed(mark, digits) + " s", x, kBottom + 14, 8.5, kFaint, Side::middle);
  }
}

void draw_pages(const Panel& panel, const LoadingReport& report, ChartPage& page) {
  std::size_t requests = 0;
  for (const PageLoading& one : report.pages) requests += one.fetches.size();
  constexpr double kHeading = 17;
  constexpr double kHighest = 26;
  constexpr double kNamed = 8;  // rows as high as this have room for a number
  const double room = kBottom - kTop - kHeading * static_cast<double>(report.pages.size()) - 8;
  const double row =
      std::min(kHighest, room / static_cast<double>(std::max<std::size_t>(1, requests)));
  double top = kTop + 2;
  double from = 0;
  for (std::size_t i = 0; i < report.pages.size(); ++i) {
    const PageLoading& one = report.pages[i];
    const Color& color = kArriving[i % kArriving.size()];
    page.write("page " + std::to_string(one.page + 1) + ": " + std::to_string(one.fetches.size()) +
                   (one.fetches.size() == 1 ? " request, " : " requests, ") + size_text(one.bytes) +
                   ", " + printed(one.seconds, 2) + " s",
               panel.left + 3, top + 11, 9.5, color);
    top += kHeading;
    for (const Fetch& fetch : one.fetches) {
      const auto x = [&](double seconds) {
        return panel.left + panel.width * (from + seconds) / panel.seconds;
      };
      const double high = std::max(0.4, row * 0.7);
      page.fill(x(fetch.begins), top, x(fetch.first_byte) - x(fetch.begins), high, kWaiting);
      page.fill(x(fetch.first_byte), top, std::max(0.6, x(fetch.ends) - x(fetch.first_byte)), high,
                color);
      if (row >= kNamed) {
        const bool fits = x(fetch.ends) + 42 < panel.left + panel.width;
        page.write(size_text(fetch.length), fits ? x(fetch.ends) + 4 : x(fetch.begins) - 4,
                   top + high / 2 + 2.8, 8, kFaint, fits ? Side::left : Side::right);
      }
      top += row;
    }
    from += one.seconds;
  }
}

void draw_panel(const Panel& panel, const ChartedLoading& loading, ChartPage& page) {
  const LoadingReport& report = loading.report;
  page.write(loading.name, panel.left, 84, 12.5, kInk, Side::left, panel.width);
  page.write(size_text(report.file_bytes) + ", fetched by its " +
                 (report.is_by_hints ? "hint tables" : "cross references") + "; all of it takes " +
                 printed(report.whole_seconds, 1) + " s",
             panel.left, 99, 9, kFaint, Side::left, panel.width);
  draw_axis(panel, page);
  draw_pages(panel, report, page);
}

void draw_legend(const lumvet::Connection& connection, ChartPage& page) {
  page.write("Until a page can be shown", kMargin, 40, 18, kInk);
  page.write("over a connection of " + printed(connection.speed, connection.speed < 10 ? 1 : 0) +
                 " Mbit/s with " + printed(connection.round_trip, 0) + " ms to and fro",
             kMargin, 56, 10, kFaint);
  const double right = kWidth - kMargin;
  page.fill(right - 184, 45, 18, 9, kWaiting);
  page.write("asked for", right - 162, 53, 9.5, kFaint);
  page.fill(right - 102, 45, 18, 9, kArriving[0]);
  page.fill(right - 82, 45, 18, 9, kArriving[1]);
  page.write("bytes arrive", right - 58, 53, 9.5, kFaint);
}

}  // namespace

lumvet::Result<lumvet::Document> loading_chart(const std::vector<ChartedLoading>& loadings) {
  constexpr std::size_t kMost = 4;
  if (loadings.empty() || loadings.size() > kMost)
    return lumvet::Error(lumvet::ErrorCode::invalid_argument,
                         "1 to 4 documents have room beside each other");
  LUMVET_TRY(lumvet::Typeface face, lumvet::Typeface::named(""));
  ChartPage page{Drawing(kWidth, kHeight), std::move(face)};
  page.fill(0, 0, kWidth, kHeight, kPaper);
  draw_legend(loadings.front().report.connection, page);
  double seconds = 0.01;
  for (const ChartedLoading& loading : loadings)
    seconds = std::max(seconds, seconds_of(loading.report));
  const auto count = static_cast<double>(loadings.size());
  const double width = (kWidth - 2 * kMargin - (count - 1) * kBetween) / count;
  for (std::size_t i = 0; i < loadings.size(); ++i)
    draw_panel({kMargin + static_cast<double>(i) * (width + kBetween), width, seconds * 1.02},
               loadings[i], page);
  return page.drawing.as_document();
}

}  // namespace tool

// SPDX-License-Identifier: Apache-2.0
#include "comparison.h"

#include <array>
#include <iomanip>
#include <sstream>

#include <lumvet/assemble/page_selection.h>
#include <lumvet/linear/sizes.h>
#include <lumvet/raster/image_file.h>
#include <lumvet/render/render.h>
#include <lumvet/save/save.h>
#include <CLI/CLI.hpp>

#include "../console.h"
#include "lines.h"
#include "loading_chart.h"

namespace tool {
namespace {

using lumvet::LoadingReport;

constexpr int kLabelWidth = 18;
constexpr int kNumberWidth = 10;

struct Kind {
  const char* name;
  std::uint64_t lumvet::Sizes::*part;
};
constexpr std::array<Kind, 7> kKinds = {{{"fonts", &lumvet::Sizes::fonts},
                                         {"images", &lumvet::Sizes::images},
                                         {"content", &lumvet::Sizes::content},
                                         {"bookkeeping", &lumvet::Sizes::bookkeeping},
                                         {"attachments", &lumvet::Sizes::attachments},
                                         {"other", &lumvet::Sizes::other},
                                         {"unused", &lumvet::Sizes::unused}}};

std::string fixed(double value, int digits) {
  std::ostringstream text;
  text << std::fixed << std::setprecision(digits) << value;
  return text.str();
}

std::string label(std::string text) {
  text = "  " + text;
  text.resize(std::max<std::size_t>(text.size(), kLabelWidth), ' ');
  return text;
}

// At the right of its column; counted in characters, of which the names of files may have others
// than letters.
std::string in_column(const std::string& text, std::size_t width) {
  std::size_t shown = 0;
  for (const char byte : text) shown += (static_cast<unsigned char>(byte) & 0xC0) != 0x80 ? 1 : 0;
  return std::string(shown < width ? width - shown : 1, ' ') + text;
}

// The end of a name that is too long for its column.
std::string heading(std::string name, std::size_t width) {
  const bool is_cut = name.size() + 2 > width;
  if (is_cut) name.erase(0, name.size() - (width - 3));
  while (is_cut && !name.empty() && (static_cast<unsigned char>(name[0]) & 0xC0) == 0x80)
    name.erase(0, 1);
  return in_column((is_cut ? "…" : "") + on_one_line(name), width);
}

void print_headings(const std::vector<Named>& documents, std::size_t width, std::ostream& out) {
  if (documents.size() < 2) return;
  out << label("");
  for (const auto& [name, document] : documents) out << heading(name, width);
  out << '\n';
}

void print_sizes(const std::vector<Named>& documents, std::ostream& out) {
  out << "What the bytes are for" << (documents.size() < 2 ? ": " + documents[0].first : "")
      << '\n';
  constexpr std::size_t kWidth = 2 * kNumberWidth + 2;
  print_headings(documents, kWidth, out);
  std::vector<lumvet::Sizes> all;
  for (const auto& [name, document] : documents) all.push_back(lumvet::sizes_of(document).value());
  for (const Kind& kind : kKinds) {
    out << label(kind.name);
    for (const lumvet::Sizes& sizes : all) {
      const std::uint64_t bytes = sizes.*kind.part;
      const double percent =
          sizes.all() > 0 ? 100 * static_cast<double>(bytes) / static_cast<double>(sizes.all()) : 0;
      out << in_column(bytes > 0 ? size_for_people(bytes) : "–", kWidth - 8)
          << in_column(bytes > 0 ? fixed(percent, 1) + " %" : "", 8);
    }
    out << '\n';
  }
  out << label("together");
  for (const lumvet::Sizes& sizes : all)
    out << in_column(size_for_people(sizes.all()), kWidth - 8) << in_column("", 8);
  out << '\n';
}

Json size_facts(const lumvet::Document& document) {
  const lumvet::Sizes sizes = lumvet::sizes_of(document).value();
  Json facts;
  for (const Kind& kind : kKinds) facts[kind.name] = sizes.*kind.part;
  facts["all"] = sizes.all();
  return facts;
}

lumvet::Result<std::vector<LoadingReport>> load(const std::vector<Named>& documents,
                                                const Comparison& comparison) {
  std::vector<LoadingReport> reports;
  for (const auto& [name, document] : documents) {
    lumvet::LoadingOptions options{
        .connection = {.round_trip = comparison.round_trip, .speed = comparison.speed}};
    if (!comparison.pages.empty()) {
      LUMVET_TRY(const auto selection, lumvet::PageSelection::parse(comparison.pages));
      LUMVET_TRY(options.pages, selection.in(document.page_count()));
    } else if (!reports.empty()) {
      // The same pages as of the first, where there are as many.
      for (const lumvet::PageLoading& page : reports.front().pages)
        if (page.page < document.page_count()) options.pages.push_back(page.page);
    }
    auto report = lumvet::loading_of(document, options);
    if (!report.ok()) return std::move(report).error().during("looking how " + name + " loads");
    reports.push_back(*std::move(report));
  }
  return reports;
}

std::string how(const LoadingReport& report) {
  return report.is_by_hints ? "hint tables" : "cross references";
}

void print_loading(const std::vector<Named>& documents, const std::vector<LoadingReport>& reports,
                   std::ostream& out) {
  const lumvet::Connection& connection = reports.front().connection;
  out << "Loading over " << number(connection.round_trip) << " ms and " << number(connection.speed)
      << " Mbit/s" << (documents.size() < 2 ? ": " + documents[0].first : "") << '\n';
  constexpr std::size_t kWidth = 3 * kNumberWidth + 2;
  print_headings(documents, kWidth, out);
  out << label("");
  for (std::size_t i = 0; i < reports.size(); ++i)
    out << in_column("requests", kNumberWidth + 2) << in_column("bytes", kNumberWidth)
        << in_column("time", kNumberWidth);
  out << '\n';
  const auto row = [&](std::size_t requests, std::uint64_t bytes, double seconds) {
    out << in_column(std::to_string(requests), kNumberWidth + 2)
        << in_column(size_for_people(bytes), kNumberWidth)
        << in_column(fixed(seconds, 2) + " s", kNumberWidth);
  };
  for (std::size_t i = 0; i < reports.front().pages.size(); ++i) {
    out << label((i > 0 ? "then page " : "page ") +
                 std::to_string(reports.front().pages[i].page + 1));
    for (const LoadingReport& report : reports)
      if (i < report.pages.size())
        row(report.pages[i].fetches.size(), report.pages[i].bytes, report.pages[i].seconds);
      else
        out << in_column("", kWidth);
    out << '\n';
  }
  out << label("the whole file");
  for (const LoadingReport& report : reports) row(1, report.file_bytes, report.whole_seconds);
  out << '\n' << label("found by");
  for (const LoadingReport& report : reports) out << in_column(how(report), kWidth);
  out << '\n';
  for (std::size_t i = 0; i < reports.size(); ++i)
    if (!reports[i].because.empty())
      out << "  " << documents[i].first << ": " << reports[i].because
          << ", so its hint tables are not used\n";
}

// Each request of one document.
void print_ranges(const LoadingReport& report, std::ostream& out) {
  constexpr std::size_t kMostTold = 30;
  for (const lumvet::PageLoading& page : report.pages) {
    out << "  bytes for page " << page.page + 1 << (page.fetches.empty() ? ": none\n" : ":\n");
    for (std::size_t i = 0; i < std::min(kMostTold, page.fetches.size()); ++i) {
      const lumvet::Fetch& fetch = page.fetches[i];
      out << in_column(std::to_string(fetch.offset), 14) << " to " << std::left << std::setw(12)
          << fetch.offset + fetch.length - 1 << in_column(fixed(fetch.begins, 2) + " s", 8)
          << " to " << fixed(fetch.ends, 2) << " s\n";
    }
    if (page.fetches.size() > kMostTold)
      out << "    … and " << page.fetches.size() - kMostTold << " more; --json lists all\n";
  }
}

Json loading_facts(const LoadingReport& report) {
  Json facts{{"round_trip_ms", report.connection.round_trip},
             {"mbit_per_second", report.connection.speed},
             {"by", report.is_by_hints ? "hints" : "cross_references"},
             {"because", report.because},
             {"pages", Json::array()},
             {"file_bytes", report.file_bytes},
             {"whole_seconds", report.whole_seconds}};
  for (const lumvet::PageLoading& page : report.pages) {
    Json fetches = Json::array();
    for (const lumvet::Fetch& fetch : page.fetches)
      fetches.push_back({{"offset", fetch.offset},
                         {"length", fetch.length},
                         {"begins", fetch.begins},
                         {"first_byte", fetch.first_byte},
                         {"ends", fetch.ends}});
    facts["pages"].push_back({{"page", page.page + 1},
                              {"requests", page.fetches.size()},
                              {"bytes", page.bytes},
                              {"seconds", page.seconds},
                              {"fetches", fetches}});
  }
  return facts;
}

lumvet::Status draw(const std::vector<Named>& documents, const Comparison& comparison,
                    const std::vector<LoadingReport>& reports) {
  std::vector<ChartedLoading> charted;
  for (std::size_t i = 0; i < reports.size(); ++i)
    charted.push_back({documents[i].first, reports[i]});
  LUMVET_TRY(const lumvet::Document chart, loading_chart(charted));
  if (comparison.image.ends_with(".pdf")) {
    const auto saved = lumvet::save(chart, comparison.image, {.replace = comparison.replace});
    return saved.ok() ? lumvet::Status(lumvet::Done{}) : saved.error();
  }
  constexpr double kDpi = 110;
  LUMVET_TRY(const lumvet::Page page, chart.page(0));
  LUMVET_TRY(const lumvet::Raster raster, lumvet::render(page, {.dpi = kDpi}));
  return lumvet::write_image(
      raster, comparison.image, {.dpi = kDpi},
      comparison.replace ? lumvet::IfExists::replace : lumvet::IfExists::refuse);
}

}  // namespace

lumvet::Status compare(const std::vector<Named>& documents, const Comparison& comparison,
                       std::ostream& out) {
  if (comparison.sizes) print_sizes(documents, out);
  if (!comparison.wants_loading()) return lumvet::Done{};
  LUMVET_TRY(const std::vector<LoadingReport> reports, load(documents, comparison));
  if (comparison.sizes) out << '\n';
  print_loading(documents, reports, out);
  if (documents.size() == 1) print_ranges(reports.front(), out);
  return comparison.image.empty() ? lumvet::Status(lumvet::Done{})
                                  : draw(documents, comparison, reports);
}

lumvet::Status compare(const std::vector<Named>& documents, const Comparison& comparison,
                       std::vector<Json>& facts) {
  if (comparison.sizes)
    for (std::size_t i = 0; i < documents.size(); ++i)
      facts[i]["sizes"] = size_facts(documents[i].second);
  if (!comparison.wants_loading()) return lumvet::Done{};
  LUMVET_TRY(const std::vector<LoadingReport> reports, load(documents, comparison));
  for (std::size_t i = 0; i < documents.size(); ++i)
    facts[i]["loading"] = loading_facts(reports[i]);
  return comparison.image.empty() ? lumvet::Status(lumvet::Done{})
                                  : draw(documents, comparison, reports);
}

namespace {

CLI::Validator amount(double least) {
  return CLI::Validator(
      [least](std::string& text) -> std::string {
        double value = 0;
        const bool is_number = CLI::detail::lexical_cast(text, value);
        constexpr double kMost = 1e6;
        return is_number && value >= least && value <= kMost
                   ? ""
                   : "'" + text + "' is not a number from " + number(least) + " to 1000000";
      },
      "");
}

}  // namespace

void add_comparison_options(CLI::App& verb, Comparison& comparison) {
  verb.add_flag("--sizes", comparison.sizes,
                "What the bytes are for: fonts, images, content; documents side by side");
  verb.add_flag("--loading", comparison.loading,
                "What a viewer fetches over a connection to show a page; documents side by side");
  verb.add_option("--load-pages", comparison.pages,
                  "Pages shown one after the other; the first and the middle one without")
      ->type_name("PAGES");
  verb.add_option("--round-trip", comparison.round_trip,
                  "From a request to the first byte of its answer")
      ->type_name("MS")
      ->check(amount(0));
  verb.add_option("--bandwidth", comparison.speed, "In Mbit a second")
      ->type_name("MBIT")
      ->check(amount(0.001));
  verb.add_option("--waterfall", comparison.image, "The loading drawn, as PNG or PDF")
      ->type_name("FILE");
}

}  // namespace tool

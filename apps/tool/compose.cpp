// SPDX-License-Identifier: Apache-2.0
// lumvet compose: a document out of a brief or of a text in CommonMark.
#include <algorithm>
#include <cmath>
#include <iostream>
#include <memory>

#include <lumvet/compose/brief.h>
#include <lumvet/render/render.h>
#include <CLI/CLI.hpp>

#include "console.h"
#include "given_files.h"
#include "json.h"
#include "saving.h"
#include "verbs.h"

namespace tool {
namespace {

namespace fs = std::filesystem;

struct ComposeArguments {
  std::string input;
  std::string data;
  std::string style;
  std::string preview;
  bool prints_schema = false;
  bool json = false;
  Saving saving;
};

bool is_named(const std::string& path, std::initializer_list<const char*> endings) {
  std::string lower = path;
  for (char& c : lower) c = static_cast<char>(c >= 'A' && c <= 'Z' ? c - 'A' + 'a' : c);
  return std::any_of(endings.begin(), endings.end(),
                     [&](const char* ending) { return lower.ends_with(ending); });
}

lumvet::Result<lumvet::BriefOptions> brief_options(const ComposeArguments& options) {
  lumvet::BriefOptions brief;
  if (options.input != "-") brief.folder = fs::path(options.input).parent_path();
  if (options.data.empty()) return brief;
  LUMVET_TRY(const std::string data, given_file(options.data, "data file"));
  if (!is_named(options.data, {".csv"})) {
    brief.data = data;
    return brief;
  }
  auto rows = lumvet::data_of_csv(data);
  if (!rows.ok()) return std::move(rows).error().about(options.data);
  brief.data = *std::move(rows);
  return brief;
}

// A text in CommonMark by its name; anything else is a brief.
lumvet::Result<lumvet::Flow> flow_of(const ComposeArguments& options) {
  LUMVET_TRY(const std::string input, given_file(options.input, "brief"));
  LUMVET_TRY(const lumvet::BriefOptions brief, brief_options(options));
  const bool is_text = is_named(options.input, {".md", ".markdown", ".txt"});
  if (!is_text && !options.style.empty())
    return lumvet::Error(lumvet::ErrorCode::invalid_argument,
                         "--style is for texts in CommonMark; a brief has its styles in itself");
  std::string style;
  if (!options.style.empty()) {
    LUMVET_TRY(style, given_file(options.style, "style file"));
  }
  auto flow = is_text ? lumvet::flow_of_commonmark(input, style, brief)
                      : lumvet::flow_of_brief(input, brief);
  if (!flow.ok()) return std::move(flow).error().about(options.input);
  return flow;
}

// All pages side by side on one sheet.
lumvet::Status write_preview(const lumvet::Document& document, const ComposeArguments& options) {
  constexpr double kWide = 300;  // points that a page is wide
  constexpr double kGap = 14;
  constexpr int kMost = 60;
  const int count = std::min(document.page_count(), kMost);
  const int across = std::clamp(static_cast<int>(std::ceil(std::sqrt(count * 1.6))), 1, count);
  const int down = (count + across - 1) / across;
  LUMVET_TRY(const lumvet::Page first, document.page(0));
  const double high = kWide * first.height() / first.width();
  lumvet::Drawing sheet(across * (kWide + kGap) + kGap, down * (high + kGap) + kGap);
  sheet.fill(lumvet::box({0, 0, sheet.width(), sheet.height()}), lumvet::Color::gray(0.85));
  for (int i = 0; i < count; ++i) {
    LUMVET_TRY(const lumvet::Page page, document.page(i));
    const int column = i % across;
    const int row = i / across;
    const lumvet::PageArea area{kGap + column * (kWide + kGap), kGap + row * (high + kGap), kWide,
                                high};
    sheet.fill(lumvet::box(area), lumvet::Color::gray(1));
    sheet.draw(page, area);
  }
  LUMVET_TRY(const lumvet::Document drawn, sheet.as_document());
  LUMVET_TRY(const lumvet::Page page, drawn.page(0));
  LUMVET_TRY(const lumvet::Raster raster,
             lumvet::render(page, {.dpi = 96, .cancel = interruption()}));
  return raster.write_png(options.preview, options.saving.replace ? lumvet::IfExists::replace
                                                                  : lumvet::IfExists::refuse);
}

void print(const ComposeArguments& options, const lumvet::SaveReport& report) {
  if (options.json) {
    print_json({{"file", report.path.string()},
                {"pages", report.pages},
                {"bytes", report.bytes},
                {"findings", findings_json(report.findings)}});
    return;
  }
  std::cout << report.path.string() << "  "
            << count_of(static_cast<std::uint64_t>(report.pages), "page", "pages") << ", "
            << size_for_people(report.bytes) << '\n'
            << std::flush;
}

int run(const ComposeArguments& options) {
  if (options.prints_schema) {
    std::cout << lumvet::brief_schema();
    return kDone;
  }
  if (options.input.empty() || options.saving.output.empty())
    return wrong_usage("compose takes a brief or a text, and -o with the document's name");
  if (const auto free = check_output(options.saving); !free.ok()) return fail(free.error());
  std::error_code ignored;
  if (!options.preview.empty() && !options.saving.replace && fs::exists(options.preview, ignored))
    return fail(lumvet::Error(lumvet::ErrorCode::exists,
                              options.preview + " is already there; nothing was written"));
  const auto flow = flow_of(options);
  if (!flow.ok()) return fail(flow.error());
  const auto report = save_as(
      options.saving,
      [&](lumvet::ByteSink& sink, const lumvet::SaveOptions& how) { return flow->save(sink, how); },
      [&](const fs::path& path, const lumvet::SaveOptions& how) { return flow->save(path, how); });
  if (!report.ok()) return fail(report.error());
  if (!options.preview.empty()) {
    const auto document = flow->as_document();
    const auto drawn =
        document.ok() ? write_preview(*document, options) : lumvet::Status(document.error());
    if (!drawn.ok()) return fail(drawn.error());
  }
  if (options.saving.output == "-") return report_findings(report->findings);
  print(options, *report);
  return options.json ? code_for(report->findings) : report_findings(report->findings);
}

}  // namespace

void add_compose(CLI::App& app, Run& chosen) {
  auto options = std::make_shared<ComposeArguments>();
  CLI::App* verb = app.add_subcommand(
      "compose", "Set a document out of a brief in JSON, or of a text in CommonMark");
  verb->add_option("input", options->input, "A brief, or a text when it is called .md or .txt")
      ->type_name("BRIEF");
  add_saving_options(*verb, options->saving, false);
  verb->add_option("--data", options->data,
                   "What stands for {words} and \"each\" in a brief: JSON, or rows as .csv")
      ->type_name("FILE");
  verb->add_option("--style", options->style,
                   "How a text looks: a brief without blocks, of its own format")
      ->type_name("FILE");
  verb->add_option("--preview", options->preview, "A picture of all pages on one sheet")
      ->type_name("PNG");
  verb->add_flag("--schema", options->prints_schema, "Print the JSON Schema of briefs");
  add_strict_option(*verb);
  verb->add_flag("--json", options->json, "Print what was made for programs");
  verb->footer(
      "Exit codes: 0 done, 1 nothing was written, 2 wrong usage.\n\n"
      "Examples:\n"
      "  lumvet compose costs.json --data costs.csv -o costs.pdf\n"
      "  lumvet compose letter.md --style office.json -o letter.pdf --preview letter.png\n"
      "  lumvet compose --schema > brief.schema.json");
  verb->callback([options, &chosen] { chosen = [options] { return run(*options); }; });
}

}  // namespace tool

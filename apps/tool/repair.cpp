// SPDX-License-Identifier: Apache-2.0
// lumvet repair: a damaged document written anew.
#include <iostream>
#include <memory>
#include <nlohmann/json.hpp>

#include <lumvet/save/repair.h>

#include "console.h"
#include "files.h"
#include "verbs.h"

namespace tool {
namespace {

namespace fs = std::filesystem;
using Json = nlohmann::ordered_json;

struct Options {
  std::string input;
  std::string output;
  std::string layout = "compact";
  bool replace = false;
  bool json = false;
  Secrets secrets;
};

void print(const Options& options, const lumvet::SaveReport& report) {
  if (options.json) {
    Json json{{"file", report.path.string()},
              {"pages", report.pages},
              {"bytes", report.bytes},
              {"findings", Json::array()}};
    for (const lumvet::Finding& finding : report.findings)
      json["findings"].push_back(finding.to_string());
    std::cout << json.dump(2, ' ', false, Json::error_handler_t::replace) << '\n';
    return;
  }
  std::cout << options.output << "  "
            << count_of(static_cast<std::uint64_t>(report.pages), "page", "pages") << ", "
            << size_for_people(report.bytes) << '\n';
  if (report.findings.empty()) {
    std::cout << "  nothing was wrong with " << options.input << '\n';
    return;
  }
  std::cout << "  what was wrong, and what was made of it:\n";
  for (const lumvet::Finding& finding : report.findings)
    std::cout << "    " << finding.to_string() << '\n';
}

int run(const Options& options) {
  std::error_code ignored;
  if (options.output != "-" && !options.replace && fs::exists(options.output, ignored))
    return fail(lumvet::Error(lumvet::ErrorCode::exists,
                              options.output + " is already there; nothing was written"));
  const auto document = open_document(options.input, options.secrets);
  if (!document.ok()) return fail(document.error());
  ProgressLine progress("writing object");
  const lumvet::SaveOptions save{.layout = options.layout == "classic"
                                               ? lumvet::FileLayout::classic
                                               : lumvet::FileLayout::compact,
                                 .replace = options.replace,
                                 .progress = [&progress](std::uint64_t done, std::uint64_t total) {
                                   progress.update(done, total);
                                 }};
  if (options.output == "-") {
    lumvet::BufferSink sink;
    const auto report = lumvet::repair(*document, sink, save);
    if (!report.ok()) return fail(report.error());
    if (const auto written = write_standard_output(sink.bytes()); !written.ok())
      return fail(written.error());
    return report_findings(report->findings);
  }
  const auto report = lumvet::repair(*document, options.output, save);
  if (!report.ok()) return fail(report.error());
  print(options, *report);
  return report->findings.empty() ? kDone : kDoneWithFindings;
}

}  // namespace

void add_repair(CLI::App& app, Run& chosen) {
  auto options = std::make_shared<Options>();
  CLI::App* verb =
      app.add_subcommand("repair", "Write a damaged document anew and tell what was wrong");
  verb->add_option("input", options->input, "The document; - is standard input")
      ->required()
      ->type_name("FILE");
  verb->add_option("-o,--output", options->output, "The new document; - is standard output")
      ->required()
      ->type_name("FILE");
  verb->add_option("--layout", options->layout,
                   "compact (small), or classic for readers older than 2003")
      ->check(CLI::IsMember({"compact", "classic"}))
      ->type_name("LAYOUT");
  verb->add_flag("--replace", options->replace, "Replace the output if it is already there");
  verb->add_flag("--json", options->json, "Print what was found and made for programs");
  add_secret_options(*verb, options->secrets);
  verb->footer(
      "Examples:\n"
      "  lumvet repair cut-off.pdf -o mended.pdf\n"
      "  lumvet repair old.pdf -o mended.pdf --json");
  verb->callback([options, &chosen] { chosen = [options] { return run(*options); }; });
}

}  // namespace tool

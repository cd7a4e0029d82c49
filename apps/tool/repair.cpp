// SPDX-License-Identifier: Apache-2.0
// lumvet repair: a damaged document written anew.
#include <iostream>
#include <memory>
#include <nlohmann/json.hpp>

#include <lumvet/save/repair.h>

#include "console.h"
#include "files.h"
#include "saving.h"
#include "verbs.h"

namespace tool {
namespace {

using Json = nlohmann::ordered_json;

struct Options {
  std::string input;
  bool json = false;
  Saving saving;
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
  std::cout << options.saving.output << "  "
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
  if (const auto free = check_output(options.saving); !free.ok()) return fail(free.error());
  const auto document = open_document(options.input, options.secrets);
  if (!document.ok()) return fail(document.error());
  const auto report = save_as(
      options.saving,
      [&](lumvet::ByteSink& sink, const lumvet::SaveOptions& how) {
        return lumvet::repair(*document, sink, how);
      },
      [&](const std::filesystem::path& path, const lumvet::SaveOptions& how) {
        return lumvet::repair(*document, path, how);
      });
  if (!report.ok()) return fail(report.error());
  if (options.saving.output == "-") return report_findings(report->findings);
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
  add_saving_options(*verb, options->saving);
  verb->add_flag("--json", options->json, "Print what was found and made for programs");
  add_secret_options(*verb, options->secrets);
  verb->footer(
      "Examples:\n"
      "  lumvet repair cut-off.pdf -o mended.pdf\n"
      "  lumvet repair old.pdf -o mended.pdf --json");
  verb->callback([options, &chosen] { chosen = [options] { return run(*options); }; });
}

}  // namespace tool

// SPDX-License-Identifier: Apache-2.0
// lumvet linearize and lumvet protect: documents saved anew, one or many.
#include <iostream>
#include <memory>
#include <nlohmann/json.hpp>

#include "console.h"
#include "files.h"
#include "saving.h"
#include "verbs.h"

namespace tool {
namespace {

namespace fs = std::filesystem;
using Json = nlohmann::ordered_json;

struct Options {
  std::vector<std::string> inputs;
  bool json = false;
  Saving saving;
  Secrets secrets;
};

// What became of one input.
struct Outcome {
  std::string input;
  std::string output;
  std::uint64_t bytes_before = 0;
  lumvet::Result<lumvet::SaveReport> report;
};

Outcome save_one(const Options& options, const std::string& input, const std::string& output) {
  Outcome outcome{input, output, 0, lumvet::Error(lumvet::ErrorCode::io, "")};
  std::error_code ignored;
  Saving saving = options.saving;
  saving.output = output;
  const auto save = [&]() -> lumvet::Result<lumvet::SaveReport> {
    LUMVET_CHECK(check_output(saving));
    if (fs::equivalent(input, output, ignored))
      return lumvet::Error(lumvet::ErrorCode::invalid_argument,
                           input + " is the input; give the new document another name");
    LUMVET_TRY(const lumvet::Document document, open_document(input, options.secrets));
    outcome.bytes_before = document.file_size();
    return save_as(
        saving,
        [&](lumvet::ByteSink& sink, const lumvet::SaveOptions& how) {
          return lumvet::save(document, sink, how);
        },
        [&](const fs::path& path, const lumvet::SaveOptions& how) {
          return lumvet::save(document, path, how);
        });
  };
  outcome.report = save();
  return outcome;
}

Json told(const Outcome& outcome) {
  Json json{{"input", outcome.input}, {"file", outcome.output}};
  if (!outcome.report.ok()) {
    json["error"] = outcome.report.error().to_string();
    return json;
  }
  json["pages"] = outcome.report->pages;
  json["bytes_before"] = outcome.bytes_before;
  json["bytes"] = outcome.report->bytes;
  json["findings"] = Json::array();
  for (const lumvet::Finding& finding : outcome.report->findings)
    json["findings"].push_back(finding.to_string());
  return json;
}

int run(const Options& options) {
  const bool is_folder = options.inputs.size() > 1 || options.saving.output.ends_with('/') ||
                         fs::is_directory(options.saving.output);
  std::error_code failed;
  if (is_folder) fs::create_directories(options.saving.output, failed);
  if (failed)
    return fail(
        lumvet::Error(lumvet::ErrorCode::io,
                      "cannot make the folder " + options.saving.output + ": " + failed.message()));
  int code = kDone;
  Json all = Json::array();
  for (const std::string& input : options.inputs) {
    const std::string output =
        is_folder ? (fs::path(options.saving.output) / fs::path(input).filename()).string()
                  : options.saving.output;
    const Outcome outcome = save_one(options, input, output);
    if (options.json) all.push_back(told(outcome));
    if (!outcome.report.ok()) {
      code = fail(outcome.report.error());
      continue;
    }
    if (!options.json && output != "-")
      std::cout << output << "  "
                << count_of(static_cast<std::uint64_t>(outcome.report->pages), "page", "pages")
                << ", " << size_for_people(outcome.report->bytes) << " (before "
                << size_for_people(outcome.bytes_before) << ")\n"
                << std::flush;
    const int found = report_findings(outcome.report->findings);
    if (code == kDone) code = found;
  }
  if (options.json) std::cout << all.dump(2, ' ', false, Json::error_handler_t::replace) << '\n';
  return code;
}

CLI::App* add_verb(CLI::App& app, Run& chosen, const char* name, const char* what,
                   const std::shared_ptr<Options>& options) {
  CLI::App* verb = app.add_subcommand(name, what);
  verb->add_option("inputs", options->inputs, "Documents; of several the output is a folder")
      ->required()
      ->type_name("FILE…");
  add_saving_options(*verb, options->saving);
  verb->add_flag("--json", options->json, "Print what was written for programs");
  add_secret_options(*verb, options->secrets);
  verb->callback([options, &chosen] { chosen = [options] { return run(*options); }; });
  return verb;
}

}  // namespace

void add_linearize(CLI::App& app, Run& chosen) {
  auto options = std::make_shared<Options>();
  options->saving.layout = "linearized";
  add_verb(app, chosen, "linearize", "Save documents so that their first page shows at once",
           options)
      ->footer(
          "Examples:\n"
          "  lumvet linearize manual.pdf -o web/manual.pdf\n"
          "  lumvet linearize *.pdf -o web/\n"
          "  lumvet linearize old.pdf -o web.pdf --layout linearized-classic   for old viewers");
}

void add_protect(CLI::App& app, Run& chosen) {
  auto options = std::make_shared<Options>();
  CLI::App* verb =
      add_verb(app, chosen, "protect",
               "Lock documents with passwords or certificates, or unlock them", options);
  verb->footer(
      "Examples:\n"
      "  lumvet protect report.pdf -o locked.pdf --open-password-file password.txt\n"
      "  lumvet protect report.pdf -o fixed.pdf --owner-password-file owner.txt --refuse "
      "changing,copying\n"
      "  lumvet protect report.pdf -o for-two.pdf --recipient ida.pem --recipient tobin.pem\n"
      "  lumvet protect locked.pdf -o open.pdf --unprotected --password-file owner.txt");
  verb->callback([options, &chosen] {
    chosen = [options] {
      const Protecting& asked = options->saving.protecting;
      if (!asked.is_asked() && !asked.unprotected)
        return wrong_usage(
            "say how: --open-password-file, --owner-password-file, --refuse, --recipient or "
            "--unprotected");
      return run(*options);
    };
  });
}

}  // namespace tool

// SPDX-License-Identifier: Apache-2.0
// lumvet prolong: what proves the signatures of a document is put into it, and all of it stamped.
#include <iostream>
#include <memory>

#include <lumvet/sign/long_life.h>
#include <CLI/CLI.hpp>

#include "console.h"
#include "files.h"
#include "json.h"
#include "network.h"
#include "saving.h"
#include "trusted.h"
#include "verbs.h"

namespace tool {
namespace {

struct ProlongArguments {
  std::string input;
  Trusting trusting;
  std::string timestamps;
  bool is_online = false;
  std::string output;
  bool replace = false;
  bool json = false;
  Secrets secrets;
};

int run(const ProlongArguments& options) {
  if (options.output == "-" && options.json)
    return wrong_usage("standard output takes the document or the report, not both");
  Saving saving;
  saving.output = options.output;
  saving.replace = options.replace;
  if (const auto free = check_output(saving); !free.ok()) return fail(free.error());
  lumvet::ProlongRequest request;
  const auto trust = trust_of(options.trusting);
  if (!trust.ok()) return fail(trust.error());
  request.trust = *trust;
  if (!options.timestamps.empty()) request.timestamps = timestamps_at(options.timestamps);
  if (options.is_online) request.issuers = issuers_on_network();
  const auto document = open_document(options.input, options.secrets);
  if (!document.ok()) return fail(document.error());
  const auto report = prolong_to(options.output, options.replace, *document, request);
  if (!report.ok()) return fail(report.error());
  if (options.output == "-") return report_findings(report->findings);
  if (options.json) {
    print_json({{"file", options.output},
                {"bytes", report->bytes},
                {"certificates", report->certificates},
                {"lists", report->lists},
                {"responses", report->responses},
                {"timestamp", report->timestamp_field},
                {"findings", findings_json(report->findings)}});
    return code_for(report->findings);
  }
  const auto count = [](int number, const char* one, const char* many) {
    return count_of(static_cast<std::uint64_t>(number), one, many);
  };
  std::cout << options.output << "  " << size_for_people(report->bytes) << ", "
            << count(report->certificates, "certificate", "certificates") << ", "
            << count(report->lists, "revocation list", "revocation lists") << " and "
            << count(report->responses, "response", "responses") << " added"
            << (report->timestamp_field.empty() ? "" : ", stamped as " + report->timestamp_field)
            << '\n';
  return report_findings(report->findings);
}

}  // namespace

void add_prolong(CLI::App& app, Run& chosen) {
  auto options = std::make_shared<ProlongArguments>();
  CLI::App* verb = app.add_subcommand(
      "prolong", "Keep signatures provable when their certificates have expired");
  verb->add_option("input", options->input, "The signed document")->required()->type_name("FILE");
  verb->add_option("--timestamps", options->timestamps,
                   "An authority that stamps all of it (RFC 3161)")
      ->type_name("URL");
  verb->add_flag("--online", options->is_online,
                 "Ask the issuers of certificates what they took back");
  add_trust_options(*verb, options->trusting);
  verb->add_option("-o,--output", options->output, "The new document; - is standard output")
      ->required()
      ->type_name("FILE");
  verb->add_flag("--replace", options->replace, "Replace what is already there");
  verb->add_flag("--json", options->json, "What was added as JSON");
  add_strict_option(*verb);
  add_secret_options(*verb, options->secrets);
  verb->footer(
      "What is added is appended; signatures stay whole. Do it again every few years, before the\n"
      "certificate of the last timestamp expires.\n"
      "Example:\n"
      "  lumvet prolong report-signed.pdf --trust root.pem --online \\\n"
      "    --timestamps http://time.ostrel.example/ -o report-kept.pdf");
  verb->callback([options, &chosen] { chosen = [options] { return run(*options); }; });
}

}  // namespace tool

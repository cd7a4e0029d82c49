// SPDX-License-Identifier: Apache-2.0
#include "saving.h"

#include <iostream>
#include <nlohmann/json.hpp>

#include "files.h"

namespace tool {

void add_form_options(CLI::App& verb, Saving& saving) {
  verb.add_option("--layout", saving.layout,
                  "compact (small); classic, for readers older than 2003; or linearized or "
                  "linearized-classic, whose first page shows at once")
      ->check(CLI::IsMember({"compact", "classic", "linearized", "linearized-classic"}))
      ->type_name("LAYOUT");
  verb.add_flag("--recompress", saving.recompress,
                "Pack what is packed without loss as small as can be; images stay the same");
  verb.add_flag("--replace", saving.replace, "Replace what is already there");
  verb.add_flag("--keep-times", saving.keep_times,
                "What is replaced leaves the times at which it was read and written");
  add_protecting_options(verb, saving.protecting);
}

void add_saving_options(CLI::App& verb, Saving& saving, bool is_required) {
  verb.add_option("-o,--output", saving.output, "The new document; - is standard output")
      ->required(is_required)
      ->type_name("FILE");
  add_form_options(verb, saving);
}

void add_change_options(CLI::App& verb, Saving& saving) {
  verb.add_flag("--dry-run", saving.only_plans, "Print what would be changed, and write nothing");
  verb.add_flag("--append", saving.appends,
                "Leave every byte as it is and put the changes behind, as signed documents need; "
                "with --replace and the document itself as output, into the file");
}

namespace {

lumvet::FileLayout layout_named(const std::string& name) {
  if (name == "classic") return lumvet::FileLayout::classic;
  if (name == "linearized") return lumvet::FileLayout::linearized;
  if (name == "linearized-classic") return lumvet::FileLayout::linearized_classic;
  return lumvet::FileLayout::compact;
}

}  // namespace

lumvet::Result<lumvet::SaveOptions> options_of(const Saving& saving, ProgressLine& progress) {
  lumvet::SaveOptions options{.layout = layout_named(saving.layout),
                              .replace = saving.replace,
                              .keep_times = saving.keep_times,
                              .refuse_findings = is_strict(),
                              .recompress = saving.recompress,
                              .progress = [&progress](std::uint64_t done, std::uint64_t total) {
                                progress.update(done, total);
                              }};
  LUMVET_RETURN_IF_ERROR(protect_as(saving.protecting, options));
  return options;
}

lumvet::Status check_output(const Saving& saving) {
  std::error_code ignored;
  if (saving.output != "-" && !saving.replace && std::filesystem::exists(saving.output, ignored))
    return lumvet::Error(lumvet::ErrorCode::exists,
                         saving.output + " is already there; nothing was written");
  return lumvet::Done{};
}

lumvet::Result<lumvet::SaveReport> save_as(const Saving& saving, const Save& to_sink,
                                           const SaveToFile& to_file) {
  ProgressLine progress("writing object");
  LUMVET_TRY(const lumvet::SaveOptions options, options_of(saving, progress));
  if (saving.output != "-") return to_file(saving.output, options);
  lumvet::BufferSink sink;
  LUMVET_TRY(lumvet::SaveReport report, to_sink(sink, options));
  if (is_strict() && !report.findings.empty())
    return lumvet::Error(lumvet::ErrorCode::malformed,
                         "nothing was written, since something would have to be noted: " +
                             report.findings.front().to_string());
  LUMVET_RETURN_IF_ERROR(StandardOutput().write(sink.bytes()));
  return report;
}

namespace {

lumvet::Result<lumvet::SaveReport> append(lumvet::EditableDocument& changes, const Saving& saving,
                                          const std::string& input) {
  if (saving.protecting.is_asked() || saving.protecting.unprotected)
    return lumvet::Error(lumvet::ErrorCode::invalid_argument,
                         "the protection of what is there cannot be changed by appending to it");
  std::error_code ignored;
  if (std::filesystem::equivalent(input, saving.output, ignored)) return changes.append_to_file();
  return changes.save_appended(saving.output,
                               {.replace = saving.replace, .refuse_findings = is_strict()});
}

int print_plan(lumvet::EditableDocument& changes, const Saving& saving, bool json) {
  const std::vector<std::string> steps = changes.steps();
  if (json) {
    const nlohmann::ordered_json told{
        {"file", saving.output}, {"written", false}, {"steps", steps}};
    std::cout << told.dump(2, ' ', false, nlohmann::ordered_json::error_handler_t::replace) << '\n';
    return kDone;
  }
  for (std::size_t i = 0; i < steps.size(); ++i)
    std::cout << "  " << i + 1 << "  " << steps[i] << '\n';
  std::cout << saving.output << "  " << count_of(steps.size(), "change", "changes")
            << ", nothing was written\n";
  return kDone;
}

}  // namespace

int save_changes(lumvet::EditableDocument& changes, const std::string& input, const Saving& saving,
                 bool json) {
  if (saving.only_plans) return print_plan(changes, saving, json);
  const auto report =
      saving.appends && saving.output != "-"
          ? append(changes, saving, input)
          : save_as(
                saving,
                [&](lumvet::ByteSink& sink, const lumvet::SaveOptions& how) {
                  return changes.save(sink, how);
                },
                [&](const std::filesystem::path& path, const lumvet::SaveOptions& how) {
                  return changes.save(path, how);
                });
  if (!report.ok()) return fail(report.error());
  if (saving.output == "-") return report_findings(report->findings);
  if (json) {
    nlohmann::ordered_json told{
        {"file", saving.output},    {"written", true},
        {"steps", changes.steps()}, {"pages", report->pages},
        {"bytes", report->bytes},   {"findings", nlohmann::ordered_json::array()}};
    for (const lumvet::Finding& finding : report->findings)
      told["findings"].push_back(finding.to_string());
    std::cout << told.dump(2, ' ', false, nlohmann::ordered_json::error_handler_t::replace) << '\n';
    return code_for(report->findings);
  }
  for (const std::string& step : changes.steps()) std::cout << step << '\n';
  std::cout << saving.output << "  " << size_for_people(report->bytes) << '\n' << std::flush;
  return report_findings(report->findings);
}

}  // namespace tool

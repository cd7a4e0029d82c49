// SPDX-License-Identifier: Apache-2.0
#include "saving.h"

#include <iostream>
#include <memory>

#include <CLI/CLI.hpp>

#include "files.h"
#include "json.h"
#include "verbs.h"

namespace tool {

namespace {

const char* const kInOneLine = "; how it is laid out and protected: lumvet help saving";

// Without a group an option is understood, but not in the help.
void show(CLI::Option* option, SavingHelp help) {
  if (help == SavingHelp::in_one_line) option->group("");
}

}  // namespace

void add_form_options(CLI::App& verb, Saving& saving, SavingHelp help) {
  show(verb.add_option("--layout", saving.layout,
                       "compact (small); classic, for readers older than 2003; or linearized or "
                       "linearized-classic, whose first page shows at once")
           ->check(CLI::IsMember({"compact", "classic", "linearized", "linearized-classic"})
                       .description(""))
           ->type_name("LAYOUT"),
       help);
  show(verb.add_flag("--recompress", saving.recompress,
                     "Pack what is packed without loss as small as can be; images stay the same"),
       help);
  verb.add_flag("--replace", saving.replace, "Replace what is already there");
  show(verb.add_flag("--keep-times", saving.keep_times,
                     "What is replaced leaves the times at which it was read and written"),
       help);
  CLI::App* group = add_protecting_options(verb, saving.protecting);
  if (help == SavingHelp::in_one_line) group->group("");
}

void add_saving_options(CLI::App& verb, Saving& saving, bool is_required) {
  verb.add_option("-o,--output", saving.output,
                  std::string("The new document; - is standard output") + kInOneLine)
      ->required(is_required)
      ->type_name("FILE");
  add_form_options(verb, saving);
}

void add_help(CLI::App& app, Run& chosen) {
  CLI::App* verb =
      app.add_subcommand("help", "Explain what several verbs share: lumvet help saving");
  auto topic = std::make_shared<std::string>();
  verb->add_option("topic", *topic, "saving")
      ->required()
      ->check(CLI::IsMember({"saving"}))
      ->type_name("TOPIC");
  verb->callback([topic, &chosen] {
    chosen = [] {
      CLI::App page(
          "What merge, split, arrange, attach, set, linearize, protect and repair share.\n\n"
          "-o is a file, or - for standard output. split takes a folder, and linearize, protect\n"
          "and repair do where they are given several documents or a folder; render takes a file,\n"
          "a folder, or a name with {page}, {label} or {name} in it.\n"
          "Files appear whole or not at all. What is there already is left alone without\n"
          "--replace; a device or a pipe is written to as it is.\n");
      page.name("lumvet VERB");
      page.set_help_flag();
      page.formatter(help_formatter());
      page.option_defaults()->always_capture_default();
      Saving saving;
      add_form_options(page, saving, SavingHelp::in_full);
      std::cout << page.help();
      return kDone;
    };
  });
}

lumvet::Status check_not_input(const std::string& input, const Saving& saving) {
  std::error_code ignored;
  if (saving.output == "-" || saving.appends ||
      !std::filesystem::equivalent(input, saving.output, ignored))
    return lumvet::Done{};
  return lumvet::Error(lumvet::ErrorCode::invalid_argument,
                       input + " is the input; give the new document another name");
}

void add_skip_option(CLI::App& verb, bool& skips) {
  verb.add_flag("--skip-existing", skips,
                "Leave out what is there already, as after a run that was stopped");
}

void add_change_options(CLI::App& verb, Saving& saving, const std::string& plan) {
  verb.add_flag("--dry-run", saving.only_plans, plan);
  verb.add_flag(
      "--append", saving.appends,
      "Leave every byte as it is and put the changes after them, as signed documents need; "
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
  lumvet::SaveOptions options{
      .layout = layout_named(saving.layout),
      .replace = saving.replace,
      .keep_times = saving.keep_times,
      .refuse_findings = is_strict(),
      .recompress = saving.recompress,
      .progress = [&progress](std::uint64_t done,
                              std::uint64_t total) { progress.update(done, total); },
      .cancel = interruption()};
  LUMVET_RETURN_IF_ERROR(protect_as(saving.protecting, options));
  return options;
}

lumvet::Status check_output(const Saving& saving) {
  std::error_code ignored;
  if (saving.output != "-" && !saving.replace && std::filesystem::exists(saving.output, ignored) &&
      !lumvet::is_written_through(saving.output))
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
  if (saving.protecting.is_asked() || saving.protecting.removes)
    return lumvet::Error(lumvet::ErrorCode::invalid_argument,
                         "the protection of what is there cannot be changed by appending to it");
  if (saving.output == "-") {
    StandardOutput out;
    return changes.save_appended(out);
  }
  std::error_code ignored;
  if (std::filesystem::equivalent(input, saving.output, ignored)) return changes.append_to_file();
  return changes.save_appended(saving.output,
                               {.replace = saving.replace, .refuse_findings = is_strict()});
}

int print_plan(lumvet::EditableDocument& changes, const Saving& saving, bool json) {
  const std::vector<std::string> steps = changes.steps();
  if (json) {
    print_json({{"file", saving.output}, {"written", false}, {"steps", steps}});
    return kDone;
  }
  for (std::size_t i = 0; i < steps.size(); ++i)
    std::cout << "  " << i + 1 << "  " << steps[i] << '\n';
  std::cout << saving.output << "  " << count_of(steps.size(), "change", "changes")
            << ", nothing was written\n";
  return kDone;
}

}  // namespace

lumvet::Result<lumvet::SaveReport> save_edited(lumvet::EditableDocument& changes,
                                               const std::string& input, const Saving& saving) {
  if (saving.appends) return append(changes, saving, input);
  return save_as(
      saving,
      [&](lumvet::ByteSink& sink, const lumvet::SaveOptions& how) {
        return changes.save(sink, how);
      },
      [&](const std::filesystem::path& path, const lumvet::SaveOptions& how) {
        return changes.save(path, how);
      });
}

int save_changes(lumvet::EditableDocument& changes, const std::string& input, const Saving& saving,
                 bool json) {
  if (saving.only_plans) return print_plan(changes, saving, json);
  const auto report = save_edited(changes, input, saving);
  if (!report.ok()) return fail(report.error());
  if (saving.output == "-") return report_findings(report->findings);
  if (json) {
    print_json({{"file", saving.output},
                {"written", true},
                {"steps", changes.steps()},
                {"pages", report->pages},
                {"bytes", report->bytes},
                {"findings", findings_json(report->findings)}});
    return code_for(report->findings);
  }
  for (const std::string& step : changes.steps()) std::cout << step << '\n';
  std::cout << saving.output << "  " << size_for_people(report->bytes) << '\n' << std::flush;
  return report_findings(report->findings);
}

}  // namespace tool

// SPDX-License-Identifier: Apache-2.0
#include "batch.h"

#include <algorithm>
#include <chrono>
#include <csignal>
#include <iostream>
#include <map>
#include <optional>
#include <thread>

#include <lumvet/assemble/inputs.h>
#include <CLI/CLI.hpp>

#include "console.h"
#include "files.h"
#include "incoming_folder.h"

namespace tool {
namespace {

namespace fs = std::filesystem;
using Clock = std::chrono::steady_clock;

// What became of one input.
struct Outcome {
  std::string input;
  std::string output;
  double seconds = 0;
  std::optional<lumvet::Document> document;  // if it could be opened
  lumvet::Result<lumvet::SaveReport> report;

  // A disk that is full or a folder that may not be written is no fault of the document.
  bool failed_in_writing() const {
    return document && !report.ok() && report.error().code() == lumvet::ErrorCode::io;
  }
};

class BatchRun {
 public:
  BatchRun(const Batch& batch, const BatchWork& work)
      : batch_(batch), work_(work), secrets_(batch.secrets) {
    secrets_.may_ask = !batch.watches;
  }

  int run() {
    const auto inputs = listed_inputs();
    if (!inputs.ok()) return fail(inputs.error());
    if (const auto made = make_folder(inputs->size() > 1 || has_folder_as_input()); !made.ok())
      return fail(made.error());
    for (const std::string& input : *inputs)
      if (const auto other = check_not_input(input, saving_to(output_for(input))); !other.ok())
        return refuse(other.error());
    if (const auto distinct = check_distinct(*inputs); !distinct.ok())
      return refuse(distinct.error());
    for (const std::string& input : *inputs) {
      if (interruption().is_cancelled()) return kFailed;
      std::error_code ignored;
      if (batch_.saving.skips_existing && fs::exists(output_for(input), ignored)) continue;
      const Outcome outcome = save(input, output_for(input), batch_.saving.replace);
      if (!tell(outcome)) code_ = kFailed;
    }
    if (batch_.json) {
      const bool is_one = batch_.inputs.size() == 1 && !has_folder_as_input() && all_.size() == 1;
      print_json(is_one ? all_[0] : Json(all_));
    }
    return code_;
  }

  // Until a signal comes, or all that is there is done.
  int watch() {
    auto folder = IncomingFolder::open(
        batch_.inputs.front(),
        {.ending = ".pdf",
         .settles_in = std::chrono::milliseconds(static_cast<int>(batch_.settles * 1000)),
         .failed = batch_.failed});
    if (!folder.ok()) return fail(folder.error());
    if (const auto made = make_folder(true); !made.ok()) return fail(made.error());
    std::signal(SIGINT, [](int) { is_stopped_ = 1; });
    std::signal(SIGTERM, [](int) { is_stopped_ = 1; });
    if (!batch_.json && !batch_.once)
      std::cout << "watching " << batch_.inputs.front() << '\n' << std::flush;
    while (is_stopped_ == 0) {
      const auto files = folder->ready();
      if (!files.ok()) return fail(files.error());
      for (const IncomingFile& file : *files) {
        if (is_stopped_ != 0) break;
        if (const auto done = work_on(*folder, file); !done.ok()) return fail(done.error());
      }
      if (batch_.once && files->empty() && !folder->is_waiting()) break;
      const auto pause = std::chrono::milliseconds(
          std::clamp(static_cast<int>(batch_.settles * 1000) / 4, 10, 500));
      if (files->empty()) std::this_thread::sleep_for(pause);
    }
    for (const IncomingFile& file : folder->incomplete())
      std::cerr << "  note: " << file.path.string()
                << ": its end is not there yet, so it was left where it is\n";
    if (!batch_.json)
      std::cout << count_of(saved_, "document", "documents") << " saved, " << failed_
                << " put aside\n";
    return code_;
  }

 private:
  bool has_folder_as_input() const {
    std::error_code ignored;
    return std::any_of(batch_.inputs.begin(), batch_.inputs.end(),
                       [&](const std::string& input) { return fs::is_directory(input, ignored); });
  }

  // With the documents of folders in their places.
  lumvet::Result<std::vector<std::string>> listed_inputs() const {
    std::vector<std::string> inputs;
    for (const std::string& input : batch_.inputs) {
      std::error_code ignored;
      if (!fs::is_directory(input, ignored)) {
        inputs.push_back(input);
        continue;
      }
      LUMVET_TRY(const lumvet::FolderListing inside, lumvet::list_folder(input));
      if (inside.documents.empty())
        return lumvet::Error(lumvet::ErrorCode::invalid_argument,
                             "there is no document in the folder " + input);
      note_unreadable(inside);
      for (const fs::path& path : inside.documents) inputs.push_back(path.string());
    }
    return inputs;
  }

  lumvet::Status make_folder(bool is_needed) {
    std::error_code failed;
    const std::string& output = batch_.saving.output;
    is_folder_ = is_needed || output.ends_with('/') || fs::is_directory(output, failed);
    if (is_folder_) fs::create_directories(output, failed);
    if (is_folder_ && failed)
      return lumvet::Error(lumvet::ErrorCode::io,
                           "cannot make the folder " + output + ": " + failed.message());
    return lumvet::Done{};
  }

  std::string output_for(const std::string& input) const {
    return is_folder_ ? (fs::path(batch_.saving.output) / fs::path(input).filename()).string()
                      : batch_.saving.output;
  }

  // One output for each input: documents of one name in different folders would replace each other.
  lumvet::Status check_distinct(const std::vector<std::string>& inputs) const {
    std::map<std::string, std::string> taken;
    for (const std::string& input : inputs) {
      const auto [other, is_new] = taken.try_emplace(output_for(input), input);
      if (!is_new)
        return lumvet::Error(lumvet::ErrorCode::invalid_argument,
                             other->second + " and " + input + " would both become " +
                                 other->first + "; write them into folders of their own");
    }
    return lumvet::Done{};
  }

  Saving saving_to(const std::string& output) const {
    Saving saving = batch_.saving;
    saving.output = output;
    return saving;
  }

  Outcome save(const std::string& input, const std::string& output, bool replace) const {
    const auto started = Clock::now();
    Outcome outcome{input, output, 0, {}, lumvet::Error(lumvet::ErrorCode::io, "")};
    outcome.report = save_one(outcome, replace);
    outcome.seconds = std::chrono::duration<double>(Clock::now() - started).count();
    return outcome;
  }

  lumvet::Result<lumvet::SaveReport> save_one(Outcome& outcome, bool replace) const {
    Saving saving = saving_to(outcome.output);
    saving.replace = replace;
    LUMVET_RETURN_IF_ERROR(check_output(saving));
    LUMVET_RETURN_IF_ERROR(check_not_input(outcome.input, saving));
    LUMVET_TRY(outcome.document, open_document(outcome.input, secrets_));
    return save_as(
        saving,
        [&](lumvet::ByteSink& sink, const lumvet::SaveOptions& how) {
          return work_.to_sink(*outcome.document, sink, how);
        },
        [&](const fs::path& path, const lumvet::SaveOptions& how) {
          return work_.to_file(*outcome.document, path, how);
        });
  }

  // Of what was begun before a kill, an output is ours and may be replaced.
  lumvet::Status work_on(IncomingFolder& folder, const IncomingFile& file) {
    LUMVET_RETURN_IF_ERROR(folder.begin(file));
    const Outcome outcome = save(file.path.string(), output_for(file.path.string()),
                                 batch_.saving.replace || file.was_begun);
    if (outcome.failed_in_writing()) {
      LUMVET_RETURN_IF_ERROR(folder.leave(file));
      return outcome.report.error();
    }
    if (tell(outcome)) {
      ++saved_;
      return folder.finish(file);
    }
    ++failed_;
    code_ = kFailed;
    LUMVET_TRY(const fs::path place, folder.put_aside(file, sentence_of(outcome.report.error())));
    if (!batch_.json) std::cerr << "  it lies in " << place.string() << " now\n";
    return lumvet::Done{};
  }

  // Whether it was saved.
  bool tell(const Outcome& outcome) {
    if (batch_.json) {
      Json facts = facts_of(outcome);
      if (batch_.watches)
        print_json_line(facts);  // a line for each
      else
        all_.push_back(std::move(facts));
    }
    if (!outcome.report.ok()) {
      fail(outcome.report.error());
      return false;
    }
    const std::vector<lumvet::Finding>& findings = outcome.report->findings;
    const bool is_printed = !batch_.json && outcome.output != "-";
    if (is_printed) print_line(outcome);
    if (is_printed && work_.tells_damage)
      print_damage(outcome);
    else
      report_findings(findings);
    if (code_ == kDone) code_ = code_for(findings);
    if (is_printed && batch_.comparison.is_asked()) {
      const auto compared = compare_with_input(outcome, nullptr);
      if (!compared.ok()) code_ = fail(compared.error());
    }
    return true;
  }

  void print_line(const Outcome& outcome) const {
    std::cout << outcome.output << "  "
              << count_of(static_cast<std::uint64_t>(outcome.report->pages), "page", "pages")
              << ", " << size_for_people(outcome.report->bytes) << " (before "
              << size_for_people(outcome.document->file_size()) << ")";
    if (batch_.watches) {
      constexpr double kMilli = 1000;
      std::cout << ", " << static_cast<int>(outcome.seconds * kMilli) << " ms";
    }
    std::cout << '\n' << std::flush;
  }

  static void print_damage(const Outcome& outcome) {
    if (outcome.report->findings.empty()) {
      std::cout << "  nothing was wrong with " << outcome.input << '\n';
      return;
    }
    std::cout << "  what was wrong, and what was made of it:\n";
    for (const lumvet::Finding& finding : outcome.report->findings)
      std::cout << "    " << finding.to_string() << '\n';
  }

  Json facts_of(const Outcome& outcome) {
    Json facts{{"input", outcome.input}, {"file", outcome.output}};
    if (!outcome.report.ok()) {
      facts["error"] = outcome.report.error().to_string();
      return facts;
    }
    facts["pages"] = outcome.report->pages;
    facts["bytes_before"] = outcome.document->file_size();
    facts["bytes"] = outcome.report->bytes;
    facts["seconds"] = outcome.seconds;
    facts["findings"] = findings_json(outcome.report->findings);
    if (batch_.comparison.is_asked()) {
      const auto compared = compare_with_input(outcome, &facts);
      if (!compared.ok()) facts["error"] = compared.error().to_string();
    }
    return facts;
  }

  // Prints both side by side, or sets "before" and "after" in the facts.
  lumvet::Status compare_with_input(const Outcome& outcome, Json* facts) const {
    LUMVET_TRY(const lumvet::Document after, open_document(outcome.output, secrets_));
    const std::vector<Named> both = {{outcome.input, *outcome.document}, {outcome.output, after}};
    Comparison comparison = batch_.comparison;
    comparison.replace = batch_.saving.replace;
    if (facts == nullptr) {
      std::cout << '\n';
      return compare(both, comparison, std::cout);
    }
    std::vector<Json> sides(2);
    LUMVET_RETURN_IF_ERROR(compare(both, comparison, sides));
    (*facts)["before"] = sides[0];
    (*facts)["after"] = sides[1];
    return lumvet::Done{};
  }

  static inline volatile std::sig_atomic_t is_stopped_ = 0;

  const Batch& batch_;
  const BatchWork& work_;
  Secrets secrets_;
  bool is_folder_ = false;
  int code_ = kDone;
  std::uint64_t saved_ = 0;
  std::uint64_t failed_ = 0;
  std::vector<Json> all_;
};

// Empty when the options go together, or what to say.
std::string conflict_in(const Batch& batch) {
  std::error_code ignored;
  const bool is_folder = batch.inputs.size() == 1 && fs::is_directory(batch.inputs[0], ignored);
  if (batch.watches && !is_folder) return "--watch takes one folder";
  if (!batch.watches && (batch.once || !batch.failed.empty()))
    return "--once and --failed-folder go with --watch";
  if (batch.comparison.is_asked() && batch.saving.output == "-")
    return "standard output cannot be compared with the input";
  if (!batch.comparison.image.empty() && (batch.inputs.size() > 1 || is_folder))
    return "--waterfall draws one document";
  if (batch.watches && fs::equivalent(batch.inputs[0], batch.saving.output, ignored))
    return "the folder that is watched cannot be the output";
  return {};
}

}  // namespace

void add_batch_options(CLI::App& verb, Batch& batch) {
  verb.add_option("inputs", batch.inputs,
                  "Documents, or a folder of them; of several the output is a folder")
      ->required()
      ->type_name("FILE…");
  add_saving_options(verb, batch.saving);
  add_skip_option(verb, batch.saving.skips_existing);
  add_strict_option(verb);
  verb.add_flag("--json", batch.json, "Print what was written for programs");
  verb.add_flag("--watch", batch.watches,
                "Work on documents as they arrive in a folder, each once, until stopped");
  verb.add_flag("--once", batch.once, "With --watch: end when all that is there is done");
  verb.add_option("--settled-after", batch.settles,
                  "With --watch: seconds for which a file must not change")
      ->type_name("S")
      ->check(CLI::Range(0.0, 3600.0).description(""));
  verb.add_option("--failed-folder", batch.failed,
                  "With --watch: where what fails is moved, with the reason beside it; the "
                  "folder 'failed' within without")
      ->type_name("FOLDER");
  add_secret_options(verb, batch.secrets);
}

int run_batch(const Batch& batch, const BatchWork& work) {
  if (const std::string conflict = conflict_in(batch); !conflict.empty())
    return wrong_usage(conflict);
  BatchRun run(batch, work);
  return batch.watches ? run.watch() : run.run();
}

}  // namespace tool

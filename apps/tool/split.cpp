// SPDX-License-Identifier: Apache-2.0
// lumvet split: one document cut into several.
#include <iostream>
#include <memory>

#include <lumvet/assemble/split.h>
#include <lumvet/render/blank_page.h>
#include <lumvet/text/page_words.h>
#include <lumvet/text/text_pattern.h>
#include <CLI/CLI.hpp>

#include "carrying.h"
#include "console.h"
#include "files.h"
#include "json.h"
#include "page_list.h"
#include "saving.h"
#include "verbs.h"

namespace tool {
namespace {

struct SplitArguments {
  std::string input;
  std::string folder;
  std::string names = "{name}-{part}";
  int every = 0;
  std::string before;
  int outline = 0;
  bool odd_even = false;
  std::string at_most;
  bool at_blank_sheets = false;
  std::string at_text;
  Carrying carrying;
  bool with_attachments = false;
  Saving saving;
  bool only_plans = false;
  bool json = false;
  Secrets secrets;
};

// "5MB", "800 kB", "20000": bytes.
lumvet::Result<std::uint64_t> size_of(const std::string& text) {
  std::size_t at = 0;
  double number = 0;
  try {
    number = std::stod(text, &at);
  } catch (const std::exception&) {
    number = 0;
  }
  const std::string unit = text.substr(std::min(text.find_first_not_of(' ', at), text.size()));
  constexpr double kThousand = 1000;
  const double factor = unit.empty() || unit == "B"    ? 1
                        : unit == "kB" || unit == "KB" ? kThousand
                        : unit == "MB"                 ? kThousand * kThousand
                        : unit == "GB"                 ? kThousand * kThousand * kThousand
                                                       : 0;
  if (!(number > 0) || factor == 0)
    return lumvet::Error(lumvet::ErrorCode::invalid_argument,
                         "'" + text + "' is not a size; write for example 5MB or 800kB");
  return static_cast<std::uint64_t>(number * factor);
}

lumvet::Result<lumvet::SplitRule> rule_of(const SplitArguments& options,
                                          const lumvet::Document& document) {
  if (options.every > 0) return lumvet::SplitRule::every(options.every);
  if (options.outline > 0) return lumvet::SplitRule::at_outline(options.outline);
  if (options.odd_even) return lumvet::SplitRule::odd_and_even();
  if (!options.before.empty()) {
    LUMVET_TRY(const lumvet::PageSelection pages, lumvet::PageSelection::parse(options.before));
    LUMVET_TRY(std::vector<int> indices, pages.in(document.page_count()));
    return lumvet::SplitRule::before(std::move(indices));
  }
  if (!options.at_most.empty()) {
    LUMVET_TRY(const std::uint64_t bytes, size_of(options.at_most));
    return lumvet::SplitRule::at_most(bytes);
  }
  if (!options.at_text.empty()) {
    LUMVET_TRY(const lumvet::TextPattern pattern, lumvet::TextPattern::parse(options.at_text));
    return lumvet::SplitRule::before_those(
        [pattern](const lumvet::Page& page) -> lumvet::Result<bool> {
          LUMVET_TRY(const std::string text, lumvet::text_of(page));
          return pattern.is_in(text);
        });
  }
  return lumvet::SplitRule::at_separators(
      [](const lumvet::Page& page) { return lumvet::is_blank(page); });
}

void print(const SplitArguments& options, const std::vector<lumvet::SplitPart>& parts,
           const std::vector<std::filesystem::path>& paths,
           const std::vector<lumvet::SaveReport>& reports) {
  if (options.json) {
    Json json{{"written", !options.only_plans}, {"parts", Json::array()}};
    for (std::size_t i = 0; i < parts.size(); ++i) {
      Json part{{"file", paths[i].string()}, {"pages", Json::array()}, {"title", parts[i].title}};
      for (const int page : parts[i].pages) part["pages"].push_back(page + 1);
      if (i < reports.size()) {
        part["bytes"] = reports[i].bytes;
        part["findings"] = findings_json(reports[i].findings);
      }
      json["parts"].push_back(std::move(part));
    }
    print_json(json);
    return;
  }
  std::size_t widest = 0;
  for (const lumvet::SplitPart& part : parts)
    widest = std::max(widest, pages_for_people(part.pages).size());
  for (std::size_t i = 0; i < parts.size(); ++i) {
    std::string pages = pages_for_people(parts[i].pages);
    pages.resize(widest, ' ');
    std::cout << "  " << pages << "  " << paths[i].string();
    if (i < reports.size()) std::cout << "  " << size_for_people(reports[i].bytes);
    std::cout << '\n';
  }
  std::cout << count_of(parts.size(), "document", "documents")
            << (options.only_plans ? ", nothing was written" : "") << '\n';
}

// A page by itself may need more than was asked for.
void note_larger_parts(const SplitArguments& options,
                       const std::vector<std::filesystem::path>& paths,
                       const std::vector<lumvet::SaveReport>& reports) {
  if (options.at_most.empty()) return;
  const std::uint64_t most = size_of(options.at_most).value();
  for (std::size_t i = 0; i < reports.size(); ++i)
    if (reports[i].bytes > most)
      std::cerr << "  note: " << paths[i].string() << " has " << size_for_people(reports[i].bytes)
                << ", more than " << options.at_most << '\n';
}

int run(const SplitArguments& options) {
  const auto document = open_document(options.input, options.secrets);
  if (!document.ok()) return fail(document.error());
  if (const auto good = check_undamaged(*document); is_strict() && !good.ok())
    return fail(good.error());
  const auto rule = rule_of(options, *document);
  if (!rule.ok()) return refuse(rule.error());
  ProgressLine progress("writing document");
  const auto save = options_of(options.saving, progress);
  if (!save.ok()) return refuse(save.error());
  lumvet::SplitOptions how{.folder = options.folder,
                           .names = options.names,
                           .carry = carry_of(options.carrying),
                           .save = *save};
  how.carry.attachments = options.with_attachments;
  const auto parts = rule->parts_of(*document, how);
  if (!parts.ok()) return refuse(parts.error());
  const auto paths = lumvet::split_names(*document, *parts, how);
  if (!paths.ok()) return refuse(paths.error());
  std::vector<lumvet::SaveReport> reports;
  if (!options.only_plans) {
    auto made = lumvet::split(*document, *parts, how);
    if (!made.ok()) return fail(made.error());
    reports = *std::move(made);
  }
  print(options, *parts, *paths, reports);
  note_larger_parts(options, *paths, reports);
  // What every part leaves behind, since it is in another one, is no news.
  std::cout << std::flush;
  return report_findings(document->findings());
}

}  // namespace

void add_split(CLI::App& app, Run& chosen) {
  auto options = std::make_shared<SplitArguments>();
  CLI::App* verb = app.add_subcommand("split", "Cut a document into several");
  verb->add_option("input", options->input, "The document")->required()->type_name("FILE");
  verb->add_option("-o,--output", options->folder,
                   "The folder for the new documents; how they are laid out and protected: lumvet "
                   "help saving")
      ->required()
      ->type_name("FOLDER");
  CLI::Option_group* rule = verb->add_option_group("where", "Where to cut, one of");
  rule->add_option("--every", options->every, "So many pages in each")
      ->check(positive_number())
      ->type_name("N");
  rule->add_option("--before", options->before, "A new document begins at each of these pages")
      ->type_name("PAGES");
  rule->add_option("--outline", options->outline,
                   "At entries of the outline down to this level, 1 for chapters")
      ->check(positive_number())
      ->type_name("LEVEL");
  rule->add_flag("--odd-even", options->odd_even, "Odd pages in one, even pages in another");
  rule->add_option("--at-most", options->at_most, "As many pages as fit into a file of this size")
      ->type_name("SIZE");
  rule->add_option("--at-text", options->at_text,
                   "Before each page that says this: a regular expression, in either case")
      ->type_name("PATTERN");
  rule->add_flag("--blank-sheets", options->at_blank_sheets,
                 "At sheets that show nothing, which are left out");
  rule->require_option(1);
  verb->add_option("--names", options->names,
                   "How files are called: {name}, {part}, {label} and {title} are filled in")
      ->type_name("PATTERN");
  add_carrying_options(*verb, options->carrying);
  verb->add_flag("--with-attachments", options->with_attachments,
                 "Every part gets the document's attachments");
  add_form_options(*verb, options->saving);
  verb->add_flag("--dry-run", options->only_plans, "Print what would be made, and write nothing");
  add_strict_option(*verb);
  verb->add_flag("--json", options->json, "Print what was made for programs");
  add_secret_options(*verb, options->secrets);
  verb->footer(
      "Examples:\n"
      "  lumvet split manual.pdf -o chapters/ --outline 1 --names '{part} {title}'\n"
      "  lumvet split book.pdf -o mail/ --at-most 5MB --dry-run\n"
      "  lumvet split scans.pdf -o letters/ --blank-sheets\n"
      "  lumvet split bills.pdf -o bills/ --at-text 'bill no\\. [0-9]+'\n"
      "  lumvet split book.pdf -o parts/ --before 5,9,2last");
  verb->callback([options, &chosen] { chosen = [options] { return run(*options); }; });
}

}  // namespace tool

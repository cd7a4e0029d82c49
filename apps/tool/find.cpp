// SPDX-License-Identifier: Apache-2.0
// lumvet find: where documents say something.
#include <unistd.h>

#include <iostream>
#include <memory>

#include <lumvet/text/text_search.h>
#include <CLI/CLI.hpp>

#include "console.h"
#include "files.h"
#include "json.h"
#include "verbs.h"

namespace tool {
namespace {

namespace fs = std::filesystem;

struct Options {
  std::string text;
  std::vector<std::string> inputs;
  lumvet::SearchOptions search;
  bool json = false;
  Secrets secrets;
};

// Documents that could not be looked through are told, and the others are.
struct Outcome {
  std::size_t hits = 0;
  bool has_failed = false;
};

std::vector<std::string> files_of(const std::vector<std::string>& inputs, Outcome& outcome) {
  std::vector<std::string> files;
  for (const std::string& input : inputs) {
    std::error_code ignored;
    if (input == "-" || !fs::is_directory(input, ignored)) {
      files.push_back(input);
      continue;
    }
    const auto listing = lumvet::list_folder(input);
    if (!listing.ok()) {
      fail(listing.error());
      outcome.has_failed = true;
      continue;
    }
    outcome.has_failed |= note_unreadable(*listing) > 0;
    for (const fs::path& path : listing->documents) files.push_back(path.string());
  }
  return files;
}

void print_hit(const Options& options, const lumvet::Document& document, int page,
               const lumvet::PageWords& words, const lumvet::TextHit& hit) {
  const lumvet::Snippet snippet = lumvet::snippet_around(words.text(), hit);
  if (options.json) {
    Json quads = Json::array();
    for (const lumvet::Quad& quad : words.quads(hit.begin, hit.end)) {
      Json corners = Json::array();
      for (const lumvet::Point corner : quad) corners.push_back({corner.x, corner.y});
      quads.push_back(std::move(corners));
    }
    print_json_line({{"file", document.name()},
                     {"page", page + 1},
                     {"before", snippet.before},
                     {"hit", snippet.hit},
                     {"after", snippet.after},
                     {"quads", std::move(quads)}});
    return;
  }
  static const bool is_terminal = ::isatty(STDOUT_FILENO) != 0;
  const char* const mark = is_terminal ? "\x1B[1;7m" : "";
  const char* const unmark = is_terminal ? "\x1B[0m" : "";
  std::cout << document.name() << ", page " << page + 1 << ": " << snippet.before << mark
            << snippet.hit << unmark << snippet.after << '\n';
}

lumvet::Status look_through(const Options& options, const lumvet::TextSearch& search,
                            const lumvet::Document& document, Outcome& outcome) {
  ProgressLine progress("looking at page");
  for (int index = 0; index < document.page_count(); ++index) {
    progress.update(static_cast<std::uint64_t>(index) + 1,
                    static_cast<std::uint64_t>(document.page_count()));
    LUMVET_TRY(const lumvet::Page page, document.page(index));
    LUMVET_TRY(const lumvet::PageWords words,
               lumvet::PageWords::of(page, {.cancel = interruption()}));
    LUMVET_TRY(const std::vector<lumvet::TextHit> hits, search.in(words));
    for (const lumvet::TextHit& hit : hits) print_hit(options, document, index, words, hit);
    outcome.hits += hits.size();
  }
  return lumvet::Done{};
}

int run(const Options& options) {
  const auto search = lumvet::TextSearch::of(options.text, options.search);
  if (!search.ok()) return wrong_usage(search.error().message());
  Outcome outcome;
  for (const std::string& file : files_of(options.inputs, outcome)) {
    const auto document = open_document(file, options.secrets);
    const lumvet::Status looked =
        document.ok() ? look_through(options, *search, *document, outcome) : document.error();
    if (looked.ok()) continue;
    fail(lumvet::Error(looked.error()));
    outcome.has_failed = true;
    if (interruption().is_cancelled()) break;
  }
  return outcome.hits > 0 && !outcome.has_failed ? kDone : kFailed;
}

}  // namespace

void add_find(CLI::App& app, Run& chosen) {
  auto options = std::make_shared<Options>();
  CLI::App* verb = app.add_subcommand("find", "Look for words in documents");
  verb->add_option("text", options->text, "What is looked for")->required()->type_name("TEXT");
  verb->add_option("inputs", options->inputs, "Documents, or folders of documents")
      ->required()
      ->type_name("FILE");
  verb->add_flag("--match-case", options->search.match_case, "Capitals are not small letters");
  verb->add_flag("--match-accents", options->search.match_accents, "é is not e");
  verb->add_flag("--whole-words", options->search.whole_words, "Not within longer words");
  verb->add_flag("--pattern", options->search.is_pattern, "TEXT is a regular expression");
  verb->add_flag("--json", options->json, "A line of JSON for each hit, with its place");
  add_secret_options(*verb, options->secrets);
  verb->footer(
      "Line ends, hyphens at them and widths of characters make no difference.\n"
      "Exit codes: 0 something was found, 1 nothing was, or a document could not be read; 2 wrong "
      "usage.\n\n"
      "Examples:\n"
      "  lumvet find 'swing bridge' report.pdf\n"
      "  lumvet find costs reports/ --whole-words\n"
      "  lumvet find 'bill no\\. [0-9]+' bills.pdf --pattern --json");
  verb->callback([options, &chosen] { chosen = [options] { return run(*options); }; });
}

}  // namespace tool

// SPDX-License-Identifier: Apache-2.0
// lumvet find: where documents say something.
#include <unistd.h>

#include <algorithm>
#include <iostream>
#include <map>
#include <memory>

#include <lumvet/render/highlight.h>
#include <lumvet/text/document_search.h>
#include <CLI/CLI.hpp>

#include "console.h"
#include "files.h"
#include "json.h"
#include "printable.h"
#include "verbs.h"

namespace tool {
namespace {

namespace fs = std::filesystem;

struct Options {
  std::string text;
  std::vector<std::string> inputs;
  lumvet::SearchOptions search;
  std::string pictures;  // the folder that they go to; none when empty
  bool json = false;
  Secrets secrets;
};

// What cannot be read is told, and passed over.
std::vector<std::string> files_of(const std::vector<std::string>& inputs) {
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
      continue;
    }
    note_unreadable(*listing);
    for (const fs::path& path : listing->documents) files.push_back(path.string());
  }
  return files;
}

void print_hit(const Options& options, const lumvet::Document& document, int page,
               const lumvet::PageWords& words, const lumvet::TextSpan& hit) {
  const lumvet::Snippet snippet = lumvet::snippet_around(words.text(), hit);
  if (options.json) {
    Json quads = Json::array();
    for (const lumvet::Quad& quad : words.quads(hit.begin, hit.end))
      quads.push_back(quad_json(quad));
    print_json_line({{"file", document.name()},
                     {"page", page + 1},
                     {"before", snippet.before},
                     {"hit", snippet.hit},
                     {"after", snippet.after},
                     {"quads", std::move(quads)}});
    return;
  }
  static const bool kIsTerminal = ::isatty(STDOUT_FILENO) != 0;
  // The tool's own signs go past what keeps those of documents from a terminal.
  const auto sign = [](const char* text) {
    if (!kIsTerminal) return;
    std::cout.flush();
    raw_output() << text << std::flush;
  };
  std::cout << document.name() << ", page " << page + 1 << ": " << snippet.before;
  sign("\x1B[1;7m");
  std::cout << snippet.hit;
  sign("\x1B[0m");
  std::cout << snippet.after << '\n';
}

// Where the pictures of documents go, whose names may be alike.
class Pictures {
 public:
  explicit Pictures(std::string folder) : folder_(std::move(folder)) {}

  bool are_wanted() const { return !folder_.empty(); }
  void begin(const lumvet::Document& document) {
    stem_ = fs::path(document.name()).stem().string();
    const int times = ++taken_[stem_];
    if (times > 1) stem_ += " (" + std::to_string(times) + ")";
  }
  // The page, with what was found as if marked with a pen.
  lumvet::Status draw(const lumvet::Document& document, const lumvet::PageHits& found) const {
    constexpr double kDpi = 110;
    constexpr double kPointsPerInch = 72;
    LUMVET_TRY(const lumvet::Page page, document.page(found.page));
    LUMVET_TRY(lumvet::Raster sheet, lumvet::render(page, {.dpi = kDpi, .cancel = interruption()}));
    std::vector<lumvet::Quad> quads;
    for (const lumvet::TextSpan& hit : found.hits) {
      const auto own = found.words.quads(hit.begin, hit.end);
      quads.insert(quads.end(), own.begin(), own.end());
    }
    LUMVET_RETURN_IF_ERROR(lumvet::highlight(sheet, quads, {.scale = kDpi / kPointsPerInch}));
    std::error_code ignored;
    fs::create_directories(folder_, ignored);
    return sheet.write_png(fs::path(folder_) /
                           (stem_ + "-" + std::to_string(found.page + 1) + ".png"));
  }

 private:
  std::string folder_;
  std::string stem_;  // of the names of a document's pictures
  std::map<std::string, int> taken_;
};

// Pages that cannot be read are told, and the rest is looked through.
lumvet::Status look_through(const Options& options, const lumvet::TextSearch& search,
                            const lumvet::Document& document, Pictures& pictures,
                            std::size_t& hits) {
  ProgressLine progress("looking at page");
  pictures.begin(document);
  lumvet::DocumentSearch looking(
      {document}, search,
      {.progress = [&](std::uint64_t done, std::uint64_t total) { progress.update(done, total); },
       .cancel = interruption()});
  const lumvet::Status looked =
      looking.go_on([&](const lumvet::DocumentHits& found) -> lumvet::Status {
        for (const lumvet::TextSpan& hit : found.page.hits)
          print_hit(options, document, found.page.page, found.page.words, hit);
        return pictures.are_wanted() ? pictures.draw(document, found.page) : lumvet::Done{};
      });
  hits += looking.hit_count();
  for (const lumvet::UnreadPage& page : looking.unread()) fail(page.error);
  return looked;
}

int run(const Options& options) {
  const auto search = lumvet::TextSearch::of(options.text, options.search);
  if (!search.ok()) return wrong_usage(search.error().message());
  std::size_t hits = 0;
  Pictures pictures(options.pictures);
  for (const std::string& file : files_of(options.inputs)) {
    const auto document = open_document(file, options.secrets);
    const lumvet::Status looked = document.ok()
                                      ? look_through(options, *search, *document, pictures, hits)
                                      : document.error();
    if (looked.ok()) continue;
    fail(looked.error());
    if (interruption().is_cancelled()) break;
  }
  return hits > 0 ? kDone : kFailed;
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
  verb->add_option("--pictures", options->pictures,
                   "A folder, for the pages on which something is found, with that marked")
      ->type_name("FOLDER");
  verb->add_flag("--json", options->json, "A line of JSON for each hit, with its place");
  add_secret_options(*verb, options->secrets);
  verb->footer(
      "Line ends, hyphens at them and widths of characters make no difference.\n"
      "What cannot be read is told, and the rest is looked through.\n"
      "Exit codes: 0 something was found, 1 nothing was, 2 wrong usage.\n\n"
      "Examples:\n"
      "  lumvet find 'swing bridge' report.pdf\n"
      "  lumvet find costs reports/ --whole-words --pictures found/\n"
      "  lumvet find 'bill no\\. [0-9]+' bills.pdf --pattern --json");
  verb->callback([options, &chosen] { chosen = [options] { return run(*options); }; });
}

}  // namespace tool

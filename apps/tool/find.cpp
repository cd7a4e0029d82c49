// SPDX-License-Identifier: Apache-2.0
// lumvet find: where documents say something.
#include <unistd.h>

#include <algorithm>
#include <iostream>
#include <map>
#include <memory>
#include <optional>
#include <utility>

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

struct FindArguments {
  std::string text;
  std::vector<std::string> inputs;
  lumvet::SearchOptions search;
  std::string without;
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

Json quads_json(const lumvet::PageWords& words, const lumvet::TextSpan& span) {
  Json quads = Json::array();
  for (const lumvet::Quad& quad : words.quads(span.begin, span.end))
    quads.push_back(quad_json(quad));
  return quads;
}

void print_hit_json(const lumvet::Document& document, const lumvet::PageHits& found,
                    const lumvet::TextSpan& here, const lumvet::TextSpan* next,
                    const lumvet::Snippet& snippet) {
  Json line = {{"file", document.name()},  {"page", found.page + 1},
               {"before", snippet.before}, {"hit", snippet.hit},
               {"after", snippet.after},   {"quads", quads_json(found.words, here)}};
  if (next != nullptr)
    line["next"] = {{"page", found.page + 2}, {"quads", quads_json(*found.next, *next)}};
  print_json_line(line);
}

void print_hit_line(const lumvet::Document& document, const std::string& pages,
                    const lumvet::Snippet& snippet) {
  static const bool kIsTerminal = ::isatty(STDOUT_FILENO) != 0;
  // The tool's own signs go past what keeps those of documents from a terminal.
  const auto sign = [](const char* text) {
    if (!kIsTerminal) return;
    std::cout.flush();
    raw_output() << text << std::flush;
  };
  std::cout << document.name() << ", " << pages << ": " << snippet.before;
  sign("\x1B[1;7m");
  std::cout << snippet.hit;
  sign("\x1B[0m");
  std::cout << snippet.after << '\n';
}

// Hits on the page, and those that go on onto the next, in the order of the text: none begins
// behind the first of those.
void print_hits(const FindArguments& options, const lumvet::Document& document,
                const lumvet::PageHits& found) {
  const std::string& text = found.words.text();
  const std::string page = "page " + std::to_string(found.page + 1);
  for (const lumvet::TextSpan& hit : found.hits) {
    const lumvet::Snippet snippet = lumvet::snippet_around(found.words, hit);
    if (options.json)
      print_hit_json(document, found, hit, nullptr, snippet);
    else
      print_hit_line(document, page, snippet);
  }
  for (const lumvet::HitAcross& hit : found.across) {
    const lumvet::Snippet snippet = lumvet::snippet_across(text, found.next->text(), hit);
    if (options.json)
      print_hit_json(document, found, hit.here, &hit.next, snippet);
    else
      print_hit_line(
          document,
          "pages " + std::to_string(found.page + 1) + " and " + std::to_string(found.page + 2),
          snippet);
  }
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
    begun_.reset();
  }
  // The page, with what was found as if marked with a pen; what goes on onto the next page is
  // marked there as well.
  lumvet::Status draw(const lumvet::Document& document, const lumvet::PageHits& found) {
    std::vector<lumvet::Quad> quads;
    const auto mark = [&](const lumvet::PageWords& words, const lumvet::TextSpan& span) {
      const auto own = words.quads(span.begin, span.end);
      quads.insert(quads.end(), own.begin(), own.end());
    };
    for (const lumvet::TextSpan& hit : found.hits) mark(found.words, hit);
    for (const lumvet::HitAcross& hit : found.across) mark(found.words, hit.here);
    if (begun_ && begun_->page == found.page) {
      quads.insert(quads.end(), begun_->quads.begin(), begun_->quads.end());
      begun_.reset();
    }
    LUMVET_RETURN_IF_ERROR(end(document));
    LUMVET_RETURN_IF_ERROR(draw(document, found.page, quads));
    if (found.across.empty()) return lumvet::Done{};
    quads.clear();
    for (const lumvet::HitAcross& hit : found.across) mark(*found.next, hit.next);
    begun_ = {found.page + 1, std::move(quads)};
    return lumvet::Done{};
  }
  // The last page, when something only goes on onto it.
  lumvet::Status end(const lumvet::Document& document) {
    if (!begun_) return lumvet::Done{};
    const Begun last = *std::exchange(begun_, std::nullopt);
    return draw(document, last.page, last.quads);
  }

 private:
  struct Begun {
    int page = 0;
    std::vector<lumvet::Quad> quads;
  };

  lumvet::Status draw(const lumvet::Document& document, int number,
                      const std::vector<lumvet::Quad>& quads) const {
    constexpr double kDpi = 110;
    constexpr double kPointsPerInch = 72;
    LUMVET_TRY(const lumvet::Page page, document.page(number));
    LUMVET_TRY(lumvet::Raster sheet, lumvet::render(page, {.dpi = kDpi, .cancel = interruption()}));
    LUMVET_RETURN_IF_ERROR(lumvet::highlight(sheet, quads, {.scale = kDpi / kPointsPerInch}));
    std::error_code ignored;
    fs::create_directories(folder_, ignored);
    return sheet.write_png(fs::path(folder_) / (stem_ + "-" + std::to_string(number + 1) + ".png"));
  }

  std::string folder_;
  std::string stem_;  // of the names of a document's pictures
  std::map<std::string, int> taken_;
  std::optional<Begun> begun_;  // marks of what goes on onto a page that is not drawn yet
};

// Pages that cannot be read are told, and the rest is looked through.
lumvet::Status look_through(const FindArguments& options, const lumvet::TextSearch& search,
                            const lumvet::Document& document, Pictures& pictures,
                            std::size_t& hits) {
  ProgressLine progress("looking at page");
  pictures.begin(document);
  lumvet::DocumentSearch looking(
      {document}, search,
      {.letters = {.reads_annotations = options.without.empty()},
       .progress = [&](std::uint64_t done, std::uint64_t total) { progress.update(done, total); },
       .cancel = interruption()});
  lumvet::Status looked = looking.go_on([&](const lumvet::DocumentHits& found) -> lumvet::Status {
    print_hits(options, document, found.page);
    return pictures.are_wanted() ? pictures.draw(document, found.page) : lumvet::Done{};
  });
  if (looked.ok()) looked = pictures.end(document);
  hits += looking.hit_count();
  for (const lumvet::UnreadPage& page : looking.unread()) fail(page.error);
  return looked;
}

int run(const FindArguments& options) {
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
  auto options = std::make_shared<FindArguments>();
  CLI::App* verb = app.add_subcommand("find", "Look for words in documents");
  verb->add_option("text", options->text, "What is looked for")->required()->type_name("TEXT");
  verb->add_option("inputs", options->inputs, "Documents, or folders of documents")
      ->required()
      ->type_name("FILE");
  verb->add_flag("--match-case", options->search.match_case, "Capitals are not small letters");
  verb->add_flag("--match-accents", options->search.match_accents, "é is not e");
  verb->add_flag("--whole-words", options->search.whole_words, "Not within longer words");
  verb->add_flag("--pattern", options->search.is_pattern, "TEXT is a regular expression");
  verb->add_option("--without", options->without,
                   "annotations: not in what fields, notes and stamps show")
      ->check(CLI::IsMember({"annotations"}).description(""))
      ->type_name("WHAT");
  verb->add_option("--pictures", options->pictures,
                   "A folder, for the pages on which something is found, with that marked")
      ->type_name("FOLDER");
  verb->add_flag("--json", options->json, "A line of JSON for each hit, with its place");
  add_secret_options(*verb, options->secrets);
  verb->footer(
      "Line ends, page ends, hyphens at them and widths of characters make no difference.\n"
      "What cannot be read is told, and the rest is looked through.\n"
      "Exit codes: 0 something was found, 1 nothing was, 2 wrong usage.\n\n"
      "Examples:\n"
      "  lumvet find 'swing bridge' report.pdf\n"
      "  lumvet find costs reports/ --whole-words --pictures found/\n"
      "  lumvet find 'bill no\\. [0-9]+' bills.pdf --pattern --json");
  verb->callback([options, &chosen] { chosen = [options] { return run(*options); }; });
}

}  // namespace tool

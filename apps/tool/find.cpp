// SPDX-License-Identifier: Apache-2.0
// lumvet find: where documents say something.
#include <unistd.h>

#include <algorithm>
#include <iostream>
#include <memory>
#include <numeric>

#include <lumvet/render/render.h>
#include <lumvet/text/text_search.h>
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

constexpr double kPointsPerInch = 72;

bool is_inside(const lumvet::Quad& quad, lumvet::Point p) {
  for (std::size_t i = 0; i < quad.size(); ++i) {
    const lumvet::Point side = quad[(i + 1) % quad.size()] - quad[i];
    const lumvet::Point to = p - quad[i];
    if (side.x * to.y - side.y * to.x < 0) return false;
  }
  return true;
}

// `scale` is pixels to the point.
void mark(lumvet::Raster& sheet, const lumvet::Quad& quad, double scale) {
  constexpr unsigned kPen[] = {255, 214, 92};  // of 255
  lumvet::Quad placed = quad;
  for (lumvet::Point& corner : placed) corner = corner * scale;
  const auto [left, right] = std::minmax({placed[0].x, placed[1].x, placed[2].x, placed[3].x});
  const auto [top, bottom] = std::minmax({placed[0].y, placed[1].y, placed[2].y, placed[3].y});
  for (int y = std::max(0, static_cast<int>(top)); y < std::min<double>(sheet.height(), bottom);
       ++y)
    for (int x = std::max(0, static_cast<int>(left)); x < std::min<double>(sheet.width(), right);
         ++x) {
      if (!is_inside(placed, {x + 0.5, y + 0.5})) continue;
      std::uint8_t* pixel = sheet.row(y) + std::ptrdiff_t{x} * 4;
      for (int k = 0; k < 3; ++k) pixel[k] = static_cast<std::uint8_t>(pixel[k] * kPen[k] / 255);
    }
}

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

// The page, with what was found marked by a color that is multiplied into it, as by a pen.
lumvet::Status draw_hits(const Options& options, const lumvet::Document& document,
                         const lumvet::PageHits& found) {
  constexpr double kDpi = 110;
  LUMVET_TRY(const lumvet::Page page, document.page(found.page));
  LUMVET_TRY(lumvet::Raster sheet, lumvet::render(page, {.dpi = kDpi, .cancel = interruption()}));
  for (const lumvet::TextSpan& hit : found.hits)
    for (const lumvet::Quad& quad : found.words.quads(hit.begin, hit.end))
      mark(sheet, quad, kDpi / kPointsPerInch);
  std::error_code ignored;
  fs::create_directories(options.pictures, ignored);
  const std::string stem = fs::path(document.name()).stem().string();
  return sheet.write_png(fs::path(options.pictures) /
                         (stem + "-" + std::to_string(found.page + 1) + ".png"));
}

lumvet::Status look_through(const Options& options, const lumvet::TextSearch& search,
                            const lumvet::Document& document, std::size_t& hits) {
  ProgressLine progress("looking at page");
  std::vector<int> pages(static_cast<std::size_t>(document.page_count()));
  std::iota(pages.begin(), pages.end(), 0);
  return lumvet::find_in(
      document, pages, search,
      {.progress = [&](std::uint64_t done, std::uint64_t total) { progress.update(done, total); },
       .cancel = interruption()},
      [&](const lumvet::PageHits& found) -> lumvet::Status {
        for (const lumvet::TextSpan& hit : found.hits)
          print_hit(options, document, found.page, found.words, hit);
        hits += found.hits.size();
        return options.pictures.empty() ? lumvet::Done{} : draw_hits(options, document, found);
      });
}

int run(const Options& options) {
  const auto search = lumvet::TextSearch::of(options.text, options.search);
  if (!search.ok()) return wrong_usage(search.error().message());
  std::size_t hits = 0;
  for (const std::string& file : files_of(options.inputs)) {
    const auto document = open_document(file, options.secrets);
    const lumvet::Status looked =
        document.ok() ? look_through(options, *search, *document, hits) : document.error();
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

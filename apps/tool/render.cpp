// SPDX-License-Identifier: Apache-2.0
// lumvet render: pages as PNG pictures.
#include <atomic>
#include <charconv>
#include <iostream>
#include <memory>
#include <mutex>
#include <nlohmann/json.hpp>
#include <thread>

#include <lumvet/render/render.h>

#include "console.h"
#include "files.h"
#include "verbs.h"

namespace tool {
namespace {

lumvet::Purpose purpose_named(const std::string& name) {
  if (name == "print") return lumvet::Purpose::print;
  return name == "export" ? lumvet::Purpose::exporting : lumvet::Purpose::view;
}

namespace fs = std::filesystem;
using Json = nlohmann::ordered_json;

struct Options {
  std::string input;
  std::string pages = "all";
  double dpi = 150;
  int width = 0;
  std::string output;
  std::string background = "white";
  int threads = 0;
  bool without_annotations = false;
  std::string purpose = "view";
  bool replace = false;
  bool json = false;
  Secrets secrets;
};

struct Sheet {
  int page = 0;  // from 0
  fs::path path;
  int width = 0;   // pixels
  int height = 0;  // pixels
};

lumvet::Result<lumvet::Color> parse_color(const std::string& text) {
  if (text == "white") return lumvet::kWhite;
  if (text == "none") return lumvet::kTransparent;
  unsigned value = 0;
  const char* end = text.data() + text.size();
  const auto read = std::from_chars(text.data() + 1, end, value, 16);
  if (text.size() == 7 && text[0] == '#' && read.ec == std::errc() && read.ptr == end)
    return lumvet::Color{static_cast<std::uint8_t>(value >> 16),
                         static_cast<std::uint8_t>(value >> 8), static_cast<std::uint8_t>(value),
                         255};
  return lumvet::Error(
      lumvet::ErrorCode::invalid_argument,
      "'" + text + "' is no background; write white, none or a colour like #F4F1E8");
}

std::string plain_name(const std::string& input) {
  return input == "-" ? "page" : fs::path(input).stem().string();
}

// Where each page goes, before any is drawn.
lumvet::Result<std::vector<Sheet>> plan(const Options& options, const std::vector<int>& pages,
                                        int page_count) {
  std::string pattern = options.output;
  std::error_code ignored;
  if (pattern.empty()) pattern = "{name}-{page}.png";
  if (pattern.back() == '/' || fs::is_directory(pattern, ignored)) {
    fs::create_directories(pattern, ignored);
    pattern = (fs::path(pattern) / "{name}-{page}.png").string();
  }
  if (pages.size() > 1 && pattern.find("{page}") == std::string::npos)
    return lumvet::Error(lumvet::ErrorCode::invalid_argument,
                         std::to_string(pages.size()) + " pages do not fit into the one file " +
                             pattern + "; name a folder, or put {page} into the name");
  std::vector<Sheet> sheets;
  for (const int page : pages) {
    Sheet sheet{page, fill_pattern(pattern, plain_name(options.input), page + 1, page_count)};
    if (!options.replace && fs::exists(sheet.path, ignored))
      return lumvet::Error(lumvet::ErrorCode::exists,
                           sheet.path.string() + " is already there; nothing was drawn");
    sheets.push_back(std::move(sheet));
  }
  return sheets;
}

lumvet::Status draw(const lumvet::Document& document, const Options& options,
                    lumvet::Color background, int threads, Sheet& sheet) {
  lumvet::RenderOptions render{.dpi = options.dpi,
                               .background = background,
                               .annotations = !options.without_annotations,
                               .purpose = purpose_named(options.purpose),
                               .threads = threads};
  if (options.width > 0) render.width = options.width;
  LUMVET_TRY(const lumvet::Page page, document.page(sheet.page));
  LUMVET_TRY(const lumvet::Raster raster, lumvet::render(page, render));
  sheet.width = raster.width();
  sheet.height = raster.height();
  const double dpi = options.width > 0 ? options.width / page.width() * 72 : options.dpi;
  if (sheet.path == "-") {
    LUMVET_TRY(const lumvet::Bytes bytes, raster.png(dpi));
    return write_standard_output(bytes);
  }
  return raster.write_png(
      sheet.path, options.replace ? lumvet::IfExists::replace : lumvet::IfExists::refuse, dpi);
}

// Several pages at a time where there are several; otherwise the threads share the one page.
lumvet::Status draw_all(const lumvet::Document& document, const Options& options,
                        lumvet::Color background, std::vector<Sheet>& sheets) {
  const int cores = options.threads > 0
                        ? options.threads
                        : std::max(1, static_cast<int>(std::thread::hardware_concurrency()));
  const bool several = sheets.size() > 1;
  std::atomic<std::size_t> next = 0;
  std::mutex mutex;
  std::size_t done = 0;
  lumvet::Status status = lumvet::Done{};
  ProgressLine progress("drawing page");
  const auto work = [&] {
    for (std::size_t i = next++; i < sheets.size(); i = next++) {
      lumvet::Status drawn = draw(document, options, background, several ? 1 : cores, sheets[i]);
      const std::lock_guard lock(mutex);
      if (!drawn.ok() && status.ok()) {
        status = std::move(drawn);
        next = sheets.size();
      }
      progress.update(++done, sheets.size());
    }
  };
  {
    std::vector<std::jthread> helpers;
    for (int i = 1; several && i < cores; ++i) helpers.emplace_back(work);
    work();
  }
  return status;
}

void print(const Options& options, const lumvet::Document& document,
           const std::vector<Sheet>& sheets) {
  if (options.json) {
    Json json{{"file", document.name()}, {"sheets", Json::array()}, {"findings", Json::array()}};
    for (const Sheet& sheet : sheets)
      json["sheets"].push_back({{"page", sheet.page + 1},
                                {"path", sheet.path.string()},
                                {"width", sheet.width},
                                {"height", sheet.height}});
    for (const lumvet::Finding& finding : document.findings())
      json["findings"].push_back(finding.to_string());
    std::cout << json.dump(2, ' ', false, Json::error_handler_t::replace) << '\n';
    return;
  }
  constexpr std::size_t kMostShown = 8;
  for (std::size_t i = 0; i < sheets.size(); ++i) {
    if (sheets.size() > kMostShown && i == kMostShown - 1 && i + 1 < sheets.size()) {
      std::cout << "…\n";
      i = sheets.size() - 1;
    }
    std::cout << sheets[i].path.string() << "  page " << sheets[i].page + 1 << ", "
              << sheets[i].width << " × " << sheets[i].height << " pixels\n";
  }
  if (sheets.size() > kMostShown)
    std::cout << count_of(sheets.size(), "page", "pages") << " drawn\n";
}

int run(const Options& options) {
  const auto background = parse_color(options.background);
  if (!background.ok()) return wrong_usage(background.error().message());
  const auto selection = lumvet::PageSelection::parse(options.pages);
  if (!selection.ok()) return wrong_usage(selection.error().message());
  const auto document = open_document(options.input, options.secrets);
  if (!document.ok()) return fail(document.error());
  const auto pages = selection->in(document->page_count());
  if (!pages.ok())
    return fail(lumvet::Error(pages.error()).during("choosing pages of " + document->name()));
  std::vector<Sheet> sheets;
  if (options.output == "-") {
    if (pages->size() != 1)
      return wrong_usage("only one page fits on standard output; choose it with --pages");
    sheets.push_back({pages->front(), "-"});
  } else {
    auto planned = plan(options, *pages, document->page_count());
    if (!planned.ok())
      return planned.error().code() == lumvet::ErrorCode::invalid_argument
                 ? wrong_usage(planned.error().message())
                 : fail(planned.error());
    sheets = *std::move(planned);
  }
  const lumvet::Status status = draw_all(*document, options, *background, sheets);
  if (!status.ok()) return fail(status.error());
  if (options.output != "-") print(options, *document, sheets);
  if (options.json) return document->findings().empty() ? kDone : kDoneWithFindings;
  return report_findings(document->findings());
}

}  // namespace

void add_render(CLI::App& app, Run& chosen) {
  auto options = std::make_shared<Options>();
  CLI::App* verb = app.add_subcommand("render", "Draw pages as PNG pictures");
  verb->add_option("input", options->input, "The document; - is standard input")
      ->required()
      ->type_name("FILE");
  verb->add_option("-p,--pages", options->pages,
                   "Pages: 1-4,8,last or odd or 9-1 (all when not given)")
      ->type_name("PAGES");
  auto* dpi = verb->add_option("--dpi", options->dpi, "Pixels to the inch (150 when not given)")
                  ->check(CLI::Range(1.0, 10000.0))
                  ->type_name("NUMBER");
  verb->add_option("--width", options->width, "Width in pixels instead of --dpi")
      ->check(CLI::Range(1, 100000))
      ->type_name("PIXELS")
      ->excludes(dpi);
  verb->add_option(
          "-o,--output", options->output,
          "A file, a folder, a name with {page} and {name} in it, or - for standard output")
      ->type_name("PATH");
  verb->add_option("--background", options->background,
                   "white, none (transparent) or a colour like #F4F1E8")
      ->type_name("COLOUR");
  verb->add_flag("--without-annotations", options->without_annotations,
                 "Leave out notes, stamps and form fields");
  verb->add_option("--purpose", options->purpose,
                   "What it is for: view, print or export; layers and notes may differ")
      ->check(CLI::IsMember({"view", "print", "export"}))
      ->type_name("WORD");
  verb->add_option("--threads", options->threads, "Threads to use (all cores when not given)")
      ->check(CLI::Range(1, 256))
      ->type_name("NUMBER");
  verb->add_flag("--replace", options->replace, "Replace pictures that are already there");
  verb->add_flag("--json", options->json, "Print what was made for programs");
  add_secret_options(*verb, options->secrets);
  verb->footer(
      "Examples:\n"
      "  lumvet render report.pdf --pages 3 --dpi 150 -o sheet.png\n"
      "  lumvet render report.pdf --width 800 -o pictures/\n"
      "  lumvet render report.pdf --pages odd -o 'side-{page}.png' --background none\n"
      "  lumvet render report.pdf --pages last -o - | viewer");
  verb->callback([options, &chosen] { chosen = [options] { return run(*options); }; });
}

}  // namespace tool

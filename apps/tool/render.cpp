// SPDX-License-Identifier: Apache-2.0
// lumvet render: pages as images.
#include <charconv>
#include <iostream>
#include <memory>
#include <sstream>

#include <lumvet/render/page_images.h>
#include <CLI/CLI.hpp>

#include "console.h"
#include "files.h"
#include "json.h"
#include "saving.h"
#include "stored_images.h"
#include "verbs.h"

namespace tool {
namespace {

lumvet::Purpose purpose_named(const std::string& name) {
  if (name == "print") return lumvet::Purpose::print;
  return name == "export" ? lumvet::Purpose::exporting : lumvet::Purpose::view;
}

namespace fs = std::filesystem;

struct RenderArguments {
  std::string input;
  std::string pages = "all";
  double dpi = 150;
  int width = 0;
  std::string output;
  std::string background = "white";
  std::string area;
  std::string colors = "color";
  bool night = false;
  int quality = 0;  // 0: not said
  std::string format = "png";
  int threads = 0;
  std::string without;
  std::string purpose = "view";
  bool overprint = false;
  double text_gamma = 1;
  double thinnest_line = lumvet::RenderOptions().thinnest_line;
  std::vector<std::string> fonts;
  bool replace = false;
  bool skips_existing = false;
  bool stored_images = false;
  bool json = false;
  Secrets secrets;
};

lumvet::Result<lumvet::PixelColor> parse_color(const std::string& text) {
  if (text == "white") return lumvet::kWhite;
  if (text == "none") return lumvet::kTransparent;
  unsigned value = 0;
  const char* end = text.data() + text.size();
  const auto read = std::from_chars(text.data() + 1, end, value, 16);
  if (text.size() == 7 && text[0] == '#' && read.ec == std::errc() && read.ptr == end)
    return lumvet::PixelColor{static_cast<std::uint8_t>(value >> 16),
                              static_cast<std::uint8_t>(value >> 8),
                              static_cast<std::uint8_t>(value), 255};
  return lumvet::Error(
      lumvet::ErrorCode::invalid_argument,
      "'" + text + "' is not a background; write white, none or a color like #F4F1E8");
}

// "left,top,width,height", in points.
lumvet::Result<lumvet::PageArea> parse_area(const std::string& text) {
  std::istringstream in(text);
  lumvet::PageArea area;
  char comma = ',';
  double* const parts[] = {&area.left, &area.top, &area.width, &area.height};
  for (double* part : parts) {
    if (part != parts[0] && (!(in >> comma) || comma != ',')) break;
    in >> *part;
  }
  if (!in || !in.eof() || !(area.width > 0) || !(area.height > 0))
    return lumvet::Error(lumvet::ErrorCode::invalid_argument,
                         "'" + text +
                             "' is not a part of a page; write left,top,width,height in "
                             "points, such as 0,0,300,200");
  return area;
}

// The kinds are called as their files end.
lumvet::ImageFormat format_named(const std::string& kind) {
  return lumvet::image_format_of("image." + kind).value();
}

lumvet::Result<lumvet::RenderOptions> render_options(const RenderArguments& options) {
  lumvet::RenderOptions render{.dpi = options.dpi,
                               .record = {.annotations = options.without.empty(),
                                          .purpose = purpose_named(options.purpose),
                                          .overprint = options.overprint,
                                          .cancel = interruption()},
                               .threads = options.threads,
                               .cancel = interruption()};
  LUMVET_TRY(render.background, parse_color(options.background));
  if (options.width > 0) render.width = options.width;
  if (!options.area.empty()) {
    LUMVET_TRY(render.area, parse_area(options.area));
  }
  render.text_gamma = options.text_gamma;
  render.thinnest_line = options.thinnest_line;
  for (const std::string& path : options.fonts)
    LUMVET_RETURN_IF_ERROR(fs::is_directory(path) ? render.record.fonts.add_folder(path)
                                                  : render.record.fonts.add_file(path));
  if (options.night) render.tone = lumvet::Tone::night;
  if (options.colors == "gray") render.format = lumvet::PixelFormat::gray;
  if (options.colors == "black-white" || options.colors == "dots")
    render.format = lumvet::PixelFormat::bilevel;
  if (options.colors == "dots") render.halftone = lumvet::Halftone::ordered;
  return render;
}

lumvet::ImageFiles image_files(const RenderArguments& options) {
  lumvet::ImageFiles files{.pattern = options.output,
                           .quality = options.quality > 0 ? options.quality : 85,
                           .lossless = options.quality == 0};
  std::error_code ignored;
  const std::string standard = "{name}-{page}." + options.format;
  if (files.pattern.empty()) {
    files.pattern = standard;
  } else if (files.pattern.back() == '/' || fs::is_directory(files.pattern, ignored)) {
    fs::create_directories(files.pattern, ignored);
    files.pattern = (fs::path(files.pattern) / standard).string();
  }
  if (options.replace) files.if_exists = lumvet::IfExists::replace;
  return files;
}

lumvet::Status draw_to_standard_output(const lumvet::Document& document,
                                       const std::vector<int>& pages,
                                       const RenderArguments& options,
                                       const lumvet::RenderOptions& render) {
  StandardOutput sink;
  std::optional<lumvet::ImageWriter> writer;
  for (const int index : pages) {
    LUMVET_TRY(const lumvet::Page page, document.page(index));
    lumvet::RecordOptions record = render.record;
    constexpr double kPointsPerInch = 72;
    record.zoom = render.width ? *render.width / page.width() : render.dpi / kPointsPerInch;
    LUMVET_TRY(const lumvet::Scene scene, lumvet::Scene::record(page, record));
    if (!writer)
      writer.emplace(sink,
                     lumvet::ImageOptions{.format = format_named(options.format),
                                          .dpi = options.width > 0 ? 0 : options.dpi,
                                          .quality = options.quality > 0 ? options.quality : 85,
                                          .lossless = options.quality == 0});
    LUMVET_RETURN_IF_ERROR(lumvet::render_to(*writer, scene, render));
  }
  return writer->finish();
}

void print(const RenderArguments& options, const lumvet::Document& document,
           const std::vector<lumvet::ImageFile>& files) {
  if (options.json) {
    Json json{{"input", document.name()},
              {"images", Json::array()},
              {"findings", findings_json(document.findings())}};
    for (const lumvet::ImageFile& file : files)
      json["images"].push_back({{"page", file.page + 1},
                                {"file", file.path.string()},
                                {"width", file.width},
                                {"height", file.height}});
    print_json(json);
    return;
  }
  if (files.size() > 1 && files[0].path == files[1].path) {
    std::cout << files[0].path.string() << "  " << count_of(files.size(), "page", "pages")
              << ", the first " << files[0].width << " × " << files[0].height << " pixels\n";
    return;
  }
  constexpr std::size_t kMostShown = 8;
  for (std::size_t i = 0; i < files.size(); ++i) {
    if (files.size() > kMostShown && i == kMostShown - 1 && i + 1 < files.size()) {
      std::cout << "…\n";
      i = files.size() - 1;
    }
    std::cout << files[i].path.string() << "  page " << files[i].page + 1 << ", " << files[i].width
              << " × " << files[i].height << " pixels\n";
  }
  if (files.size() > kMostShown) std::cout << count_of(files.size(), "page", "pages") << " drawn\n";
}

int run(const RenderArguments& options) {
  const auto render = render_options(options);
  if (!render.ok()) return refuse(render.error());
  const auto selection = lumvet::PageSelection::parse(options.pages);
  if (!selection.ok()) return wrong_usage(selection.error().message());
  const auto document = open_document(options.input, options.secrets);
  if (!document.ok()) return fail(document.error());
  const auto pages = chosen_pages(*document, *selection);
  if (!pages.ok()) return fail(pages.error());
  if (options.stored_images)
    return write_stored_images(
        *document, *pages,
        {options.output.empty() ? "." : options.output, options.replace, options.json});
  if (options.output == "-") {
    if (pages->size() != 1 && !lumvet::holds_several(format_named(options.format)))
      return wrong_usage(
          "only one page fits on standard output; choose it with --pages, or add "
          "--format tiff");
    const lumvet::Status drawn = draw_to_standard_output(*document, *pages, options, *render);
    if (!drawn.ok()) return refuse(drawn.error());
    return report_findings(document->findings());
  }
  ProgressLine progress(pages->size() == 1 ? "drawing row" : "drawing page");
  lumvet::ImageFiles files = image_files(options);
  files.progress = [&progress](std::uint64_t done, std::uint64_t total) {
    progress.update(done, total);
  };
  std::vector<int> missing = *pages;
  if (options.skips_existing) {
    lumvet::ImageFiles all = files;
    all.if_exists = lumvet::IfExists::replace;
    const auto planned = lumvet::plan_pages(*document, *pages, all);
    if (!planned.ok()) return refuse(planned.error());
    std::error_code ignored;
    missing.clear();
    for (const lumvet::ImageFile& file : *planned)
      if (!fs::exists(file.path, ignored)) missing.push_back(file.page);
  }
  const auto written = lumvet::write_pages(*document, missing, files, *render);
  if (!written.ok()) return refuse(written.error());
  print(options, *document, *written);
  if (options.json) return code_for(document->findings());
  return report_findings(document->findings());
}

}  // namespace

void add_render(CLI::App& app, Run& chosen) {
  auto options = std::make_shared<RenderArguments>();
  CLI::App* verb =
      app.add_subcommand("render", "Draw pages as images: PNG, JPEG, TIFF, WebP or PPM");
  verb->add_option("input", options->input, "The document; - is standard input")
      ->required()
      ->type_name("FILE");
  verb->add_option("-p,--pages", options->pages, "1-4,8,last or odd or 9-1 (backwards)")
      ->type_name("PAGES");
  auto* dpi = verb->add_option("--dpi", options->dpi, "Pixels to the inch")
                  ->check(CLI::Range(1.0, 10000.0).description(""))
                  ->type_name("NUMBER");
  verb->add_option("--width", options->width, "Width in pixels instead of --dpi")
      ->check(CLI::Range(1, 100000).description(""))
      ->type_name("PIXELS")
      ->excludes(dpi);
  verb->add_option(
          "-o,--output", options->output,
          "A file, a folder, a name with {page}, {label} or {name} in it, or - for standard "
          "output; its ending tells the kind of image")
      ->type_name("PATH");
  verb->add_option("--background", options->background,
                   "white, none (transparent) or a color like #F4F1E8")
      ->type_name("COLOR");
  verb->add_option("--area", options->area,
                   "A part of the page: left,top,width,height in points, from its top left")
      ->type_name("AREA");
  verb->add_option("--colors", options->colors,
                   "color, gray, black-white, or dots (black and white, for photographs)")
      ->check(CLI::IsMember({"color", "gray", "black-white", "dots"}).description(""))
      ->type_name("WORD");
  verb->add_flag("--night", options->night, "Dark paper and light ink; hues stay as they are");
  verb->add_option("--quality", options->quality,
                   "1 to 100, of JPEG [default: 85] and WebP [default: without loss]")
      ->check(CLI::Range(1, 100).description(""))
      ->type_name("NUMBER");
  verb->add_option("--format", options->format,
                   "Of images in a folder or on standard output: png, jpg, tiff, webp, ppm")
      ->check(CLI::IsMember({"png", "jpg", "tiff", "webp", "ppm"}).description(""))
      ->type_name("KIND");
  verb->add_option("--without", options->without,
                   "annotations: leave out notes, stamps and form fields")
      ->check(CLI::IsMember({"annotations"}).description(""))
      ->type_name("WHAT");
  verb->add_option("--purpose", options->purpose,
                   "What it is for: view, print or export; layers and notes may differ")
      ->check(CLI::IsMember({"view", "print", "export"}).description(""))
      ->type_name("WORD");
  verb->add_flag("--overprint", options->overprint,
                 "Show, about, what inks look like that print over one another");
  verb->add_option("--text-gamma", options->text_gamma,
                   "Even out the edges of letters for a screen of this gamma, 0.5 to 3 (1: not)")
      ->check(CLI::Range(0.5, 3.0).description(""))
      ->type_name("NUMBER");
  verb->add_option("--thinnest-line", options->thinnest_line,
                   "Thinner lines are drawn this wide, in pixels, 0 to 1")
      ->check(CLI::Range(0.0, 1.0).description(""))
      ->type_name("PIXELS");
  verb->add_option("--fonts", options->fonts,
                   "A font, or a folder of fonts, for those that are not embedded; repeatable")
      ->allow_extra_args(false)
      ->type_name("PATH");
  verb->add_option("--threads", options->threads, "How many [default: all cores]")
      ->check(CLI::Range(1, 256).description(""))
      ->type_name("NUMBER");
  verb->add_flag("--stored-images", options->stored_images,
                 "Instead of pages the images that they show, as they are stored, into a folder");
  verb->add_flag("--replace", options->replace, "Replace images that are already there");
  add_skip_option(*verb, options->skips_existing);
  add_strict_option(*verb);
  verb->add_flag("--json", options->json, "Print what was made for programs");
  add_secret_options(*verb, options->secrets);
  verb->footer(
      "Examples:\n"
      "  lumvet render report.pdf --pages 3 --dpi 150 -o sheet.png\n"
      "  lumvet render report.pdf --width 800 -o images/\n"
      "  lumvet render report.pdf --pages odd -o 'side-{page}.png' --background none\n"
      "  lumvet render report.pdf -o report.tiff --dpi 300 --colors black-white\n"
      "  lumvet render report.pdf --pages 2 --area 0,0,300,200 --night -o corner.png\n"
      "  lumvet render report.pdf --pages last -o - | viewer\n"
      "  lumvet render report.pdf --stored-images -o photographs/");
  verb->callback([options, &chosen] { chosen = [options] { return run(*options); }; });
}

}  // namespace tool

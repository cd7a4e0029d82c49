// SPDX-License-Identifier: Apache-2.0
// lumvet text: what pages say.
#include <algorithm>
#include <filesystem>
#include <iostream>
#include <memory>
#include <set>

#include <lumvet/render/placed_images.h>
#include <lumvet/text/running_heads.h>
#include <lumvet/text/tagged_text.h>
#include <lumvet/text/written_words.h>
#include <CLI/CLI.hpp>

#include "console.h"
#include "files.h"
#include "json.h"
#include "page_list.h"
#include "saving.h"
#include "verbs.h"

namespace tool {
namespace {

struct TextArguments {
  std::string input;
  std::string pages = "all";
  std::string output = "-";
  bool keeps_layout = false;
  bool joins_lines = false;
  bool by_tags = false;
  bool drops_heads = false;
  bool expands = false;
  bool annotations = false;
  bool json = false;
  bool html = false;
  bool csv = false;
  bool replace = false;
  Secrets secrets;
};

// Left, top, right and bottom, in points from the top left corner of the page as shown.
Json box_of(const lumvet::Quad& quad) {
  const auto [left, right] = std::minmax({quad[0].x, quad[1].x, quad[2].x, quad[3].x});
  const auto [top, bottom] = std::minmax({quad[0].y, quad[1].y, quad[2].y, quad[3].y});
  return Json::array({rounded(left), rounded(top), rounded(right), rounded(bottom)});
}

const char* name_of(lumvet::Visibility visibility) {
  switch (visibility) {
    case lumvet::Visibility::seen: break;
    case lumvet::Visibility::invisible: return "invisible";
    case lumvet::Visibility::covered: return "covered";
    case lumvet::Visibility::clipped: return "clipped";
    case lumvet::Visibility::as_ground: return "as_ground";
  }
  return "seen";
}

Json json_of(const std::vector<lumvet::WordStyle>& styles) {
  Json list = Json::array();
  for (const lumvet::WordStyle& style : styles) {
    Json one{{"font", style.font},
             {"bold", style.is_bold},
             {"italic", style.is_italic},
             {"mode", static_cast<int>(style.mode)},
             {"color", nullptr}};
    if (style.color) one["color"] = *style.color;
    list.push_back(std::move(one));
  }
  return list;
}

// `heads` are the lines that come again from page to page.
Json json_of(const lumvet::Page& page, const lumvet::PageWords& words,
             const std::vector<lumvet::TextSpan>& heads) {
  const std::string& text = words.text();
  Json blocks = Json::array();
  for (std::size_t b = 0; b < words.block_count(); ++b) {
    const lumvet::TextBlock block = words.block(b);
    Json lines = Json::array();
    bool is_table = false;
    for (std::size_t i = block.first_line; i < block.lines_end; ++i) {
      const lumvet::TextLine line = words.line(i);
      is_table |= line.is_row;
      Json said = Json::array();
      for (std::size_t w = line.first_word; w < line.words_end; ++w) {
        const lumvet::TextWord word = words.word(w);
        Json one{{"text", text.substr(word.begin, word.end - word.begin)},
                 {"box", box_of(word.quad)},
                 {"size", word.size},
                 {"style", word.style}};
        if (line.is_row) one["column"] = word.column + 1;
        if (word.columns > 1) one["columns"] = word.columns;
        // Of words whose letters stand on a bend, and of large letters at the head of a paragraph.
        if (const auto quads = words.quads(word.begin, word.end); quads.size() > 1)
          for (const lumvet::Quad& quad : quads) one["letters"].push_back(quad_json(quad));
        if (word.visibility != lumvet::Visibility::seen) one["hidden"] = name_of(word.visibility);
        said.push_back(std::move(one));
      }
      Json one{{"text", text.substr(line.begin, line.end - line.begin)},
               {"words", std::move(said)}};
      if (std::count(heads.begin(), heads.end(), lumvet::TextSpan{line.begin, line.end}) > 0)
        one["running"] = true;
      lines.push_back(std::move(one));
    }
    Json one{{"kind", is_table ? "table" : "paragraph"}, {"lines", std::move(lines)}};
    if (block.is_of_annotations) one["annotations"] = true;
    blocks.push_back(std::move(one));
  }
  return {
      {"page", page.index() + 1},         {"width", page.width()}, {"height", page.height()},
      {"unknown", words.unknown_count()}, {"text", text},          {"blocks", std::move(blocks)},
      {"styles", json_of(words.styles())}};
}

// Where text goes: a file that appears whole, or standard output.
class Target {
 public:
  explicit Target(const TextArguments& options) : options_(options) {}

  lumvet::Status open() {
    if (options_.output == "-") return lumvet::Done{};
    LUMVET_TRY(file_, lumvet::AtomicFile::create(options_.output, options_.replace
                                                                      ? lumvet::IfExists::replace
                                                                      : lumvet::IfExists::refuse));
    return lumvet::Done{};
  }
  lumvet::Status write(const std::string& text) {
    const lumvet::ByteView bytes(reinterpret_cast<const std::uint8_t*>(text.data()), text.size());
    if (file_) return file_->write(bytes);
    return standard_.write(bytes);
  }
  lumvet::Status close() {
    if (file_) return file_->commit();
    return lumvet::Done{};
  }

 private:
  const TextArguments& options_;
  std::optional<lumvet::AtomicFile> file_;
  StandardOutput standard_;
};

// The images of a page that are large enough to be pictures.
lumvet::Result<std::vector<lumvet::HtmlPicture>> pictures_of(const lumvet::Page& page) {
  constexpr double kSmallest = 8;  // points
  LUMVET_TRY(const lumvet::Scene scene, lumvet::Scene::record(page, {.cancel = interruption()}));
  std::vector<lumvet::HtmlPicture> pictures;
  for (const lumvet::PlacedImage& image : lumvet::placed_images(scene)) {
    const lumvet::Quad& quad = image.quad();
    const auto side = [&](std::size_t i) {
      return std::hypot(quad[i].x - quad[0].x, quad[i].y - quad[0].y);
    };
    if (side(1) < kSmallest || side(3) < kSmallest) continue;
    // Browsers show JPEG and PNG; JPEG has no place for a mask.
    auto file = image.has_mask() ? image.shown() : image.stored();
    if (file.ok() && file->ending != "jpg" && file->ending != "png") file = image.shown();
    if (!file.ok() && file.error().code() == lumvet::ErrorCode::cancelled) return file.error();
    if (!file.ok()) continue;  // the findings tell why
    pictures.push_back({quad, lumvet::data_uri(*file),
                        "picture " + std::to_string(pictures.size() + 1) + " of page " +
                            std::to_string(page.index() + 1)});
  }
  return pictures;
}

lumvet::Result<std::string> written(const TextArguments& options, const lumvet::Page& page,
                                    const lumvet::PageWords& words) {
  if (options.html) {
    LUMVET_TRY(const auto pictures, pictures_of(page));
    return "<section data-page=\"" + std::to_string(page.index() + 1) + "\">\n" +
           lumvet::as_html(words, pictures) + "</section>\n";
  }
  if (options.csv) return lumvet::tables_as_csv(words);
  if (options.joins_lines) return lumvet::paragraphs(words);
  return options.keeps_layout ? lumvet::laid_out(words) : words.text() + "\n";
}

// What it calls itself; the name of its file where it has no title.
std::string title_of(const lumvet::Document& document) {
  const auto metadata = document.metadata();
  const std::string title = metadata.ok() ? metadata->properties.title : std::string();
  return title.empty() ? std::filesystem::path(document.name()).filename().string() : title;
}

// What pages say, written as it is read, or at the end where all pages have to be known.
class Writing {
 public:
  Writing(const TextArguments& options, const lumvet::Document& document, Target& target)
      : options_(options), document_(document), target_(target) {}

  lumvet::Status write(const std::vector<int>& pages);
  const std::vector<int>& without_text() const { return without_text_; }
  std::size_t unknown() const { return unknown_; }

 private:
  lumvet::Status write_page(int index, const lumvet::PageWords& words);
  lumvet::Status write_json(const std::vector<int>& pages);

  const TextArguments& options_;
  const lumvet::Document& document_;
  Target& target_;
  std::vector<lumvet::PageWords> kept_;
  std::vector<int> without_text_;
  std::size_t unknown_ = 0;
  bool is_first_ = true;
};

lumvet::Status Writing::write_page(int index, const lumvet::PageWords& words) {
  LUMVET_TRY(const lumvet::Page page, document_.page(index));
  LUMVET_TRY(const std::string text, written(options_, page, words));
  const bool is_parted = !is_first_ && !options_.html && !options_.csv;
  is_first_ = false;
  return target_.write(is_parted ? "\f" + text : text);
}

lumvet::Status Writing::write_json(const std::vector<int>& pages) {
  Json all{{"file", document_.name()}, {"pages", Json::array()}};
  const auto heads = lumvet::running_heads(kept_);
  for (std::size_t i = 0; i < kept_.size(); ++i) {
    LUMVET_TRY(const lumvet::Page page, document_.page(pages[i]));
    const bool drops = options_.drops_heads;
    all["pages"].push_back(drops ? json_of(page, kept_[i].without_lines(heads[i]), {})
                                 : json_of(page, kept_[i], heads[i]));
  }
  Json none = Json::array();
  for (const int page : without_text_) none.push_back(page + 1);
  all["without_text"] = std::move(none);
  all["findings"] = findings_json(document_.findings());
  return target_.write(all.dump(2, ' ', false, Json::error_handler_t::replace) + "\n");
}

lumvet::Status Writing::write(const std::vector<int>& pages) {
  if (options_.html)
    LUMVET_RETURN_IF_ERROR(target_.write(lumvet::begin_of_html(title_of(document_))));
  ProgressLine progress("reading page");
  const bool keeps = options_.json || options_.drops_heads;
  LUMVET_RETURN_IF_ERROR(lumvet::read_pages(
      document_, pages,
      {.letters = {.expands_abbreviations = options_.expands,
                   .reads_annotations = options_.annotations},
       .progress = [&](std::uint64_t done, std::uint64_t total) { progress.update(done, total); },
       .cancel = interruption()},
      [&](int index, const lumvet::PageWords& words) -> lumvet::Status {
        if (words.word_count() == 0) without_text_.push_back(index);
        unknown_ += words.unknown_count();
        if (!keeps) return write_page(index, words);
        kept_.push_back(words);
        return lumvet::Done{};
      }));
  if (options_.json) return write_json(pages);
  const auto heads = lumvet::running_heads(kept_);
  for (std::size_t i = 0; i < kept_.size(); ++i)
    LUMVET_RETURN_IF_ERROR(write_page(pages[i], kept_[i].without_lines(heads[i])));
  return lumvet::Done{};
}

// Roles and order as the document's tags have them.
lumvet::Status write_tagged(const TextArguments& options, const lumvet::Document& document,
                            const std::vector<int>& pages, Target& target) {
  LUMVET_TRY(const std::vector<lumvet::TaggedBlock> blocks, lumvet::tagged_text(document));
  if (blocks.empty())
    return lumvet::Error(lumvet::ErrorCode::unsupported,
                         "the document has no tags that hold text; without --by-tags it is read by "
                         "where things stand");
  const std::set<int> wanted(pages.begin(), pages.end());
  Json list = Json::array();
  std::string text;
  for (const lumvet::TaggedBlock& block : blocks) {
    if (block.page && !wanted.contains(*block.page)) continue;
    Json one{{"role", block.role},
             {"text", block.text},
             {"depth", block.depth},
             {"language", block.language},
             {"page", nullptr}};
    if (block.page) one["page"] = *block.page + 1;
    list.push_back(std::move(one));
    text += (text.empty() ? "" : "\n") + block.text + "\n";
  }
  if (!options.json) return target.write(text);
  const Json all{{"file", document.name()},
                 {"tags", std::move(list)},
                 {"findings", findings_json(document.findings())}};
  return target.write(all.dump(2, ' ', false, Json::error_handler_t::replace) + "\n");
}

void tell_what_is_missing(const std::vector<int>& without_text, std::size_t unknown) {
  if (!without_text.empty())
    std::cerr << "lumvet: no text on " << pages_for_people(without_text)
              << "; a program that reads scans (OCR) can add it\n";
  if (unknown > 0)
    std::cerr << "lumvet: " << count_of(unknown, "unknown character", "unknown characters")
              << ", shown as \xEF\xBF\xBD: no font tells what they stand for (lumvet inspect "
                 "--show fonts says which)\n";
}

int run(const TextArguments& options) {
  const auto selection = lumvet::PageSelection::parse(options.pages);
  if (!selection.ok()) return wrong_usage(selection.error().message());
  const auto document = open_document(options.input, options.secrets);
  if (!document.ok()) return fail(document.error());
  const auto pages = chosen_pages(*document, *selection);
  if (!pages.ok()) return fail(pages.error());
  Target target(options);
  if (const lumvet::Status opened = target.open(); !opened.ok()) return refuse(opened.error());
  Writing writing(options, *document, target);
  lumvet::Status written =
      options.by_tags ? write_tagged(options, *document, *pages, target) : writing.write(*pages);
  if (written.ok()) written = target.close();
  if (!written.ok()) return refuse(written.error());
  tell_what_is_missing(writing.without_text(), writing.unknown());
  if (options.json) return code_for(document->findings());
  return report_findings(document->findings());
}

}  // namespace

void add_text(CLI::App& app, Run& chosen) {
  auto options = std::make_shared<TextArguments>();
  CLI::App* verb = app.add_subcommand("text", "Print what pages say, in the order of reading");
  verb->add_option("input", options->input, "The document; - is standard input")
      ->required()
      ->type_name("FILE");
  verb->add_option("-p,--pages", options->pages, "1-4,8,last or odd or 9-1 (backwards)")
      ->type_name("PAGES");
  verb->add_option("-o,--output", options->output, "A file, or - for standard output")
      ->type_name("PATH");
  auto* layout = verb->add_flag("--keep-layout", options->keeps_layout,
                                "Words about where they stand, by blanks and empty lines");
  auto* joined = verb->add_flag("--join-lines", options->joins_lines,
                                "Each paragraph in one line, without hyphens at the ends of lines");
  auto* json = verb->add_flag("--json", options->json, "Blocks, lines and words with their boxes");
  auto* html =
      verb->add_flag("--html", options->html, "Headings, paragraphs, lists, tables and pictures");
  auto* csv = verb->add_flag("--csv", options->csv, "The tables only, with commas");
  for (CLI::Option* one : {layout, joined, json, html, csv})
    for (CLI::Option* other : {layout, joined, json, html, csv})
      if (one != other) one->excludes(other);
  auto* by_tags = verb->add_flag("--by-tags", options->by_tags,
                                 "In the order of the document's tags, where it has some");
  for (CLI::Option* other : {layout, joined, html, csv}) by_tags->excludes(other);
  verb->add_flag("--without-running-heads", options->drops_heads,
                 "Without what comes again from page to page above and below the text")
      ->excludes(by_tags);
  verb->add_flag("--expand", options->expands,
                 "Abbreviations written out, where the document says how")
      ->excludes(by_tags);
  verb->add_flag("--annotations", options->annotations,
                 "What fields and marks show as well, behind each page's own text")
      ->excludes(by_tags);
  verb->add_flag("--replace", options->replace, "Replace a file that is already there");
  add_strict_option(*verb);
  add_secret_options(*verb, options->secrets);
  verb->footer(
      "Pages are parted by a form feed. Hidden layers are left out; invisible text over scans is "
      "not.\n\n"
      "Examples:\n"
      "  lumvet text report.pdf\n"
      "  lumvet text report.pdf --pages 2 --keep-layout\n"
      "  lumvet text report.pdf --csv -o readings.csv\n"
      "  lumvet text report.pdf --html -o report.html");
  verb->callback([options, &chosen] { chosen = [options] { return run(*options); }; });
}

}  // namespace tool

// SPDX-License-Identifier: Apache-2.0
// lumvet redact: parts of pages taken out for good, with the proof of it.
#include <algorithm>
#include <iostream>
#include <memory>

#include <lumvet/redact/redaction.h>
#include <CLI/CLI.hpp>

#include "console.h"
#include "files.h"
#include "json.h"
#include "page_area.h"
#include "saving.h"
#include "verbs.h"

namespace tool {
namespace {

using lumvet::Error;
using lumvet::ErrorCode;

struct RedactArguments {
  std::string input;
  std::vector<std::string> text;
  std::vector<std::string> patterns;
  std::vector<std::string> areas;
  bool takes_marks = false;
  std::string pages = "all";
  std::string fill = "#000000";
  std::string overlay;
  std::string look;
  bool clears_properties = false;
  bool removes_attachments = false;
  bool json = false;
  Saving saving;
  Secrets secrets;
};

lumvet::Result<lumvet::RedactArea> area_of(const std::string& text) {
  LUMVET_TRY(const AreaOfPage named, page_area("--area", text));
  const auto& [left, top, width, height] = named.area;
  const double right = left + width;
  const double bottom = top + height;
  return lumvet::RedactArea{
      .page = named.page,
      .quads = {{lumvet::Point{left, top}, {right, top}, {right, bottom}, {left, bottom}}}};
}

lumvet::Result<lumvet::RedactRequest> request_of(const RedactArguments& options) {
  lumvet::RedactRequest request;
  for (const std::string& text : options.text) {
    LUMVET_TRY(lumvet::TextSearch search, lumvet::TextSearch::of(text));
    request.searches.push_back(std::move(search));
  }
  for (const std::string& pattern : options.patterns) {
    LUMVET_TRY(lumvet::TextSearch search, lumvet::TextSearch::of(pattern, {.is_pattern = true}));
    request.searches.push_back(std::move(search));
  }
  for (const std::string& area : options.areas) {
    LUMVET_TRY(lumvet::RedactArea read, area_of(area));
    request.areas.push_back(std::move(read));
  }
  request.takes_marks = options.takes_marks;
  LUMVET_TRY(request.pages, lumvet::PageSelection::parse(options.pages));
  request.look.fill.reset();
  if (options.fill != "none") {
    LUMVET_TRY(request.look.fill, lumvet::Color::parse(options.fill));
  }
  request.look.text = options.overlay;
  if (!options.look.empty()) {
    LUMVET_TRY(request.look.picture, lumvet::Picture::load(options.look));
  }
  request.clears_properties = options.clears_properties;
  request.removes_attachments = options.removes_attachments;
  return request;
}

// `bytes` is the size of the file, where one was written.
int print_proof(const RedactArguments& options, const lumvet::RedactReport& report,
                const lumvet::RedactProof& proof, const std::optional<std::uint64_t>& bytes) {
  std::size_t places = 0;
  for (const lumvet::RedactArea& area : report.areas) places += area.quads.size();
  if (options.json) {
    print_json({{"file", options.saving.output},
                {"bytes", bytes ? Json(*bytes) : Json()},
                {"places", places},
                {"letters", report.letters},
                {"paths", report.paths},
                {"images", report.images},
                {"annotations", report.annotations},
                {"texts", report.texts},
                {"findings", findings_json(report.findings)},
                {"proof",
                 {{"holds", proof.holds()},
                  {"pages", proof.pages},
                  {"streams", proof.streams},
                  {"texts", proof.texts},
                  {"revisions", proof.revisions},
                  {"left", findings_json(proof.left)},
                  {"elsewhere", findings_json(proof.elsewhere)}}}});
    return proof.holds() ? kDone : kFailed;
  }
  std::cout << count_of(places, "place", "places") << " redacted: "
            << count_of(static_cast<std::uint64_t>(report.letters), "letter", "letters") << ", "
            << count_of(static_cast<std::uint64_t>(report.paths), "path", "paths") << ", "
            << count_of(static_cast<std::uint64_t>(report.images), "image", "images") << ", "
            << count_of(static_cast<std::uint64_t>(report.annotations), "mark or field",
                        "marks and fields")
            << " on pages; " << count_of(static_cast<std::uint64_t>(report.texts), "text", "texts")
            << " elsewhere\n";
  if (bytes) std::cout << options.saving.output << "  " << size_for_people(*bytes) << '\n';
  if (!proof.holds()) {
    for (const lumvet::Finding& finding : proof.left)
      std::cerr << "  left: " << finding.what << '\n';
    return fail(Error(ErrorCode::malformed,
                      "the proof does not hold: something of what was to go is still there"));
  }
  std::cout << "proof: nothing of it is left in the text of "
            << count_of(static_cast<std::uint64_t>(proof.pages), "page", "pages") << ", in "
            << count_of(static_cast<std::uint64_t>(proof.texts), "other text", "other texts")
            << " and " << count_of(static_cast<std::uint64_t>(proof.streams), "stream", "streams")
            << "; no earlier state is in the file\n";
  report_findings(report.findings);
  return report_findings(proof.elsewhere);
}

int run(const RedactArguments& options) {
  const auto request = request_of(options);
  if (!request.ok()) return refuse(request.error());
  if (options.saving.output == "-" && options.json)
    return wrong_usage("standard output takes the document or the report, not both");
  if (const auto other = check_not_input(options.input, options.saving); !other.ok())
    return refuse(other.error());
  if (const auto free = check_output(options.saving); !free.ok()) return fail(free.error());
  const auto document = open_document(options.input, options.secrets);
  if (!document.ok()) return fail(document.error());
  lumvet::EditableDocument changes = lumvet::EditableDocument::of(*document);
  const auto report = lumvet::redact(changes, *request);
  if (!report.ok()) return refuse(report.error());

  // Nothing is put in its place before the proof holds.
  lumvet::BufferSink sink;
  ProgressLine progress("writing object");
  auto how = options_of(options.saving, progress);
  if (!how.ok()) return refuse(how.error());
  // Proved before it is locked anew; what was locked stays so, and is opened as it was before.
  lumvet::SaveOptions plain = *how;
  plain.protection.reset();
  const auto written = changes.save(sink, plain);
  if (!written.ok()) return fail(written.error());
  const auto waiting = lumvet::LockedDocument::open(lumvet::make_buffer_source(sink.take()));
  if (!waiting.ok()) return fail(waiting.error());
  const auto saved = unlock(*waiting, options.input, options.secrets);
  if (!saved.ok()) return fail(saved.error());
  const auto proof = lumvet::prove_redaction(*saved, *request, *report);
  if (!proof.ok()) return fail(proof.error());
  if (!proof->holds()) return print_proof(options, *report, *proof, std::nullopt);
  if (options.saving.output == "-") {
    lumvet::BufferSink out;
    if (const auto again = changes.save(out, *how); !again.ok()) return fail(again.error());
    const auto given = StandardOutput().write(out.bytes());
    return given.ok() ? report_findings(report->findings) : fail(given.error());
  }
  const auto final_report = changes.save(options.saving.output, *how);
  if (!final_report.ok()) return fail(final_report.error());
  return print_proof(options, *report, *proof, final_report->bytes);
}

}  // namespace

void add_redact(CLI::App& app, Run& chosen) {
  auto options = std::make_shared<RedactArguments>();
  CLI::App* verb = app.add_subcommand("redact", "Take parts of pages out for good, and prove it");
  verb->add_option("input", options->input, "The document")->required()->type_name("FILE");
  one_at_a_time(
      *verb->add_option("--text", options->text, "Text, on the pages and wherever else it is said")
           ->type_name("TEXT"));
  one_at_a_time(
      *verb->add_option("--pattern", options->patterns, "The same, as a regular expression")
           ->type_name("RE"));
  one_at_a_time(
      *verb->add_option("--area", options->areas,
                        "An area of a page, in points from its top left corner as it is shown")
           ->type_name("PAGE:left,top,width,height"));
  verb->add_flag("--marked", options->takes_marks,
                 "What redaction marks enclose: annotate --highlight TEXT --as redaction");
  verb->add_option("--pages", options->pages, "Where text and marks are looked for")
      ->type_name("PAGES");
  verb->add_option("--fill", options->fill, "What the places are filled with: #000000, or none")
      ->type_name("COLOR");
  verb->add_option("--overlay", options->overlay, "What is written over the places")
      ->type_name("TEXT");
  verb->add_option("--look", options->look, "A picture that is put over the places")
      ->type_name("FILE.png");
  verb->add_flag("--no-properties", options->clears_properties,
                 "Take the title, the author and all other properties away as well");
  verb->add_flag("--no-attachments", options->removes_attachments,
                 "Take attached files away as well, which are not looked into");
  verb->add_flag("--json", options->json, "The report and the proof as JSON");
  add_saving_options(*verb, options->saving);
  add_strict_option(*verb);
  add_secret_options(*verb, options->secrets);
  verb->footer(
      "Letters, lines and pixels are taken out, not covered; the file holds no earlier state.\n"
      "Examples:\n"
      "  lumvet redact letter.pdf --text 'Ilse Marren' -o public.pdf\n"
      "  lumvet redact bills.pdf --pattern '[A-Z]{2}[0-9]{6}' --overlay 'account' -o public.pdf\n"
      "  lumvet redact drawing.pdf --area 1:400,60,180,40 --fill none -o public.pdf\n"
      "  lumvet redact marked.pdf --marked -o public.pdf");
  verb->callback([options, &chosen] { chosen = [options] { return run(*options); }; });
}

}  // namespace tool

// SPDX-License-Identifier: Apache-2.0
// lumvet set: what a document says about itself, and how it is opened and read through,
// changed.
#include <memory>

#include <lumvet/edit/editable_document.h>
#include <lumvet/text/tagged_text.h>
#include <CLI/CLI.hpp>

#include "console.h"
#include "files.h"
#include "opening.h"
#include "outline_file.h"
#include "saving.h"
#include "verbs.h"

namespace tool {
namespace {

struct SetArguments {
  std::string input;
  lumvet::NewProperties properties;
  std::optional<std::string> language;
  std::optional<std::string> labels;
  std::string outline;
  bool outlines_headings = false;
  Opening opening;
  bool clears = false;
  bool json = false;
  Saving saving;
  Secrets secrets;
};

lumvet::Status change_outline(const SetArguments& options, const lumvet::Document& document,
                              lumvet::EditableDocument& changes) {
  std::vector<lumvet::OutlineEntry> entries;
  if (options.outlines_headings) {
    LUMVET_TRY(entries, lumvet::headings_of(document));
    if (entries.empty())
      return lumvet::Error(lumvet::ErrorCode::invalid_argument,
                           document.name() +
                               " names no headings in its structure; write the outline into a file "
                               "and give it with --outline");
  } else if (options.outline != "none") {
    LUMVET_TRY(entries, read_outline_file(options.outline));
  }
  return changes.set_outline(entries);
}

lumvet::Status change(const SetArguments& options, const lumvet::Document& document,
                      lumvet::EditableDocument& changes) {
  const lumvet::NewProperties& p = options.properties;
  if (options.clears) LUMVET_RETURN_IF_ERROR(changes.clear_properties());
  if (p.title || p.author || p.subject || p.keywords || p.creator)
    LUMVET_RETURN_IF_ERROR(changes.set_properties(p));
  if (options.language) LUMVET_RETURN_IF_ERROR(changes.set_language(*options.language));
  if (options.labels) {
    const std::string text = *options.labels == "none" ? "" : *options.labels;
    LUMVET_TRY(std::vector<lumvet::LabelRun> runs, lumvet::LabelRun::parse(text));
    LUMVET_RETURN_IF_ERROR(changes.set_page_labels(std::move(runs)));
  }
  if (!options.outline.empty() || options.outlines_headings)
    LUMVET_RETURN_IF_ERROR(change_outline(options, document, changes));
  LUMVET_TRY(const auto view, view_of(options.opening));
  return view ? changes.set_view(*view) : lumvet::Status(lumvet::Done{});
}

int run(const SetArguments& options) {
  if (const auto other = check_not_input(options.input, options.saving); !other.ok())
    return refuse(other.error());
  if (const auto free = check_output(options.saving); !free.ok()) return fail(free.error());
  const auto document = open_document(options.input, options.secrets);
  if (!document.ok()) return fail(document.error());
  lumvet::EditableDocument changes = lumvet::EditableDocument::of(*document);
  if (const auto done = change(options, *document, changes); !done.ok()) {
    return refuse(done.error());
  }
  if (!changes.can_undo())
    return wrong_usage("nothing to change is given; --title, for example, or --clear-properties");
  return save_changes(changes, options.input, options.saving, options.json);
}

}  // namespace

void add_set(CLI::App& app, Run& chosen) {
  auto options = std::make_shared<SetArguments>();
  CLI::App* verb =
      app.add_subcommand("set", "Set a document's title, language, outline, page numbers…");
  verb->add_option("input", options->input, "The document")->required()->type_name("FILE");
  const auto add = [&](const char* name, std::optional<std::string>& value, const char* what) {
    verb->add_option(name, value, what)->type_name("TEXT");
  };
  add("--title", options->properties.title, "The title; '' takes it away, and so with the others");
  add("--author", options->properties.author, "Who wrote it");
  add("--subject", options->properties.subject, "What it is about");
  add("--keywords", options->properties.keywords, "By which it is found");
  add("--creator", options->properties.creator, "The program in which it was written");
  add("--language", options->language, "Of its text: de-AT");
  add("--labels", options->labels, "Page numbers by examples: 1=i,5=1,90=A-1; none for none");
  CLI::Option* file = verb->add_option(
      "--outline", options->outline,
      "The outline from a file: in each line a page and a title, indented by two blanks for each "
      "level; or JSON. none for none");
  file->type_name("FILE");
  verb->add_flag("--outline-from-headings", options->outlines_headings,
                 "The outline from the headings that a tagged document names")
      ->excludes(file);
  add_opening_options(*verb, options->opening);
  verb->add_flag("--clear-properties", options->clears, "Take all properties away first, XMP too");
  add_saving_options(*verb, options->saving);
  add_change_options(*verb, options->saving);
  add_strict_option(*verb);
  verb->add_flag("--json", options->json, "Print what was done for programs");
  add_secret_options(*verb, options->secrets);
  verb->footer(
      "Properties are set in both places where a document has them, so that they agree.\n"
      "Examples:\n"
      "  lumvet set scan.pdf --title 'Day 12' --language en -o day-12.pdf\n"
      "  lumvet set report.pdf --clear-properties -o to-publish.pdf\n"
      "  lumvet set book.pdf --labels 1=Cover,2=i,8=1 --page-mode outline -o numbered.pdf\n"
      "  lumvet set book.pdf --outline contents.txt -o with-outline.pdf\n"
      "and in contents.txt:\n"
      "  1 Summary\n"
      "  3 Bridges\n"
      "    3 Tannery steps");
  verb->callback([options, &chosen] { chosen = [options] { return run(*options); }; });
}

}  // namespace tool

// SPDX-License-Identifier: Apache-2.0
// lumvet describe: what a document says about itself, changed.
#include <memory>

#include <lumvet/save/changes.h>

#include "console.h"
#include "files.h"
#include "saving.h"
#include "verbs.h"

namespace tool {
namespace {

struct Options {
  std::string input;
  lumvet::NewProperties properties;
  std::optional<std::string> language;
  bool forgets = false;
  bool json = false;
  Saving saving;
  Secrets secrets;
};

int run(const Options& options) {
  if (const auto free = check_output(options.saving); !free.ok()) return fail(free.error());
  const auto document = open_document(options.input, options.secrets);
  if (!document.ok()) return fail(document.error());
  const lumvet::NewProperties& p = options.properties;
  const bool has_properties = p.title || p.author || p.subject || p.keywords || p.creator;
  if (!has_properties && !options.language && !options.forgets)
    return wrong_usage("nothing to change is given; --title, for example, or --forget");
  lumvet::Changes changes(*document);
  if (options.forgets)
    if (const auto done = changes.forget_properties(); !done.ok()) return fail(done.error());
  if (has_properties)
    if (const auto done = changes.describe(p); !done.ok()) return fail(done.error());
  if (options.language)
    if (const auto done = changes.set_language(*options.language); !done.ok())
      return fail(done.error());
  return save_changes(changes, options.saving, options.json);
}

}  // namespace

void add_describe(CLI::App& app, Run& chosen) {
  auto options = std::make_shared<Options>();
  CLI::App* verb = app.add_subcommand("describe", "Change a document's title, author, language…");
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
  verb->add_flag("--forget", options->forgets, "Take all properties away first, XMP too");
  add_saving_options(*verb, options->saving);
  verb->add_flag("--json", options->json, "Print what was done for programs");
  add_secret_options(*verb, options->secrets);
  verb->footer(
      "Properties are set in both places where a document has them, so that they agree.\n"
      "Examples:\n"
      "  lumvet describe scan.pdf --title 'Day 12' --language en -o day-12.pdf\n"
      "  lumvet describe report.pdf --forget -o to-publish.pdf");
  verb->callback([options, &chosen] { chosen = [options] { return run(*options); }; });
}

}  // namespace tool

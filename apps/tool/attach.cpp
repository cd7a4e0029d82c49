// SPDX-License-Identifier: Apache-2.0
// lumvet attach: files inside a document listed, taken out, put in and removed.
#include <iostream>
#include <memory>
#include <set>

#include <lumvet/edit/editable_document.h>
#include <lumvet/io/file_name.h>
#include <CLI/CLI.hpp>

#include "console.h"
#include "files.h"
#include "json.h"
#include "saving.h"
#include "verbs.h"

namespace tool {
namespace {

namespace fs = std::filesystem;
struct AttachArguments {
  std::string input;
  std::vector<std::string> files;
  std::vector<std::string> removed;
  std::string description;
  std::string media_type;
  std::string extract_to;
  bool json = false;
  Saving saving;
  Secrets secrets;
};

int list(const AttachArguments& options, const lumvet::Document& document) {
  const auto attachments = document.attachments().value();
  if (options.json) {
    Json all = Json::array();
    for (const auto& attachment : attachments)
      all.push_back({{"name", attachment.name},
                     {"description", attachment.description},
                     {"media_type", attachment.media_type},
                     {"bytes", attachment.size ? Json(*attachment.size) : Json(nullptr)},
                     {"page", attachment.page ? Json(*attachment.page + 1) : Json(nullptr)}});
    print_json(all);
    return kDone;
  }
  for (const auto& attachment : attachments) {
    std::cout << "  " << attachment.name;
    if (attachment.size) std::cout << "  " << size_for_people(*attachment.size);
    if (!attachment.description.empty()) std::cout << "  " << attachment.description;
    if (attachment.page) std::cout << "  (page " << *attachment.page + 1 << ')';
    std::cout << '\n';
  }
  std::cout << count_of(attachments.size(), "attachment", "attachments") << '\n';
  return kDone;
}

// All names are found before anything is written.
int extract(const AttachArguments& options, const lumvet::Document& document) {
  const auto attachments = document.attachments().value();
  std::vector<fs::path> paths;
  std::set<std::string> taken;
  std::error_code error;
  for (std::size_t i = 0; i < attachments.size(); ++i) {
    std::string name = lumvet::safe_file_name(attachments[i].name);
    if (name.empty()) name = "attachment-" + std::to_string(i + 1);
    while (!taken.insert(name).second) name = std::to_string(i + 1) + "-" + name;
    paths.push_back(fs::path(options.extract_to) / name);
    if (!options.saving.replace && fs::exists(paths.back(), error))
      return fail(lumvet::Error(lumvet::ErrorCode::exists,
                                paths.back().string() + " is already there; nothing was written"));
  }
  fs::create_directories(options.extract_to, error);
  int code = kDone;
  for (std::size_t i = 0; i < attachments.size(); ++i) {
    const auto bytes = document.attached_bytes(attachments[i]);
    if (!bytes.ok()) return fail(bytes.error());
    auto file = lumvet::AtomicFile::create(
        paths[i], options.saving.replace ? lumvet::IfExists::replace : lumvet::IfExists::refuse);
    if (!file.ok()) return fail(file.error());
    if (const auto written = file->write(bytes->bytes.view()); !written.ok())
      return fail(written.error());
    if (const auto done = file->commit(); !done.ok()) return fail(done.error());
    std::cout << paths[i].string() << "  " << size_for_people(bytes->bytes.size()) << '\n';
    if (bytes->checksum_fits == false) {
      std::cout << std::flush;
      std::cerr << "  note: the checksum of " << attachments[i].name
                << " does not fit; it may be damaged\n";
      if (is_strict()) code = kFailed;
    }
  }
  return code;
}

lumvet::Result<lumvet::Bytes> read(const std::string& path) {
  LUMVET_TRY(const auto source, lumvet::open_file_source(path));
  LUMVET_TRY(const lumvet::ByteSlice all, source->slice(0, source->size()));
  return lumvet::Bytes(all.view().begin(), all.view().end());
}

int change(const AttachArguments& options, const lumvet::Document& document) {
  if (options.saving.output.empty())
    return wrong_usage("-o is missing: the name of the new document");
  if (const auto other = check_not_input(options.input, options.saving); !other.ok())
    return refuse(other.error());
  if (const auto free = check_output(options.saving); !free.ok()) return fail(free.error());
  lumvet::EditableDocument changes = lumvet::EditableDocument::of(document);
  for (const std::string& name : options.removed)
    if (const auto done = changes.detach(name); !done.ok()) return refuse(done.error());
  for (const std::string& path : options.files) {
    auto bytes = read(path);
    if (!bytes.ok()) return fail(bytes.error());
    const auto done = changes.attach({.name = fs::path(path).filename().string(),
                                      .bytes = *std::move(bytes),
                                      .description = options.description,
                                      .media_type = options.media_type});
    if (!done.ok()) return refuse(done.error());
  }
  return save_changes(changes, options.input, options.saving, options.json);
}

int run(const AttachArguments& options) {
  const auto document = open_document(options.input, options.secrets);
  if (!document.ok()) return fail(document.error());
  const bool changes = !options.files.empty() || !options.removed.empty();
  if (!options.extract_to.empty())
    return changes ? wrong_usage("attachments are taken out or changed, not both at once")
                   : extract(options, *document);
  return changes ? change(options, *document) : list(options, *document);
}

}  // namespace

void add_attach(CLI::App& app, Run& chosen) {
  auto options = std::make_shared<AttachArguments>();
  CLI::App* verb =
      app.add_subcommand("attach", "List, take out, put in and remove files inside a document");
  verb->add_option("input", options->input, "The document")->required()->type_name("FILE");
  verb->add_option("files", options->files, "Files to put in")->type_name("FILE");
  verb->add_option("--remove", options->removed, "An attachment to remove, by its name")
      ->type_name("NAME");
  verb->add_option("--description", options->description, "Of the files that are put in")
      ->type_name("TEXT");
  verb->add_option("--media-type", options->media_type, "Of the files that are put in: text/csv")
      ->type_name("TYPE");
  verb->add_option("--extract-to", options->extract_to, "Take all attachments out into this folder")
      ->type_name("FOLDER");
  add_saving_options(*verb, options->saving, false);
  add_change_options(*verb, options->saving);
  add_strict_option(*verb);
  verb->add_flag("--json", options->json, "Print for programs");
  add_secret_options(*verb, options->secrets);
  verb->footer(
      "Examples:\n"
      "  lumvet attach report.pdf                                   lists what is inside\n"
      "  lumvet attach report.pdf --extract-to files/\n"
      "  lumvet attach report.pdf readings.csv -o report-2.pdf --description 'Readings, day 12'\n"
      "  lumvet attach report.pdf --remove readings.csv -o report-3.pdf");
  verb->callback([options, &chosen] { chosen = [options] { return run(*options); }; });
}

}  // namespace tool

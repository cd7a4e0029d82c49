// SPDX-License-Identifier: Apache-2.0
// lumvet merge: chosen pages of several documents in one new document.
#include <algorithm>
#include <iostream>
#include <memory>

#include <lumvet/assemble/assembly.h>
#include <lumvet/assemble/inputs.h>
#include <CLI/CLI.hpp>

#include "carrying.h"
#include "console.h"
#include "files.h"
#include "json.h"
#include "saving.h"
#include "verbs.h"

namespace tool {
namespace {

namespace fs = std::filesystem;

struct MergeArguments {
  std::vector<std::string> inputs;
  Carrying carrying;
  bool has_headings = false;
  bool joins_fields = false;
  bool only_plans = false;
  bool with_images = false;
  std::string paper;
  bool json = false;
  Saving saving;
  Secrets secrets;
};

struct Input {
  std::string path;
  lumvet::PageSelection pages;
  std::string from;  // the argument, where it was a folder
};

struct Bound {
  std::string path;
  int pages = 0;
};

bool same_file(const fs::path& a, const fs::path& b) {
  std::error_code ignored;
  return fs::equivalent(a, b, ignored);
}

// Images among the documents, in natural order.
void take_images(lumvet::FolderListing& listing) {
  const auto is_other = [](const fs::path& path) { return !lumvet::is_image_file(path); };
  const auto images =
      std::stable_partition(listing.passed_over.begin(), listing.passed_over.end(), is_other);
  listing.documents.insert(listing.documents.end(), images, listing.passed_over.end());
  listing.passed_over.erase(images, listing.passed_over.end());
  std::stable_sort(listing.documents.begin(), listing.documents.end(),
                   [](const fs::path& a, const fs::path& b) {
                     return lumvet::natural_less(a.filename().string(), b.filename().string());
                   });
}

// Folders become the documents in them, without the output of an earlier run.
lumvet::Result<std::vector<Input>> expand(const MergeArguments& options) {
  std::vector<Input> inputs;
  for (const std::string& argument : options.inputs) {
    const PagesOf parts = split_input(argument);
    LUMVET_TRY(const lumvet::PageSelection pages, lumvet::PageSelection::parse(parts.pages));
    std::error_code ignored;
    if (!fs::is_directory(parts.path, ignored)) {
      inputs.push_back({parts.path, pages, ""});
      continue;
    }
    LUMVET_TRY(lumvet::FolderListing listing, lumvet::list_folder(parts.path));
    if (options.with_images) take_images(listing);
    if (note_unreadable(listing) > 0 && is_strict())
      return lumvet::Error(lumvet::ErrorCode::io,
                           parts.path + ": " +
                               count_of(listing.unreadable.size(), "file", "files") +
                               " cannot be read");
    std::size_t taken = 0;
    for (const fs::path& path : listing.documents) {
      if (same_file(path, options.saving.output)) continue;
      inputs.push_back({path.string(), pages, parts.path});
      ++taken;
    }
    if (taken == 0)
      return lumvet::Error(lumvet::ErrorCode::invalid_argument,
                           "there are no documents in the folder " + parts.path);
    if (!options.json && !listing.passed_over.empty())
      std::cerr << "  note: " << count_of(listing.passed_over.size(), "file", "files") << " in "
                << parts.path
                << (listing.passed_over.size() == 1 ? " is not a document and was"
                                                    : " are not documents and were")
                << " passed over\n";
  }
  return inputs;
}

// What the document calls itself, otherwise its file's name without the ending.
std::string heading_of(const lumvet::Document& document) {
  const std::string title = document.info().value().title;
  return title.empty() ? fs::path(document.name()).stem().string() : title;
}

// Every input is opened and its pages are found before anything is written; all bad ones are named.
bool add_all(const std::vector<Input>& inputs, const MergeArguments& options,
             lumvet::Assembly& book, std::vector<Bound>& bound) {
  lumvet::Carry carry = carry_of(options.carrying);
  lumvet::ImagePageOptions images;
  if (!options.paper.empty()) {
    const auto paper = lumvet::PaperSize::parse(options.paper);
    if (!paper.ok()) {
      fail(paper.error());
      return false;
    }
    images.paper = *paper;
  }
  bool good = true;
  for (const Input& input : inputs) {
    const auto document = open_input(input.path, options.secrets, images);
    if (!document.ok()) {
      fail(document.error());
      good = false;
      continue;
    }
    if (const auto good_one = check_undamaged(*document); is_strict() && !good_one.ok()) {
      fail(good_one.error());
      good = false;
      continue;
    }
    if (options.has_headings)
      carry.heading = lumvet::is_image_file(input.path) ? fs::path(input.path).stem().string()
                                                        : heading_of(*document);
    const int before = book.page_count();
    const lumvet::Status added = book.add(*document, input.pages, carry);
    if (!added.ok()) {
      fail(added.error());
      good = false;
      continue;
    }
    bound.push_back({input.path, book.page_count() - before});
  }
  return good;
}

void print(const MergeArguments& options, const std::vector<Bound>& bound,
           const lumvet::SaveReport& report) {
  if (options.json) {
    Json json{{"file", report.path.string()}, {"written", !options.only_plans},
              {"pages", report.pages},        {"bytes", report.bytes},
              {"inputs", Json::array()},      {"findings", findings_json(report.findings)}};
    for (const Bound& input : bound)
      json["inputs"].push_back({{"file", input.path}, {"pages", input.pages}});
    print_json(json);
    return;
  }
  constexpr std::size_t kMostShown = 20;
  int first = 1;
  for (std::size_t i = 0; i < bound.size(); ++i) {
    const Bound& input = bound[i];
    const int last = first + input.pages - 1;
    if (i < kMostShown)
      std::cout << "  " << (input.pages == 1 ? "page " : "pages ") << first
                << (input.pages == 1 ? "" : "-" + std::to_string(last)) << "  from " << input.path
                << '\n';
    first = last + 1;
  }
  if (bound.size() > kMostShown)
    std::cout << "  and " << bound.size() - kMostShown << " more inputs\n";
  std::cout << report.path.string() << "  "
            << count_of(static_cast<std::uint64_t>(report.pages), "page", "pages")
            << (options.only_plans ? ", nothing was written" : ", " + size_for_people(report.bytes))
            << '\n';
}

int run(const MergeArguments& options) {
  if (const auto free = check_output(options.saving); !free.ok()) return fail(free.error());
  const auto inputs = expand(options);
  if (!inputs.ok())
    return inputs.error().code() == lumvet::ErrorCode::invalid_argument
               ? wrong_usage(inputs.error().message())
               : fail(inputs.error());
  for (const Input& input : *inputs)
    if (same_file(input.path, options.saving.output))
      return wrong_usage(input.path + " is an input; give the new document another name");
  lumvet::Assembly book({.join_fields = options.joins_fields});
  std::vector<Bound> bound;
  if (!add_all(*inputs, options, book, bound)) {
    std::cerr << "        nothing was written\n";
    return kFailed;
  }
  if (options.only_plans) {
    lumvet::SaveReport plan;
    plan.path = options.saving.output;
    plan.pages = book.page_count();
    print(options, bound, plan);
    return kDone;
  }
  const auto report = save_as(
      options.saving,
      [&](lumvet::ByteSink& sink, const lumvet::SaveOptions& how) { return book.save(sink, how); },
      [&](const fs::path& path, const lumvet::SaveOptions& how) { return book.save(path, how); });
  if (!report.ok()) return fail(report.error());
  if (options.saving.output == "-") return report_findings(report->findings);
  print(options, bound, *report);
  if (options.json) return code_for(report->findings);
  std::cout << std::flush;
  return report_findings(report->findings);
}

}  // namespace

void add_merge(CLI::App& app, Run& chosen) {
  auto options = std::make_shared<MergeArguments>();
  CLI::App* verb =
      app.add_subcommand("merge", "Bind chosen pages of several documents into a new one");
  verb->add_option(
          "inputs", options->inputs,
          "Documents and images in order; file@PAGES takes some pages, a folder the documents "
          "in it")
      ->required()
      ->type_name("INPUT");
  add_saving_options(*verb, options->saving);
  add_carrying_options(*verb, options->carrying);
  verb->add_flag("--headings", options->has_headings,
                 "An entry of the outline for each input, with its own entries below");
  verb->add_flag("--join-fields", options->joins_fields,
                 "Form fields of one name become one; otherwise later ones get another name");
  verb->add_flag("--images", options->with_images, "Take images out of folders too, a page each");
  verb->add_option("--paper", options->paper, "The pages of images: A4, Letter, 210x297")
      ->type_name("SIZE");
  verb->add_flag("--dry-run", options->only_plans, "Print what would be bound, and write nothing");
  add_strict_option(*verb);
  verb->add_flag("--json", options->json, "Print what was made for programs");
  add_secret_options(*verb, options->secrets);
  verb->footer(
      "Pages: 1-4,8,last   9-1 (backwards)   5- (to the end)   odd   even   3last-last (the last "
      "three)\n"
      "Examples:\n"
      "  lumvet merge report.pdf annex.pdf@1-2,last -o book.pdf\n"
      "  lumvet merge cover.pdf scans/ -o book.pdf      a folder: its documents, 2 before 10\n"
      "  lumvet merge sheet-*.jpg -o scans.pdf --paper A4   images become pages\n"
      "  lumvet merge book.pdf@last-1 -o backwards.pdf --without outlines\n"
      "  lumvet merge chapter*.pdf -o book.pdf --headings --dry-run");
  verb->callback([options, &chosen] { chosen = [options] { return run(*options); }; });
}

}  // namespace tool

// SPDX-License-Identifier: Apache-2.0
// lumvet linearize, protect and repair: documents saved anew, one or many.
#include <memory>

#include <lumvet/save/repair.h>
#include <CLI/CLI.hpp>

#include "batch.h"
#include "console.h"
#include "verbs.h"

namespace tool {
namespace {

namespace fs = std::filesystem;
using lumvet::ByteSink;
using lumvet::Document;
using lumvet::SaveOptions;

constexpr BatchWork kSave = {
    [](const Document& document, ByteSink& sink, const SaveOptions& how) {
      return lumvet::save(document, sink, how);
    },
    [](const Document& document, const fs::path& path, const SaveOptions& how) {
      return lumvet::save(document, path, how);
    }};
constexpr BatchWork kRepair = {
    [](const Document& document, ByteSink& sink, const SaveOptions& how) {
      return lumvet::repair(document, sink, how);
    },
    [](const Document& document, const fs::path& path, const SaveOptions& how) {
      return lumvet::repair(document, path, how);
    },
    true};

}  // namespace

void add_linearize(CLI::App& app, Run& chosen) {
  auto batch = std::make_shared<Batch>();
  batch->saving.layout = "linearized";
  CLI::App* verb =
      app.add_subcommand("linearize", "Save documents so that their first page shows at once");
  add_batch_options(*verb, *batch);
  add_comparison_options(*verb, batch->comparison);
  verb->footer(
      "Examples:\n"
      "  lumvet linearize manual.pdf -o web/manual.pdf --loading\n"
      "  lumvet linearize *.pdf -o web/\n"
      "  lumvet linearize uploads/ -o web/ --watch\n"
      "  lumvet linearize old.pdf -o web.pdf --layout linearized-classic   for old viewers");
  verb->callback([batch, &chosen] { chosen = [batch] { return run_batch(*batch, kSave); }; });
}

void add_protect(CLI::App& app, Run& chosen) {
  auto batch = std::make_shared<Batch>();
  CLI::App* verb = app.add_subcommand(
      "protect", "Lock documents with passwords or certificates, or unlock them");
  add_batch_options(*verb, *batch);
  verb->footer(
      "Examples:\n"
      "  lumvet protect report.pdf -o locked.pdf --user-password-file password.txt\n"
      "  lumvet protect report.pdf -o fixed.pdf --owner-password-file owner.txt --refuse "
      "changing,copying\n"
      "  lumvet protect report.pdf -o for-two.pdf --recipient ida.pem --recipient tobin.pem\n"
      "  lumvet protect locked.pdf -o open.pdf --remove-protection --password-file owner.txt");
  verb->callback([batch, &chosen] {
    chosen = [batch] {
      const Protecting& asked = batch->saving.protecting;
      if (!asked.is_asked() && !asked.removes)
        return wrong_usage(
            "say how: --user-password-file, --owner-password-file, --refuse, --recipient or "
            "--remove-protection");
      return run_batch(*batch, kSave);
    };
  });
}

void add_repair(CLI::App& app, Run& chosen) {
  auto batch = std::make_shared<Batch>();
  CLI::App* verb =
      app.add_subcommand("repair", "Write damaged documents anew and tell what was wrong");
  add_batch_options(*verb, *batch);
  add_comparison_options(*verb, batch->comparison);
  verb->footer(
      "Examples:\n"
      "  lumvet repair cut-off.pdf -o mended.pdf\n"
      "  lumvet repair old.pdf -o mended.pdf --json\n"
      "  lumvet repair archive/ -o mended/");
  verb->callback([batch, &chosen] { chosen = [batch] { return run_batch(*batch, kRepair); }; });
}

}  // namespace tool

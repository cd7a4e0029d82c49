// SPDX-License-Identifier: Apache-2.0
#include <exception>
#include <iostream>

#include <lumvet/base/result.h>

#include "console.h"
#include "verbs.h"

int main(int argc, char** argv) {
  CLI::App app{
      "Looks at PDF documents, draws their pages, binds, cuts, arranges, locks and mends them.\n"
      "Nothing leaves this machine, and no existing file is replaced unless you say --replace."};
  app.name("lumvet");
  app.set_version_flag("--version", "lumvet " LUMVET_VERSION);
  app.require_subcommand(1);
  app.footer(
      "Examples:\n"
      "  lumvet inspect report.pdf\n"
      "  lumvet render report.pdf --pages 3 --dpi 150 -o sheet.png\n"
      "  lumvet merge report.pdf annex.pdf@1-2,last scans/ -o book.pdf\n"
      "  lumvet split manual.pdf -o chapters/ --outline 1\n"
      "  lumvet arrange scans.pdf 'turn 3 right' 'drop last' -o right.pdf\n"
      "  lumvet linearize manual.pdf -o web/manual.pdf\n"
      "  lumvet repair cut-off.pdf -o mended.pdf\n\n"
      "Each verb explains itself: lumvet merge --help\n"
      "Exit codes: 0 done, with notes where there are any; 1 could not be done, or with --strict "
      "there would be notes; 2 wrong usage.");
  tool::Run run;
  tool::add_inspect(app, run);
  tool::add_render(app, run);
  tool::add_merge(app, run);
  tool::add_split(app, run);
  tool::add_arrange(app, run);
  tool::add_attach(app, run);
  tool::add_describe(app, run);
  tool::add_linearize(app, run);
  tool::add_protect(app, run);
  tool::add_repair(app, run);
  try {
    app.parse(argc, argv);
  } catch (const CLI::ParseError& error) {
    const int code = app.exit(error);
    return code == 0 ? tool::kDone : tool::kWrongUsage;
  }
  try {
    return run();
  } catch (const lumvet::ResultError& error) {
    return tool::fail(error.error());
  } catch (const std::exception& error) {
    std::cerr << "lumvet: " << error.what() << '\n';
    return tool::kFailed;
  }
}

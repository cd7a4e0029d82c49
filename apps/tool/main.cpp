// SPDX-License-Identifier: Apache-2.0
#include <fcntl.h>
#include <unistd.h>

#include <exception>
#include <iostream>
#include <new>

#include <lumvet/base/nearest_word.h>
#include <lumvet/base/result.h>
#include <lumvet/version.h>
#include <CLI/CLI.hpp>

#include "console.h"
#include "printable.h"
#include "saving.h"
#include "verbs.h"

namespace {

// "lumvet arange", "lumvet split --evry 2": what was meant, in place of a list of all there is.
// Nothing when every word is known.
std::optional<std::string> misspelled(const CLI::App& app, int argc, char** argv) {
  if (argc < 2 || argv[1][0] == '-') return std::nullopt;
  std::vector<std::string> verbs;
  for (const CLI::App* verb : app.get_subcommands({})) verbs.push_back(verb->get_name());
  const std::string word = argv[1];
  const auto told = [](const std::string& what, const std::optional<std::string>& meant,
                       const std::string& list) {
    return what + (meant ? "; did you mean " + *meant + "?" : "; " + list + " lists them");
  };
  if (std::find(verbs.begin(), verbs.end(), word) == verbs.end())
    return told("there is no verb '" + word + "'", lumvet::nearest_word(word, verbs),
                "lumvet --help");
  const CLI::App& verb = *app.get_subcommand(word);
  const auto options_of = [](const CLI::App& of) {
    std::vector<std::string> names;
    for (const CLI::Option* option : of.get_options())
      for (const std::string& name : option->get_lnames()) names.push_back("--" + name);
    return names;
  };
  std::vector<std::string> options = options_of(verb);
  for (const CLI::App* group : verb.get_subcommands({}))
    for (const std::string& name : options_of(*group)) options.push_back(name);
  const std::string command = "lumvet " + word;
  for (int i = 2; i < argc && std::string(argv[i]) != "--"; ++i) {
    const std::string option = std::string(argv[i]).substr(0, std::string(argv[i]).find('='));
    if (option.size() > 2 && option.starts_with("--") &&
        std::find(options.begin(), options.end(), option) == options.end())
      return told(std::string(command).append(" has no option ").append(option),
                  lumvet::nearest_word(option, options), command + " --help");
  }
  return std::nullopt;
}

// Whoever started this may have closed them; the next file opened would then take the place of one,
// and what is told would be written into it. What is opened for reading stays as good as closed.
void keep_standard_streams() {
  int place = 0;
  while (place >= 0 && place <= STDERR_FILENO) place = ::open("/dev/null", O_RDONLY | O_CLOEXEC);
  if (place > STDERR_FILENO) ::close(place);
}

}  // namespace

int main(int argc, char** argv) {
  keep_standard_streams();
  const tool::PrintableOutput printable;
  CLI::App app{
      "Looks at PDF documents, draws and reads their pages, binds, cuts, arranges, locks and mends "
      "them.\n"
      "Nothing leaves this machine, and no existing file is replaced unless you say --replace."};
  app.name("lumvet");
  app.set_version_flag("--version", "lumvet " LUMVET_VERSION_TEXT);
  app.require_subcommand(1);
  app.formatter(tool::help_formatter());
  app.option_defaults()->always_capture_default();
  app.footer(
      "Examples:\n"
      "  lumvet inspect report.pdf\n"
      "  lumvet render report.pdf --pages 3 --dpi 150 -o sheet.png\n"
      "  lumvet find 'swing bridge' report.pdf\n"
      "  lumvet merge report.pdf annex.pdf@1-2,last scans/ -o book.pdf\n"
      "  lumvet split manual.pdf -o chapters/ --outline 1\n"
      "  lumvet arrange scans.pdf 'rotate 3 right' 'drop last' -o right.pdf\n"
      "  lumvet linearize manual.pdf -o web/manual.pdf\n"
      "  lumvet repair cut-off.pdf -o mended.pdf\n\n"
      "Each verb explains itself: lumvet merge --help\n"
      "What -o means, layouts, protection: lumvet help saving\n"
      "Exit codes: 0 done, with notes where there are any; 1 could not be done, or with --strict "
      "there would be notes; 2 wrong usage.");
  tool::Run run;
  tool::add_inspect(app, run);
  tool::add_render(app, run);
  tool::add_text(app, run);
  tool::add_find(app, run);
  tool::add_merge(app, run);
  tool::add_split(app, run);
  tool::add_arrange(app, run);
  tool::add_annotate(app, run);
  tool::add_fill(app, run);
  tool::add_redact(app, run);
  tool::add_sign(app, run);
  tool::add_verify(app, run);
  tool::add_prolong(app, run);
  tool::add_trust(app, run);
  tool::add_attach(app, run);
  tool::add_set(app, run);
  tool::add_linearize(app, run);
  tool::add_protect(app, run);
  tool::add_repair(app, run);
  tool::add_compose(app, run);
  tool::add_help(app, run);
  if (const auto what = misspelled(app, argc, argv)) return tool::wrong_usage(*what);
  try {
    app.parse(argc, argv);
  } catch (const CLI::ParseError& error) {
    if (error.get_exit_code() == 0) {
      app.exit(error);
      return tool::finish_output(tool::kDone);
    }
    app.exit(error);
    return tool::kWrongUsage;
  }
  tool::watch_for_interruption();
  try {
    const int code = tool::finish_output(run());
    constexpr int kInterrupted = 130;  // as shells have it
    return tool::interruption().is_cancelled() ? kInterrupted : code;
  } catch (const lumvet::ResultError& error) {
    return tool::fail(error.error());
  } catch (const std::bad_alloc&) {
    std::cerr << "lumvet: there is not enough memory for this; nothing was written but what was "
                 "told before\n";
  } catch (const std::exception&) {
    std::cerr << "lumvet: something went wrong within lumvet itself; please report it with the "
                 "command and the file\n";
  }
  return tool::kFailed;
}

// SPDX-License-Identifier: Apache-2.0
// lumvet arrange: a document's pages in another order, rotated, cropped, with others among them.
#include <algorithm>
#include <iostream>
#include <memory>

#include <CLI/CLI.hpp>

#include "arrange_steps.h"
#include "console.h"
#include "files.h"
#include "json.h"
#include "saving.h"
#include "verbs.h"

namespace tool {
namespace {

struct ArrangeArguments {
  std::string input;
  std::vector<std::string> steps;
  bool json = false;
  Saving saving;
  Secrets secrets;
};

using Sources = std::vector<std::vector<int>>;

// Pages that follow each other as they did are one line, and each sheet is one.
void print_order(const Sources& pages) {
  std::vector<int> order;
  for (const std::vector<int>& sources : pages)
    order.push_back(sources.empty() ? -1 : sources.front());
  const auto span = [](std::size_t first, std::size_t last) {
    return first == last ? "page " + std::to_string(first)
                         : "pages " + std::to_string(first) + "-" + std::to_string(last);
  };
  const std::size_t widest = span(order.size() - 1, order.size()).size();
  for (std::size_t i = 0; i < order.size();) {
    const auto goes_on = [&](std::size_t at) {
      if (pages[i].size() > 1 || pages[at].size() > 1) return false;
      return order[i] < 0 ? order[at] < 0 : order[at] == order[at - 1] + 1;
    };
    std::size_t end = i + 1;
    while (end < order.size() && goes_on(end)) ++end;
    std::string now = span(i + 1, end);
    now.resize(std::max(widest, now.size()), ' ');
    const auto first = static_cast<std::size_t>(order[i] + 1);
    std::string before = (end - i == 1 ? "was " : "were ") + span(first, first + end - i - 1);
    if (pages[i].size() > 1) {
      before = "holds pages ";
      for (const int page : pages[i])
        before += (page == pages[i].front() ? "" : ", ") + std::to_string(page + 1);
    }
    std::cout << "  " << now << "  " << (order[i] < 0 ? "inserted" : before) << '\n';
    i = end;
  }
}

// What a page was before: a number, several on a sheet, or null.
Json former(const std::vector<int>& sources) {
  if (sources.empty()) return nullptr;
  if (sources.size() == 1) return sources.front() + 1;
  Json all = Json::array();
  for (const int source : sources) all.push_back(source + 1);
  return all;
}

void print(const ArrangeArguments& options, const ArrangedPages& pages, const Sources& sources,
           const lumvet::SaveReport& report) {
  if (options.json) {
    Json json{{"file", options.saving.output}, {"written", !options.saving.only_plans},
              {"steps", pages.steps()},        {"pages", Json::array()},
              {"bytes", report.bytes},         {"findings", findings_json(report.findings)}};
    for (const std::vector<int>& page : sources) json["pages"].push_back(former(page));
    print_json(json);
    return;
  }
  for (const std::string& step : pages.steps()) std::cout << step << '\n';
  if (options.saving.only_plans) print_order(sources);
  std::cout << options.saving.output << "  " << count_of(sources.size(), "page", "pages")
            << (options.saving.only_plans ? ", nothing was written"
                                          : ", " + size_for_people(report.bytes))
            << '\n';
}

int run(const ArrangeArguments& options) {
  if (const auto free = check_output(options.saving); !free.ok()) return fail(free.error());
  if (const auto other = check_not_input(options.input, options.saving); !other.ok())
    return refuse(other.error());
  const auto document = open_document(options.input, options.secrets);
  if (!document.ok()) return fail(document.error());
  if (const auto good = check_undamaged(*document); is_strict() && !good.ok())
    return fail(good.error());
  ArrangedPages pages(*document);
  for (const std::string& step : options.steps) {
    const lumvet::Status done = do_step(step, options.secrets, pages);
    if (done.ok()) continue;
    return refuse(done.error());
  }
  const auto arranged = pages.sources();
  if (!arranged.ok()) return fail(arranged.error());
  if (options.saving.only_plans) {
    print(options, pages, *arranged, {});
    return kDone;
  }
  if (options.saving.appends && pages.is_on_sheets())
    return wrong_usage("sheets are a new document, which cannot be appended to the old one");
  const auto report = save_edited(pages.document(), options.input, options.saving);
  if (!report.ok()) return fail(report.error());
  if (options.saving.output == "-") return report_findings(report->findings);
  print(options, pages, *arranged, *report);
  std::cout << std::flush;
  if (options.json) return code_for(report->findings);
  return report_findings(report->findings);
}

}  // namespace

void add_arrange(CLI::App& app, Run& chosen) {
  auto options = std::make_shared<ArrangeArguments>();
  CLI::App* verb = app.add_subcommand(
      "arrange", "Put a document's pages in another order, rotate them, draw on them");
  verb->add_option("input", options->input, "The document")->required()->type_name("FILE");
  verb->add_option("steps", options->steps, "What to do, one step after the other")
      ->required()
      ->type_name("STEP");
  add_saving_options(*verb, options->saving);
  add_change_options(*verb, options->saving, "Print the new order, and write nothing");
  add_strict_option(*verb);
  verb->add_flag("--json", options->json, "Print what was done for programs");
  add_secret_options(*verb, options->secrets);
  verb->footer(
      "Steps:\n" + std::string(kArrangeSteps) +
      ".\n"
      "Each counts the pages as they are after the step before.\n"
      "Examples:\n"
      "  lumvet arrange scans.pdf 'rotate 3,5 right' 'drop last' -o right.pdf\n"
      "  lumvet arrange scans.pdf 'interleave reversed' -o sheets.pdf   fronts, then backs\n"
      "  lumvet arrange book.pdf 'move 9-12 before 1' 'blank 1 after 4' -o new.pdf --dry-run\n"
      "  lumvet arrange book.pdf 'insert cover.pdf before 1' -o whole.pdf\n"
      "  lumvet arrange letter.pdf 'overlay paper.pdf on 1 beneath' -o printed.pdf\n"
      "  lumvet arrange book.pdf \"write '{label}' on 3-last at bottom-right\" -o numbered.pdf\n"
      "  lumvet arrange book.pdf \"write 'DRAFT' on all rotated 45 opacity 15\" -o draft.pdf\n"
      "  lumvet arrange book.pdf 'booklet A4' -o booklet.pdf");
  verb->callback([options, &chosen] { chosen = [options] { return run(*options); }; });
}

}  // namespace tool

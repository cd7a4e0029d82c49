// SPDX-License-Identifier: Apache-2.0
// lumvet annotate: marks on pages listed, added, taken away, drawn into the pages.
#include <algorithm>
#include <iostream>
#include <map>
#include <memory>
#include <set>

#include <lumvet/annotate/mark_list.h>
#include <lumvet/base/nearest_word.h>
#include <lumvet/draw/color.h>
#include <lumvet/exchange/mark_summary.h>
#include <lumvet/text/document_search.h>
#include <CLI/CLI.hpp>

#include "console.h"
#include "exchanged_files.h"
#include "files.h"
#include "inspect/lines.h"
#include "json.h"
#include "printable.h"
#include "saving.h"
#include "verbs.h"

namespace tool {
namespace {

using lumvet::Annotation;
using lumvet::Error;
using lumvet::ErrorCode;
using Kind = Annotation::Kind;

struct AnnotateArguments {
  std::string input;
  bool lists = false;
  bool json = false;
  bool csv = false;
  std::string add;
  std::vector<std::string> highlight;
  bool is_pattern = false;
  std::string as = "highlight";
  std::string color;
  std::string author;
  std::string contents;
  std::string pages = "all";
  std::string remove;
  bool flattens = false;
  std::string only;
  std::string exported;
  std::string summary;
  Saving saving;
  Secrets secrets;

  bool changes() const { return !add.empty() || !highlight.empty() || !remove.empty() || flattens; }
};

// "ink,stamp"; none for an empty text. Errors: invalid_argument, with the nearest.
lumvet::Result<std::vector<Kind>> kinds_of(const std::string& text) {
  std::vector<Kind> kinds;
  for (std::size_t at = 0; at < text.size();) {
    const std::size_t end = std::min(text.find(',', at), text.size());
    const std::string name = text.substr(at, end - at);
    const auto kind = lumvet::mark_kind(name);
    if (!kind) {
      std::vector<std::string> names;
      for (int i = 0; i <= static_cast<int>(Kind::other); ++i)
        if (const auto known = lumvet::name_of(static_cast<Kind>(i)); !known.empty())
          names.emplace_back(known);
      const auto near = lumvet::nearest_word(name, names);
      std::string all;
      for (const std::string& known : names) all += (all.empty() ? "" : ", ") + known;
      return Error(ErrorCode::invalid_argument,
                   "'" + name + "' is no kind of mark; " +
                       (near ? "did you mean " + *near + "?" : "there are " + all));
    }
    kinds.push_back(*kind);
    at = end + 1;
  }
  return kinds;
}

bool is_one_of(Kind kind, const std::vector<Kind>& kinds) {
  return kinds.empty() || std::find(kinds.begin(), kinds.end(), kind) != kinds.end();
}

// With the answers to a mark below it. Gives how many there are of them, and it.
std::size_t print_mark(const std::vector<Annotation>& marks, const Annotation& mark, int page,
                       int depth, std::set<lumvet::ObjectId>& printed) {
  if (!printed.insert(mark.id).second && mark.id != lumvet::ObjectId()) return 0;
  std::cout << std::string(static_cast<std::size_t>(2 * depth + 2), ' ');
  if (depth == 0) std::cout << "page " << page + 1 << "  " << lumvet::name_of(mark.kind) << "  ";
  if (!mark.author.empty()) std::cout << mark.author;
  const std::string& date = mark.modified.empty() ? mark.created : mark.modified;
  if (!date.empty()) std::cout << (mark.author.empty() ? "" : ", ") << date.substr(0, 16);
  if (!mark.review_state.empty())
    std::cout << ": " << mark.review_state;
  else if (!mark.contents.empty())
    std::cout << (mark.author.empty() && date.empty() ? "" : ": ") << on_one_line(mark.contents);
  std::cout << '\n';
  std::size_t count = 1;
  for (const Annotation& other : marks)
    if (other.in_reply_to == mark.id && mark.id != lumvet::ObjectId())
      count += print_mark(marks, other, page, depth + 1, printed);
  return count;
}

int list(const AnnotateArguments& options, const lumvet::Document& document) {
  const auto kinds = kinds_of(options.only);
  if (!kinds.ok()) return wrong_usage(kinds.error().message());
  if (options.json || options.csv) {
    const auto text = options.json ? lumvet::marks_as_json(document, *kinds)
                                   : lumvet::marks_as_csv(document, *kinds);
    if (!text.ok()) return fail(text.error());
    const auto written = StandardOutput().write(lumvet::as_bytes(*text));
    return written.ok() ? kDone : fail(written.error());
  }
  std::map<Kind, std::size_t> counts;
  std::size_t count = 0;
  const auto all = document.annotations();
  if (!all.ok()) return fail(all.error());
  int index = 0;
  for (const std::vector<Annotation>& marks : *all) {
    std::set<lumvet::ObjectId> ids;
    for (const Annotation& mark : marks) ids.insert(mark.id);
    std::set<lumvet::ObjectId> printed;
    for (const Annotation& mark : marks) {
      if (!lumvet::is_listed(mark.kind) || !is_one_of(mark.kind, *kinds)) continue;
      const bool is_answer = mark.in_reply_to && ids.contains(*mark.in_reply_to);
      if (!is_answer) count += print_mark(marks, mark, index, 0, printed);
    }
    ++index;
  }
  std::cout << count_of(count, "mark", "marks") << '\n';
  return kDone;
}

lumvet::Status export_list(const AnnotateArguments& options, const lumvet::Document& document) {
  LUMVET_TRY(const std::vector<Kind> kinds, kinds_of(options.only));
  LUMVET_TRY(const std::string text, marks_for_file(options.exported, document, kinds));
  LUMVET_TRY(auto file, lumvet::AtomicFile::create(
                            options.exported, options.saving.replace ? lumvet::IfExists::replace
                                                                     : lumvet::IfExists::refuse));
  LUMVET_RETURN_IF_ERROR(file.write(lumvet::as_bytes(text)));
  return file.commit();
}

// The remarks as a document to print.
lumvet::Status summarize(const AnnotateArguments& options, const lumvet::Document& document) {
  lumvet::SummaryOptions how;
  LUMVET_TRY(how.kinds, kinds_of(options.only));
  LUMVET_TRY(how.pages, lumvet::PageSelection::parse(options.pages));
  LUMVET_TRY(const lumvet::Document summary, lumvet::mark_summary(document, how));
  LUMVET_TRY(const lumvet::SaveReport report,
             lumvet::save(summary, options.summary, {.replace = options.saving.replace}));
  std::cout << options.summary << "  "
            << count_of(static_cast<std::uint64_t>(report.pages), "page", "pages") << ", "
            << size_for_people(report.bytes) << '\n';
  return lumvet::Done{};
}

lumvet::Status add_list(const AnnotateArguments& options, lumvet::EditableDocument& changes) {
  LUMVET_TRY(const lumvet::Document now, changes.now());
  auto read = marks_from_file(options.add, now);
  if (!read.ok()) return std::move(read).error().about(options.add);
  report_findings(read->findings);
  if (read->marks.empty())
    return Error(ErrorCode::invalid_argument, options.add + " has no mark for this document");
  const auto added = lumvet::add_annotations(changes, read->marks);
  return added.ok() ? lumvet::Status(lumvet::Done{}) : added.error();
}

// Where the text is found, on the chosen pages.
lumvet::Status highlight(const AnnotateArguments& options, lumvet::EditableDocument& changes) {
  const auto kind = lumvet::mark_kind(options.as);
  const std::vector<Kind> on_text = {Kind::highlight, Kind::underline, Kind::squiggly,
                                     Kind::strike_out, Kind::redact};
  if (!kind || !is_one_of(*kind, on_text))
    return Error(
        ErrorCode::invalid_argument,
        "text is marked as highlight, underline, squiggly, strike-out or redaction, not as '" +
            options.as + "'");
  LUMVET_TRY(const lumvet::Document now, changes.now());
  LUMVET_TRY(const lumvet::PageSelection selection, lumvet::PageSelection::parse(options.pages));
  LUMVET_TRY(const std::vector<int> chosen, selection.in(now.page_count()));
  const std::set<int> pages(chosen.begin(), chosen.end());
  std::vector<lumvet::NewMark> marks;
  for (const std::string& text : options.highlight) {
    LUMVET_TRY(const lumvet::TextSearch search,
               lumvet::TextSearch::of(text, {.is_pattern = options.is_pattern}));
    const std::size_t before = marks.size();
    const auto mark = [&](int index, const lumvet::PageWords& words,
                          const lumvet::TextSpan& span) -> lumvet::Status {
      if (!pages.contains(index)) return lumvet::Done{};
      LUMVET_TRY(const lumvet::Page page, now.page(index));
      Annotation made = lumvet::text_mark(page, *kind, words.quads(span.begin, span.end));
      made.author = options.author;
      made.contents = options.contents;
      if (!options.color.empty()) {
        LUMVET_TRY(const lumvet::Color color, lumvet::Color::parse(options.color));
        made.color = color.parts();
      }
      marks.push_back({.page = index, .annotation = std::move(made)});
      return lumvet::Done{};
    };
    lumvet::DocumentSearch looking({now}, search, {.cancel = interruption()});
    LUMVET_RETURN_IF_ERROR(looking.go_on([&](const lumvet::DocumentHits& found) -> lumvet::Status {
      const lumvet::PageHits& hits = found.page;
      for (const lumvet::TextSpan& hit : hits.hits)
        LUMVET_RETURN_IF_ERROR(mark(hits.page, hits.words, hit));
      for (const lumvet::HitAcross& hit : hits.across) {
        LUMVET_RETURN_IF_ERROR(mark(hits.page, hits.words, hit.here));
        LUMVET_RETURN_IF_ERROR(mark(hits.page + 1, *hits.next, hit.next));
      }
      return lumvet::Done{};
    }));
    if (marks.size() == before)
      return Error(ErrorCode::invalid_argument, "'" + text + "' is not found on these pages");
  }
  const auto added = lumvet::add_annotations(changes, marks);
  return added.ok() ? lumvet::Status(lumvet::Done{}) : added.error();
}

lumvet::Status remove(const AnnotateArguments& options, lumvet::EditableDocument& changes) {
  LUMVET_TRY(const std::vector<Kind> kinds,
             kinds_of(options.remove == "all" ? "" : options.remove));
  LUMVET_TRY(const lumvet::Document now, changes.now());
  LUMVET_TRY(const lumvet::PageSelection selection, lumvet::PageSelection::parse(options.pages));
  LUMVET_TRY(const std::vector<int> chosen, selection.in(now.page_count()));
  std::vector<lumvet::ObjectId> ids;
  for (const int index : chosen) {
    LUMVET_TRY(const lumvet::Page page, now.page(index));
    LUMVET_TRY(const std::vector<Annotation> marks, page.annotations());
    for (const Annotation& mark : marks)
      if (mark.id != lumvet::ObjectId() && lumvet::is_listed(mark.kind) &&
          is_one_of(mark.kind, kinds) && (!kinds.empty() || mark.kind != Kind::link))
        ids.push_back(mark.id);
  }
  if (ids.empty())
    return Error(ErrorCode::invalid_argument, "there is no such mark on these pages");
  return lumvet::remove_annotations(changes, ids);
}

lumvet::Status flatten(const AnnotateArguments& options, lumvet::EditableDocument& changes) {
  LUMVET_TRY(const std::vector<Kind> kinds, kinds_of(options.only));
  LUMVET_TRY(const lumvet::PageSelection selection, lumvet::PageSelection::parse(options.pages));
  LUMVET_TRY(const int count, lumvet::flatten_annotations(changes, selection, {.kinds = kinds}));
  if (count == 0)
    return Error(ErrorCode::invalid_argument, "there is nothing to flatten on these pages");
  return lumvet::Done{};
}

lumvet::Status change(const AnnotateArguments& options, lumvet::EditableDocument& changes) {
  if (!options.remove.empty()) LUMVET_RETURN_IF_ERROR(remove(options, changes));
  if (!options.add.empty()) LUMVET_RETURN_IF_ERROR(add_list(options, changes));
  if (!options.highlight.empty()) LUMVET_RETURN_IF_ERROR(highlight(options, changes));
  return options.flattens ? flatten(options, changes) : lumvet::Status(lumvet::Done{});
}

int run(const AnnotateArguments& options) {
  if (options.changes()) {
    if (options.lists || options.csv)
      return wrong_usage("marks are listed or changed, not both at once");
    if (options.saving.output.empty())
      return wrong_usage("-o is missing: the name of the new document");
    if (const auto other = check_not_input(options.input, options.saving); !other.ok())
      return refuse(other.error());
    if (const auto free = check_output(options.saving); !free.ok()) return fail(free.error());
  }
  const auto document = open_document(options.input, options.secrets);
  if (!document.ok()) return fail(document.error());
  if (!options.exported.empty()) {
    if (const auto done = export_list(options, *document); !done.ok()) return fail(done.error());
    if (!options.changes() && options.summary.empty()) return kDone;
  }
  if (!options.summary.empty()) {
    if (const auto done = summarize(options, *document); !done.ok()) return refuse(done.error());
    if (!options.changes()) return kDone;
  }
  if (!options.changes()) return list(options, *document);
  lumvet::EditableDocument changes = lumvet::EditableDocument::of(*document);
  if (const auto done = change(options, changes); !done.ok()) return refuse(done.error());
  return save_changes(changes, options.input, options.saving, options.json);
}

}  // namespace

void add_annotate(CLI::App& app, Run& chosen) {
  auto options = std::make_shared<AnnotateArguments>();
  CLI::App* verb = app.add_subcommand("annotate", "List, add, remove and flatten marks on pages");
  verb->add_option("input", options->input, "The document")->required()->type_name("FILE");
  verb->add_flag("--list", options->lists, "List the marks, with the answers to them");
  auto* json = verb->add_flag("--json", options->json, "As JSON, that --add reads");
  verb->add_flag("--csv", options->csv, "As a table")->excludes(json);
  verb->add_option("--export", options->exported, "The list into a file")
      ->type_name("FILE.xfdf|.fdf|.json|.csv");
  verb->add_option("--summary", options->summary,
                   "The remarks page by page, with pictures of their places, to print")
      ->type_name("OUT.pdf");
  verb->add_option("--add", options->add, "Marks from a file; - for JSON on standard input")
      ->type_name("MARKS.json|.xfdf|.fdf");
  one_at_a_time(
      *verb->add_option("--highlight", options->highlight, "Mark text wherever it is found")
           ->type_name("TEXT"));
  verb->add_flag("--pattern", options->is_pattern, "TEXT is a regular expression");
  verb->add_option("--as", options->as,
                   "How text is marked: highlight, underline, squiggly, strike-out or redaction")
      ->type_name("KIND");
  verb->add_option("--color", options->color, "Of what is marked: #FFE066")->type_name("COLOR");
  verb->add_option("--author", options->author, "Who marks it")->type_name("TEXT");
  verb->add_option("--contents", options->contents, "What is said of it")->type_name("TEXT");
  verb->add_option("--remove", options->remove,
                   "Marks of these kinds, with the answers to them; all for all but links")
      ->type_name("KIND,…");
  verb->add_flag("--flatten", options->flattens,
                 "Draw marks and fields into the pages, all but links");
  verb->add_option("--only", options->only,
                   "What is listed, exported, summed up or flattened: note,ink,field")
      ->type_name("KIND,…");
  verb->add_option("--pages", options->pages,
                   "Where text is marked, and marks removed or flattened")
      ->type_name("PAGES");
  add_saving_options(*verb, options->saving, false);
  add_change_options(*verb, options->saving);
  add_strict_option(*verb);
  add_secret_options(*verb, options->secrets);
  verb->footer(
      "A list of marks is an array of objects: page from 1, kind, and area (left, top, width, "
      "height),\n"
      "points, quads or strokes in points from the page's top left corner. See "
      "docs/guides/mark-up.md\n"
      "Examples:\n"
      "  lumvet annotate drawing.pdf --list\n"
      "  lumvet annotate report.pdf --highlight 'urgent' --author Ilse -o marked.pdf\n"
      "  lumvet annotate drawing.pdf --export marks.xfdf\n"
      "  lumvet annotate next-issue.pdf --add marks.xfdf -o marked.pdf\n"
      "  lumvet annotate marked.pdf --flatten -o for-the-archive.pdf");
  verb->callback([options, &chosen] { chosen = [options] { return run(*options); }; });
}

}  // namespace tool

// SPDX-License-Identifier: Apache-2.0
// What a document is at a glance, from what can be read at once, however many pages it has.
#include <algorithm>
#include <map>
#include <set>
#include <sstream>

#include "../console.h"
#include "facts.h"
#include "lines.h"

namespace tool {
namespace {

constexpr int kPagesLookedAt = 32;

// A list beside its label.
void beside(const Facts& facts, void (*print)(const Facts&, std::ostream&), std::ostream& out) {
  std::stringstream lines;
  print(facts, lines);
  for (std::string text; std::getline(lines, text);) line(out, "", text.substr(2));
}

// The beginning of a list, and how to see the rest.
template <typename Value>
void shortened(std::vector<Value> values, const char* section,
               FactList (*facts)(std::vector<Value>), void (*print)(const Facts&, std::ostream&),
               std::ostream& out) {
  constexpr std::size_t kMost = 12;
  const bool is_cut = values.size() > kMost;
  if (is_cut) values.erase(values.begin() + kMost, values.end());
  beside(facts(std::move(values)), print, out);
  if (is_cut) line(out, "", "… --show " + std::string(section) + " lists all");
}

template <typename Values>
std::string count_or_none(const Values& values) {
  return values.empty() ? "none" : std::to_string(values.size());
}

void print_labels(const lumvet::Document& document, std::ostream& out) {
  const int pages = document.page_count();
  if (pages == 0 || !document.has_page_labels().value()) return;
  const std::string first = document.page_label(0).value();
  const std::string last = document.page_label(pages - 1).value();
  if (first == "1" && last == std::to_string(pages)) return;
  line(out, "Page labels", first == last ? first : first + " to " + last);
}

void print_outline(const lumvet::Document& document, std::ostream& out) {
  constexpr std::size_t kMostCounted = 5000;
  std::vector<lumvet::OutlineEntry> entries = document.outline(kMostCounted + 1).value();
  line(out, "Outline",
       entries.size() > kMostCounted ? "more than " + std::to_string(kMostCounted) + " entries"
       : entries.empty()             ? "none"
                                     : count_of(entries.size(), "entry", "entries"));
  shortened<lumvet::OutlineEntry>(std::move(entries), "outline", facts::outline_list,
                                  listing::outline, out);
}

void print_form(const lumvet::Document& document, std::ostream& out) {
  const Facts form = facts::form(document);
  if (!form.list.empty()) line(out, "Form", count_of(form.list.size(), "field", "fields"));
  if (form["signatures"].empty()) return;
  line(out, "Signatures",
       std::to_string(form["signatures"].size()) + ", not judged here: lumvet verify");
  for (const Json& signature : form["signatures"])
    line(out, "", listing::signature_line(signature));
}

void print_layers(const lumvet::Document& document, std::ostream& out) {
  const Facts layers = facts::layers(document);
  if (layers["all"].empty()) return;
  line(out, "Layers", std::to_string(layers["all"].size()));
  beside(layers, listing::layers, out);
}

void print_triggers(const lumvet::Document& document, std::ostream& out) {
  if (const auto triggers = document.triggers().value().size(); triggers > 0)
    line(out, "By itself",
         count_of(triggers, "thing", "things") + " it would do; Lumvet does none of them");
}

void print_attachments(const lumvet::Document& document, std::ostream& out) {
  auto files = document.attachments(kPagesLookedAt).value();
  line(out, "Attachments", count_or_none(files));
  shortened<lumvet::Attachment>(std::move(files), "attachments", facts::attachment_list,
                                listing::attachments, out);
}

// What lies on the first pages.
void print_pages(const lumvet::Document& document, std::ostream& out) {
  std::map<std::string, int> marks;
  std::set<lumvet::FontUse> fonts;
  std::set<lumvet::ImageUse> images;
  for (int i = 0; i < std::min(document.page_count(), kPagesLookedAt); ++i) {
    const auto page = document.page(i);
    if (!page.ok()) continue;
    for (const lumvet::Annotation& mark : page->annotations().value()) ++marks[mark.type];
    for (lumvet::FontUse& font : page->fonts().value()) fonts.insert(std::move(font));
    for (lumvet::ImageUse& image : page->images().value()) images.insert(std::move(image));
  }
  std::string kinds;
  int all = 0;
  for (const auto& [kind, count] : marks) {
    all += count;
    kinds += (kinds.empty() ? ": " : ", ") + std::to_string(count) + " " +
             (kind.empty() ? "of no type" : kind);
  }
  if (all > 0) line(out, "Annotations", std::to_string(all) + kinds);
  line(out, "Fonts", count_or_none(fonts));
  shortened<lumvet::FontUse>({fonts.begin(), fonts.end()}, "fonts", facts::font_list,
                             listing::fonts, out);
  if (!images.empty()) line(out, "Images", std::to_string(images.size()));
  if (document.page_count() > kPagesLookedAt)
    line(out, "Looked at",
         "the first " + std::to_string(kPagesLookedAt) +
             " pages; --show annotations,attachments,fonts,images looks at all");
}

}  // namespace

void print_summary(const lumvet::Document& document, std::ostream& out) {
  const Facts overview = facts::overview(document);
  const Facts protection = facts::protection(document);
  listing::at_a_glance(overview, protection, out);
  listing::properties(facts::properties(document), out);
  listing::details(overview, out);
  if (!protection.value.is_null()) listing::protection(protection, out);
  facts::reading("pages", [&] { print_labels(document, out); });
  facts::reading("outline", [&] { print_outline(document, out); });
  facts::reading("form", [&] { print_form(document, out); });
  facts::reading("layers", [&] { print_layers(document, out); });
  line(out, "Tagged", document.catalog()["StructTreeRoot"].is_null() ? "no" : "yes");
  facts::reading("triggers", [&] { print_triggers(document, out); });
  facts::reading("attachments", [&] { print_attachments(document, out); });
  facts::reading("pages", [&] { print_pages(document, out); });
}

}  // namespace tool

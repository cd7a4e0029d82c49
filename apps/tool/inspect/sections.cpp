// SPDX-License-Identifier: Apache-2.0
#include "sections.h"

#include <map>
#include <sstream>

#include "../console.h"
#include "facts.h"
#include "lines.h"

namespace tool {
namespace {

std::string protection_in_words(const Json& facts) {
  std::string text = facts["by"] == "certificate" ? "yes, for certificates" : "yes, by password";
  if (facts["cipher"] != "")
    text += " (" + facts["cipher"].get<std::string>() + ", " + facts["key_bits"].dump() + " bits)";
  if (facts["attachments_only"].get<bool>()) text += ", attachments only";
  if (!facts["metadata_encrypted"].get<bool>()) text += ", metadata left clear";
  return text;
}

// A list beside its label.
void beside(const Json& facts, void (*print)(const Json&, std::ostream&), std::ostream& out) {
  std::stringstream lines;
  print(facts, lines);
  for (std::string text; std::getline(lines, text);) line(out, "", text.substr(2));
}

// The beginning of a list, and how to see the rest.
void shortened(const Json& facts, const char* section, std::size_t most,
               void (*print)(const Json&, std::ostream&), std::ostream& out) {
  if (facts.size() <= most) return beside(facts, print, out);
  Json first = Json::array();
  for (std::size_t i = 0; i < most; ++i) first.push_back(facts[i]);
  beside(first, print, out);
  line(out, "", "… --show " + std::string(section) + " lists all");
}

// "12: 10 Link, 2 Highlight".
std::string counted(const Json& list, const char* key) {
  std::map<std::string, int> kinds;
  for (const Json& item : list) ++kinds[item[key].get<std::string>()];
  std::string text = std::to_string(list.size()) + ":";
  for (const auto& [kind, count] : kinds)
    text += (text.back() == ':' ? " " : ", ") + std::to_string(count) + " " +
            (kind.empty() ? "of no type" : kind);
  return text;
}

std::string count_or_none(const Json& list) {
  return list.empty() ? "none" : std::to_string(list.size());
}

}  // namespace

void print_protection(const Json& facts, std::ostream& out) {
  line(out, "Encrypted", protection_in_words(facts));
  if (facts["access"] == "locked") return line(out, "Opened as", "nobody: it needs a password");
  if (facts["access"] == "owner") return line(out, "Opened as", "its owner, who may do everything");
  line(out, "Opened as", "its reader");
  line(out, "Allowed", joined(facts["allowed"]));
  line(out, "Not allowed", joined(facts["refused"]));
}

const std::vector<Section>& all_sections() {
  static const std::vector<Section> kSections = {
      {"overview", "pages, sizes, version, language, revisions", facts::overview, print::overview},
      {"properties", "title, author and the like", facts::properties, print::properties},
      {"protection", "how it is encrypted and what is allowed", facts::protection,
       print::protection},
      {"view", "how it asks to be shown and printed", facts::view, print::view},
      {"pages", "every page with its boxes", facts::pages, print::pages},
      {"outline", "its table of contents", facts::outline, print::outline},
      {"destinations", "places that have a name", facts::destinations, print::destinations},
      {"attachments", "files inside it", facts::attachments, print::attachments},
      {"annotations", "links and marks on pages", facts::annotations, print::annotations},
      {"form", "fields with their values", facts::form, print::form},
      {"layers", "what can be shown and hidden", facts::layers, print::layers},
      {"tags", "its structure for reading aloud", facts::tags, print::tags},
      {"triggers", "what it would do by itself; it is never done", facts::triggers,
       print::triggers},
      {"intents", "the printing it is meant for", facts::intents, print::intents},
      {"fonts", "fonts, embedded or not", facts::fonts, print::fonts},
      {"images", "images with their sizes", facts::images, print::images},
      {"findings", "what is damaged or odd", facts::findings, print::findings}};
  return kSections;
}

void print_summary(const Json& facts, std::ostream& out) {
  print::at_a_glance(facts, out);
  print::properties(facts["properties"], out);
  print::details(facts["overview"], out);
  if (!facts["protection"].is_null()) print::protection(facts["protection"], out);
  const Json& pages = facts["pages"];
  const auto has_label = [](const Json& page) { return page["label"] != page["number"].dump(); };
  if (std::any_of(pages.begin(), pages.end(), has_label)) {
    const auto first = pages.front()["label"].get<std::string>();
    const auto last = pages.back()["label"].get<std::string>();
    line(out, "Page labels", first == last ? first : first + " to " + last);
  }
  constexpr std::size_t kMostEntries = 12;
  const Json& outline = facts["outline"];
  line(out, "Outline", outline.empty() ? "none" : count_of(outline.size(), "entry", "entries"));
  shortened(outline, "outline", kMostEntries, print::outline, out);
  if (!facts["annotations"].empty())
    line(out, "Annotations", counted(facts["annotations"], "type"));
  if (const Json& fields = facts["form"]["fields"]; !fields.empty())
    line(out, "Form", count_of(fields.size(), "field", "fields"));
  if (const Json& layers = facts["layers"]["all"]; !layers.empty()) {
    line(out, "Layers", std::to_string(layers.size()));
    beside(facts["layers"], print::layers, out);
  }
  const Json& elements = facts["tags"]["elements"];
  line(out, "Tagged",
       elements.empty() ? "no" : "yes, " + count_of(elements.size(), "element", "elements"));
  if (!facts["triggers"].empty())
    line(out, "By itself",
         count_of(facts["triggers"].size(), "thing", "things") +
             " it would do; Lumvet does none of them");
  line(out, "Attachments", count_or_none(facts["attachments"]));
  shortened(facts["attachments"], "attachments", kMostEntries, print::attachments, out);
  line(out, "Fonts", count_or_none(facts["fonts"]));
  shortened(facts["fonts"], "fonts", kMostEntries, print::fonts, out);
  if (!facts["images"].empty()) line(out, "Images", std::to_string(facts["images"].size()));
}

}  // namespace tool

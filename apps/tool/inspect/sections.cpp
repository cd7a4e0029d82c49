// SPDX-License-Identifier: Apache-2.0
#include "sections.h"

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
      {"overview", "pages, sizes, version, language, revisions", facts::overview,
       listing::overview},
      {"properties", "title, author and the like", facts::properties, listing::properties},
      {"protection", "how it is encrypted and what is allowed", facts::protection,
       listing::protection},
      {"view", "how it asks to be shown and printed", facts::view, listing::view},
      {"pages", "every page with its boxes", facts::pages, listing::pages},
      {"outline", "its table of contents", facts::outline, listing::outline},
      {"destinations", "places that have a name", facts::destinations, listing::destinations},
      {"attachments", "files inside it", facts::attachments, listing::attachments},
      {"annotations", "links and marks on pages", facts::annotations, listing::annotations},
      {"form", "fields with their values", facts::form, listing::form},
      {"layers", "what can be shown and hidden", facts::layers, listing::layers},
      {"tags", "its structure for reading aloud", facts::tags, listing::tags},
      {"triggers", "what it would do by itself; it is never done", facts::triggers,
       listing::triggers},
      {"intents", "the printing it is meant for", facts::intents, listing::intents},
      {"articles", "texts that go on from page to page", facts::articles, listing::articles},
      {"fonts", "fonts, embedded or not", facts::fonts, listing::fonts},
      {"images", "images with their sizes", facts::images, listing::images},
      {"findings", "what is damaged or odd", facts::findings, listing::findings}};
  return kSections;
}

}  // namespace tool

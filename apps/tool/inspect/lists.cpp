// SPDX-License-Identifier: Apache-2.0
// Each section in full, for a person.
#include "../console.h"
#include "lines.h"

namespace tool::listing {
namespace {

std::string indent(const Json& depth) { return std::string(2 * depth.get<std::size_t>(), ' '); }

std::string text_of(const Json& value) { return value.get<std::string>(); }

// "(title): what" or only what is there.
std::string with_note(const std::string& text, const std::string& note) {
  if (note.empty()) return text;
  return text.empty() ? note : text + ": " + note;
}

std::string linearized_in_words(const Facts& facts) {
  if (facts["was_linearized"].get<bool>()) return "once, but updated since (no fast web view)";
  if (!facts["linearized"].get<bool>()) return "no (no fast web view)";
  const Json& differences = facts["linear_differences"];
  if (differences.empty()) return "yes (fast web view)";
  return "yes (fast web view), but with wrong tables: " + text_of(differences[0]) +
         (differences.size() > 1 ? ", and " + std::to_string(differences.size() - 1) + " more"
                                 : "");
}

}  // namespace

void at_a_glance(const Facts& overview, const Facts& protection, std::ostream& out) {
  const Json& sizes = overview["sizes"];
  std::string pages = count_of(overview["page_count"].get<std::uint64_t>(), "page", "pages");
  if (sizes.size() == 1)
    pages += ", " + paper_in_words(sizes[0]["points"][0], sizes[0]["points"][1]);
  else if (sizes.size() > 1)
    pages += " of " + count_of(sizes.size(), "size", "sizes");
  item(out, pages);
  item(out, size_for_people(overview["bytes"]) + ", PDF " + text_of(overview["version"]) +
                (overview["linearized"].get<bool>() ? ", linearized" : ", not linearized") +
                (protection.value.is_null() ? ", not encrypted" : ", encrypted"));
}

void details(const Facts& facts, std::ostream& out) {
  const Json& sizes = facts["sizes"];
  constexpr std::size_t kMostShown = 6;
  for (std::size_t i = 0; sizes.size() > 1 && i < sizes.size() && i < kMostShown; ++i) {
    const auto pages = sizes[i]["pages"].get<std::vector<int>>();
    line(out, i == 0 ? "Page sizes" : "",
         size_in_words(sizes[i]["points"][0], sizes[i]["points"][1]) +
             (pages.size() == 1 ? ": page " : ": pages ") + ranges(pages));
  }
  if (sizes.size() > kMostShown)
    line(out, "", "and " + std::to_string(sizes.size() - kMostShown) + " other sizes");
  for (const Json& extension : facts["extensions"])
    line(out, "Extension",
         text_of(extension["prefix"]) + " " + text_of(extension["base_version"]) + " level " +
             extension["level"].dump());
  line(out, "Language", text_of(facts["language"]));
  if (const Json& collection = facts["collection"]; !collection.is_null())
    line(out, "Collection",
         collection["shown_first"] == ""
             ? "its attachments belong together; this is their cover"
             : "its attachments belong together; " + on_one_line(collection["shown_first"]) +
                   " is shown first");
  for (const Json& requirement : facts["requirements"])
    line(out, "Requires", on_one_line(requirement["type"]));
  if (facts["linearized"].get<bool>() || facts["was_linearized"].get<bool>())
    line(out, "Linearized", linearized_in_words(facts));
  if (const std::size_t revisions = facts["revisions"].size(); revisions > 1)
    line(out, "Updated", count_of(revisions - 1, "time", "times") + " after it was first saved");
  if (facts["repaired"].get<bool>())
    line(out, "Repaired", "yes, its cross references were useless");
}

void overview(const Facts& facts, std::ostream& out) {
  line(out, "Pages", facts["page_count"].dump());
  const Json& sizes = facts["sizes"];
  if (sizes.size() == 1)
    line(out, "Page size", size_in_words(sizes[0]["points"][0], sizes[0]["points"][1]));
  line(out, "File size", size_for_people(facts["bytes"]));
  line(out, "PDF version", text_of(facts["version"]));
  if (!facts["linearized"].get<bool>() && !facts["was_linearized"].get<bool>())
    line(out, "Linearized", linearized_in_words(facts));
  details(facts, out);
}

void properties(const Facts& facts, std::ostream& out) {
  struct Property {
    const char* key;
    const char* label;
  };
  for (const Property& property : std::initializer_list<Property>{{"title", "Title"},
                                                                  {"author", "Author"},
                                                                  {"subject", "Subject"},
                                                                  {"keywords", "Keywords"},
                                                                  {"creator", "Written with"},
                                                                  {"producer", "Produced by"},
                                                                  {"created", "Created"},
                                                                  {"modified", "Modified"},
                                                                  {"conformance", "Claims"}})
    line(out, property.label, text_of(facts[property.key]));
  for (const Json& disagreement : facts["disagreements"])
    line(out, "Disagreement", text_of(disagreement));
}

void protection(const Facts& facts, std::ostream& out) {
  if (facts.value.is_null())
    line(out, "Encrypted", "no");
  else
    print_protection(facts.value, out);
}

void view(const Facts& facts, std::ostream& out) {
  line(out, "Pages as", text_of(facts["layout"]));
  line(out, "Beside them", text_of(facts["mode"]));
  line(out, "Opens at", goal(facts["destination"], facts["actions"]));
  std::string wishes;
  struct Wish {
    const char* key;
    const char* words;
  };
  for (const Wish& wish : std::initializer_list<Wish>{{"hide_toolbar", "no toolbar"},
                                                      {"hide_menubar", "no menu bar"},
                                                      {"hide_controls", "no controls"},
                                                      {"fit_window", "window fitted to the page"},
                                                      {"center_window", "window in the middle"},
                                                      {"title_in_window", "title in the window"},
                                                      {"right_to_left", "read from right to left"}})
    if (facts[wish.key].get<bool>())
      wishes += (wishes.empty() ? "" : ", ") + std::string(wish.words);
  line(out, "Window", wishes);
  line(out, "Print scaling", text_of(facts["print_scaling"]));
  if (facts["duplex"] != "unstated") line(out, "Both sides", text_of(facts["duplex"]));
  if (facts["copies"] != 1) line(out, "Copies", facts["copies"].dump());
  for (const Json& range : facts["print_pages"])
    line(out, "Print pages", range[0].dump() + "-" + range[1].dump());
  line(out, "Enforced", joined(facts["enforced"]));
}

void outline(const Facts& facts, std::ostream& out) {
  for (const Json& entry : facts.list) {
    const std::string to = goal(entry["destination"], entry["actions"]);
    item(out, indent(entry["depth"]) + on_one_line(entry["title"]) +
                  (to.empty() ? "" : "  (" + to + ")"));
  }
}

void destinations(const Facts& facts, std::ostream& out) {
  for (const Json& destination : facts.list)
    item(out, on_one_line(destination["name"]) + "  " + goal(destination, {}) + ", " +
                  text_of(destination["view"]));
}

void triggers(const Facts& facts, std::ostream& out) {
  for (const Json& trigger : facts.list)
    item(out, text_of(trigger["event"]) + ": " + goal({}, trigger["actions"]));
}

void intents(const Facts& facts, std::ostream& out) {
  for (const Json& intent : facts.list)
    item(out, with_note(text_of(intent["subtype"]), text_of(intent["identifier"])) +
                  (intent["has_profile"].get<bool>()
                       ? ", with a profile of " + intent["components"].dump() + " components"
                       : ", without a profile"));
}

void articles(const Facts& facts, std::ostream& out) {
  for (const Json& article : facts.list) {
    std::vector<int> pages;
    for (const Json& part : article["parts"])
      if (!part["page"].is_null() && (pages.empty() || pages.back() != part["page"]))
        pages.push_back(part["page"]);
    item(out, (article["title"] == "" ? "(untitled)" : on_one_line(article["title"])) + ", " +
                  count_of(article["parts"].size(), "part", "parts") +
                  (pages.empty() ? "" : ", pages " + ranges(pages)));
  }
}

void attachments(const Facts& facts, std::ostream& out) {
  for (const Json& attachment : facts.list) {
    std::string text = on_one_line(attachment["name"]);
    if (!attachment["bytes"].is_null()) text += ", " + size_for_people(attachment["bytes"]);
    if (!attachment["page"].is_null()) text += ", on page " + attachment["page"].dump();
    // The document itself, within an unencrypted wrapper.
    if (attachment["payload"] != "")
      text += ", the document itself, encrypted by " + on_one_line(attachment["payload"]);
    item(out, with_note(text, on_one_line(attachment["description"])));
  }
}

void findings(const Facts& facts, std::ostream& out) {
  for (const Json& finding : facts.list) item(out, text_of(finding["text"]));
}

void pages(const Facts& facts, std::ostream& out) {
  for (const Json& page : facts.list) {
    std::string text = size_in_words(page["points"][0], page["points"][1]);
    if (page["label"] != page["number"].dump()) text = "“" + text_of(page["label"]) + "”  " + text;
    if (page["rotation"] != 0) text += ", turned " + page["rotation"].dump() + "°";
    const auto add = [&](const char* one, const char* many, std::size_t count) {
      if (count > 0) text += ", " + count_of(count, one, many);
    };
    add("font", "fonts", page["fonts"].size());
    add("image", "images", page["images"].size());
    add("annotation", "annotations", page["annotations"]);
    const Json& slide = page["presentation"];
    if (!slide["transition"].is_null())
      text += ", comes by " + on_one_line(slide["transition"]["style"]);
    if (!slide["seconds"].is_null()) text += ", stays " + number(slide["seconds"]) + " s";
    for (const Json& measured_area : page["measured_areas"]) {
      const Json& measure = measured_area["measure"];
      if (measure.is_null()) continue;
      const bool is_map = measure["kind"] == "map";
      text += is_map ? ", a map" : ", a drawing";
      if (!is_map && measure["scale"] != "") text += " (" + on_one_line(measure["scale"]) + ")";
    }
    for (const Json& intent : page["intents"])
      text += ", meant for " + on_one_line(intent["identifier"]);
    line(out, page["number"].dump(), text);
  }
}

// Why not all that is shown in a font can be read as text.
std::string unreadable_part(const Json& font) {
  const std::uint64_t unknown = font.value("unknown", std::uint64_t{0});
  if (unknown == 0) return "";
  const std::uint64_t all = font["characters"];
  return "; " + (unknown == all ? "none" : std::to_string(all - unknown)) + " of its " +
         count_of(all, "character", "characters") +
         " can be read as text: no map to Unicode, and no names in its encoding or program";
}

void fonts(const Facts& facts, std::ostream& out) {
  for (const Json& font : facts.list)
    item(out, (font["name"] == "" ? "(unnamed)" : on_one_line(font["name"])) + ", " +
                  text_of(font["kind"]) +
                  (!font["embedded"].get<bool>() ? ", not embedded"
                   : font["subset"].get<bool>()  ? ", embedded in part"
                                                 : ", embedded") +
                  unreadable_part(font));
}

void images(const Facts& facts, std::ostream& out) {
  for (const Json& image : facts.list) {
    std::string text = image["width"].dump() + " × " + image["height"].dump();
    if (image["stencil"].get<bool>()) text += ", stencil";
    if (image["color_space"] != "") text += ", " + text_of(image["color_space"]);
    if (image["bits"] != 0) text += ", " + count_of(image["bits"], "bit", "bits");
    if (image["masked"].get<bool>()) text += ", masked";
    const std::string filters = joined(image["filters"]);
    text += ", " + size_for_people(image["bytes"]) + (filters.empty() ? "" : " in " + filters);
    const auto pages = image["pages"].get<std::vector<int>>();
    text += (pages.size() == 1 ? ", page " : ", pages ") + ranges(pages);
    line(out, image["object"].is_null() ? "-" : text_of(image["object"]), text);
  }
}

void annotations(const Facts& facts, std::ostream& out) {
  for (const Json& mark : facts.list) {
    std::string text = mark["type"] == "" ? "(no type)" : text_of(mark["type"]);
    if (mark["author"] != "") text += " by " + on_one_line(mark["author"]);
    if (mark["modified"] != "") text += ", " + text_of(mark["modified"]);
    const std::string to = goal(mark["destination"], mark["actions"]);
    if (!to.empty()) text += " to " + to;
    if (mark["file"] != "") text += " of " + on_one_line(mark["file"]);
    line(out, "page " + mark["page"].dump(), with_note(text, on_one_line(mark["contents"])));
  }
}

// What it says of itself; lumvet verify judges it.
std::string signature_line(const Json& signature) {
  std::string text = text_of(signature["field"]) + ": ";
  text += signature["timestamp"].get<bool>() ? "a timestamp of the whole"
                                             : "signed by " + on_one_line(signature["name"]);
  for (const char* key : {"time", "reason", "place"})
    if (signature[key] != "") text += ", " + on_one_line(signature[key]);
  return text;
}

void form(const Facts& facts, std::ostream& out) {
  for (const Json& field : facts.list) {
    std::string text =
        indent(field["depth"]) + on_one_line(field["name"]) + ", " + text_of(field["kind"]);
    if (field["required"].get<bool>()) text += ", required";
    if (field["read_only"].get<bool>()) text += ", read only";
    if (field["signed"].get<bool>()) text += ", signed";
    const std::string values = field["terminal"].get<bool>() ? joined(field["values"]) : "";
    item(out, with_note(text, on_one_line(values)));
  }
  for (const Json& signature : facts["signatures"]) item(out, signature_line(signature));
  if (facts["needs_appearances"].get<bool>()) item(out, "(to be drawn anew by the viewer)");
  if (facts["has_xfa"].get<bool>()) item(out, "(also described as XML, which is left unread)");
}

void layers(const Facts& facts, std::ostream& out) {
  const Json& visible = facts["initial"]["visible"];
  for (std::size_t i = 0; i < facts["all"].size(); ++i)
    item(out, on_one_line(facts["all"][i]["name"]) +
                  (visible[i].get<bool>() ? ", shown" : ", hidden") +
                  (facts["initial"]["locked"][i].get<bool>() ? ", locked" : ""));
  for (const Json& other : facts["others"])
    item(out, other["name"] == "" ? "also configured in another way"
                                  : "also configured as “" + on_one_line(other["name"]) + "”");
}

void tags(const Facts& facts, std::ostream& out) {
  for (const Json& element : facts.list) {
    std::string text = indent(element["depth"]) + text_of(element["type"]);
    if (element["role"] != element["type"]) text += " (" + text_of(element["role"]) + ")";
    if (!element["page"].is_null()) text += ", page " + element["page"].dump();
    for (const char* key : {"title", "alternate", "actual_text"})
      if (element[key] != "") text += ", “" + on_one_line(element[key]) + "”";
    for (const Json& attribute : element["attributes"])
      text += ", " + on_one_line(attribute["name"]) + " " + on_one_line(attribute["value"]);
    item(out, text);
  }
}

}  // namespace tool::listing

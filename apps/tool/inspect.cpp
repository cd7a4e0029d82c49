// SPDX-License-Identifier: Apache-2.0
// lumvet inspect: what a document is, as a person wants to know it.
#include <cmath>
#include <iomanip>
#include <iostream>
#include <map>
#include <memory>
#include <nlohmann/json.hpp>
#include <optional>

#include <lumvet/document/document.h>

#include "console.h"
#include "files.h"
#include "verbs.h"

namespace tool {
namespace {

using Json = nlohmann::ordered_json;

struct Options {
  std::vector<std::string> inputs;
  bool json = false;
  Secrets secrets;
};

// Pages of one size, as shown.
struct SizeGroup {
  double width = 0;        // points
  double height = 0;       // points
  std::vector<int> pages;  // from 1
};

constexpr double kMillimetresPerPoint = 25.4 / 72;

std::vector<SizeGroup> group_sizes(const lumvet::Document& document) {
  std::vector<SizeGroup> groups;
  for (int i = 0; i < document.page_count(); ++i) {
    const auto page = document.page(i);
    if (!page.ok()) continue;
    const auto same = [&](const SizeGroup& group) {
      return std::abs(group.width - page->width()) < 0.5 &&
             std::abs(group.height - page->height()) < 0.5;
    };
    const auto found = std::find_if(groups.begin(), groups.end(), same);
    if (found != groups.end())
      found->pages.push_back(i + 1);
    else
      groups.push_back({page->width(), page->height(), {i + 1}});
  }
  return groups;
}

// "1-4, 8, 10-12".
std::string ranges(const std::vector<int>& pages) {
  std::string text;
  for (std::size_t i = 0; i < pages.size();) {
    std::size_t last = i;
    while (last + 1 < pages.size() && pages[last + 1] == pages[last] + 1) ++last;
    if (!text.empty()) text += ", ";
    text += std::to_string(pages[i]);
    if (last > i) text += "-" + std::to_string(pages[last]);
    i = last + 1;
  }
  constexpr std::size_t kLongest = 60;
  if (text.size() > kLongest) text = text.substr(0, text.rfind(',', kLongest)) + ", …";
  return text;
}

std::string number(double value) {
  const double rounded = std::round(value * 10) / 10;
  std::ostringstream text;
  text << rounded;
  return text.str();
}

Json to_json(const lumvet::Encryption& encryption) {
  constexpr const char* kAccess[] = {"locked", "user", "owner"};
  return {{"by", encryption.by_certificate ? "certificate" : "password"},
          {"cipher", encryption.cipher},
          {"key_bits", encryption.key_bits},
          {"revision", encryption.revision},
          {"metadata_encrypted", encryption.encrypts_metadata},
          {"attachments_only", encryption.attachments_only},
          {"access", kAccess[static_cast<int>(encryption.access)]},
          {"allowed", encryption.permissions.allowed()},
          {"refused", encryption.permissions.refused()}};
}

Json to_json(const lumvet::Document& document) {
  const lumvet::Metadata metadata = document.metadata();
  const lumvet::DocumentInfo& info = metadata.properties;
  Json json;
  json["file"] = document.name();
  json["bytes"] = document.file_size();
  json["pages"] = document.page_count();
  json["sizes"] = Json::array();
  for (const SizeGroup& group : group_sizes(document))
    json["sizes"].push_back(
        {{"points", {group.width, group.height}},
         {"mm", {group.width * kMillimetresPerPoint, group.height * kMillimetresPerPoint}},
         {"pages", group.pages}});
  json["version"] = document.version();
  json["info"] = {{"title", info.title},     {"author", info.author},
                  {"subject", info.subject}, {"keywords", info.keywords},
                  {"creator", info.creator}, {"producer", info.producer},
                  {"created", info.created}, {"modified", info.modified}};
  json["disagreements"] = metadata.disagreements;
  json["conformance"] = metadata.conformance;
  json["encrypted"] = document.encryption().has_value();
  if (const auto encryption = document.encryption()) json["encryption"] = to_json(*encryption);
  json["linearized"] = document.is_linearized();
  json["updated"] = document.was_updated();
  json["revisions"] = Json::array();
  for (const lumvet::Revision& revision : document.revisions())
    json["revisions"].push_back({{"bytes", revision.size}});
  json["repaired"] = document.was_repaired();
  json["labels"] = Json::array();
  for (int i = 0; document.has_page_labels() && i < document.page_count(); ++i)
    json["labels"].push_back(document.page_label(i).value());
  json["outline"] = Json::array();
  for (const lumvet::OutlineEntry& entry : document.outline()) {
    Json item{{"title", entry.title}, {"depth", entry.depth}, {"open", entry.is_open}};
    item["page"] = entry.page ? Json(*entry.page + 1) : Json();
    json["outline"].push_back(item);
  }
  json["attachments"] = Json::array();
  for (const lumvet::Attachment& attachment : document.attachments()) {
    Json item{{"name", attachment.name}, {"description", attachment.description}};
    item["bytes"] = attachment.size ? Json(*attachment.size) : Json();
    item["media_type"] = attachment.media_type;
    item["relationship"] = attachment.relationship;
    item["created"] = attachment.created;
    item["modified"] = attachment.modified;
    constexpr const char* kFrom[] = {"document", "annotation", "associated"};
    item["from"] = kFrom[static_cast<int>(attachment.from)];
    item["page"] = attachment.page ? Json(*attachment.page + 1) : Json();
    json["attachments"].push_back(item);
  }
  json["fonts"] = Json::array();
  for (const lumvet::FontUse& font : document.fonts())
    json["fonts"].push_back({{"name", font.name},
                             {"kind", font.kind},
                             {"embedded", font.embedded},
                             {"subset", font.subset}});
  json["findings"] = Json::array();
  for (const lumvet::Finding& finding : document.findings())
    json["findings"].push_back(finding.to_string());
  return json;
}

void line(const char* label, const std::string& text) {
  if (!text.empty()) std::cout << "  " << std::left << std::setw(14) << label << text << '\n';
}

void print_sizes(const lumvet::Document& document) {
  const std::vector<SizeGroup> groups = group_sizes(document);
  constexpr std::size_t kMostShown = 6;
  for (std::size_t i = 0; i < groups.size() && i < kMostShown; ++i) {
    const SizeGroup& group = groups[i];
    std::string text = number(group.width * kMillimetresPerPoint) + " × " +
                       number(group.height * kMillimetresPerPoint) + " mm (" + number(group.width) +
                       " × " + number(group.height) + " points)";
    if (groups.size() > 1) text += group.pages.size() == 1 ? ": page " : ": pages ";
    if (groups.size() > 1) text += ranges(group.pages);
    line(i == 0 ? "Page size" : "", text);
  }
  if (groups.size() > kMostShown)
    line("", "and " + std::to_string(groups.size() - kMostShown) + " other sizes");
}

void print_lists(const lumvet::Document& document) {
  const auto outline = document.outline();
  constexpr std::size_t kMostShown = 12;
  line("Outline", outline.empty() ? "none" : count_of(outline.size(), "entry", "entries"));
  for (std::size_t i = 0; i < outline.size() && i < kMostShown; ++i) {
    std::string text =
        std::string(static_cast<std::size_t>(outline[i].depth) * 2, ' ') + outline[i].title;
    if (outline[i].page) text += "  (page " + std::to_string(*outline[i].page + 1) + ")";
    line("", text);
  }
  if (outline.size() > kMostShown) line("", "… --json lists all");
  const auto attachments = document.attachments();
  line("Attachments", attachments.empty() ? "none" : std::to_string(attachments.size()));
  for (const lumvet::Attachment& attachment : attachments)
    line("", attachment.name + (attachment.size ? ", " + size_for_people(*attachment.size) : "") +
                 (attachment.description.empty() ? "" : ": " + attachment.description));
  const auto fonts = document.fonts();
  line("Fonts", fonts.empty() ? "none" : std::to_string(fonts.size()));
  for (const lumvet::FontUse& font : fonts)
    line("", (font.name.empty() ? "(unnamed)" : font.name) + ", " + font.kind +
                 (!font.embedded ? ", not embedded"
                  : font.subset  ? ", embedded in part"
                                 : ", embedded"));
}

std::string joined(const std::vector<std::string>& words) {
  std::string text;
  for (const std::string& word : words) text += (text.empty() ? "" : ", ") + word;
  return text;
}

std::string protection_in_words(const lumvet::Encryption& encryption) {
  std::string text = encryption.by_certificate ? "yes, for certificates" : "yes, by password";
  if (!encryption.cipher.empty())
    text += " (" + encryption.cipher + ", " + std::to_string(encryption.key_bits) + " bits)";
  if (encryption.attachments_only) text += ", attachments only";
  if (!encryption.encrypts_metadata) text += ", metadata left clear";
  return text;
}

void print_protection(const std::optional<lumvet::Encryption>& encryption) {
  line("Encrypted", encryption ? protection_in_words(*encryption) : "no");
  if (!encryption) return;
  switch (encryption->access) {
    case lumvet::Access::locked: line("Opened as", "nobody: it needs a password"); return;
    case lumvet::Access::owner: line("Opened as", "its owner, who may do everything"); return;
    case lumvet::Access::user: break;
  }
  line("Opened as", "its reader");
  line("Allowed", joined(encryption->permissions.allowed()));
  line("Not allowed", joined(encryption->permissions.refused()));
}

void print(const lumvet::Document& document) {
  const lumvet::Metadata metadata = document.metadata();
  const lumvet::DocumentInfo& info = metadata.properties;
  std::cout << document.name() << '\n';
  line("Title", info.title);
  line("Author", info.author);
  line("Subject", info.subject);
  line("Keywords", info.keywords);
  line("Pages", std::to_string(document.page_count()));
  print_sizes(document);
  line("File size", size_for_people(document.file_size()));
  line("PDF version", document.version());
  line("Written with", info.creator);
  line("Produced by", info.producer);
  line("Created", info.created);
  line("Modified", info.modified);
  for (const std::string& disagreement : metadata.disagreements) line("Disagreement", disagreement);
  line("Claims", metadata.conformance);
  print_protection(document.encryption());
  line("Linearized", document.is_linearized() ? "yes (fast web view)" : "no (no fast web view)");
  const std::size_t revisions = document.revisions().size();
  if (revisions > 1)
    line("Updated", count_of(revisions - 1, "time", "times") + " after it was first saved");
  if (document.was_repaired()) line("Repaired", "yes, its cross references were useless");
  if (document.has_page_labels())
    line("Page labels", document.page_label(0).value() + " to " +
                            document.page_label(document.page_count() - 1).value());
  print_lists(document);
}

// That it is locked is itself what a person wanted to know, and how it can be opened.
void tell_locked(const std::string& input, bool json, Json& all) {
  std::optional<lumvet::Encryption> encryption;
  if (input != "-")  // standard input is read already
    if (const auto waiting = open_locked(input); waiting.ok()) encryption = waiting->encryption();
  if (json) {
    Json item{{"file", input}, {"encrypted", true}};
    if (encryption) item["encryption"] = to_json(*encryption);
    all.push_back(std::move(item));
    return;
  }
  std::cout << input << '\n';
  if (encryption)
    print_protection(encryption);
  else
    line("Encrypted", "yes, it needs a password");
}

int run(const Options& options) {
  Json all = Json::array();
  int code = kDone;
  for (std::size_t i = 0; i < options.inputs.size(); ++i) {
    const auto document = open_document(options.inputs[i], options.secrets);
    if (!document.ok()) {
      code = fail(document.error());
      if (document.error().code() == lumvet::ErrorCode::password)
        tell_locked(options.inputs[i], options.json, all);
      continue;
    }
    if (options.json) {
      all.push_back(to_json(*document));
      if (code == kDone && !document->findings().empty()) code = kDoneWithFindings;
      continue;
    }
    if (i > 0) std::cout << '\n';
    print(*document);
    std::cout << std::flush;
    const int noted = report_findings(document->findings());
    if (code == kDone) code = noted;
  }
  // Names inside documents may be no valid text; what cannot be shown is replaced, not refused.
  const auto lenient = Json::error_handler_t::replace;
  if (options.json && (options.inputs.size() > 1 || !all.empty()))
    std::cout << (options.inputs.size() == 1 ? all[0] : all).dump(2, ' ', false, lenient) << '\n';
  return code;
}

}  // namespace

void add_inspect(CLI::App& app, Run& chosen) {
  auto options = std::make_shared<Options>();
  CLI::App* verb =
      app.add_subcommand("inspect", "Tell what documents are: pages, sizes, properties, fonts");
  verb->add_option("inputs", options->inputs, "Documents; - is standard input")
      ->required()
      ->type_name("FILE");
  verb->add_flag("--json", options->json, "Print the same facts for programs");
  add_secret_options(*verb, options->secrets);
  verb->footer(
      "Examples:\n"
      "  lumvet inspect report.pdf\n"
      "  lumvet inspect report.pdf annex.pdf --json");
  verb->callback([options, &chosen] { chosen = [options] { return run(*options); }; });
}

}  // namespace tool

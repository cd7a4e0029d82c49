// SPDX-License-Identifier: Apache-2.0
// lumvet inspect: what a document is, as a person wants to know it, and what it is made of.
#include <algorithm>
#include <charconv>
#include <iostream>
#include <memory>
#include <optional>

#include <lumvet/document/document.h>
#include <CLI/CLI.hpp>

#include "console.h"
#include "files.h"
#include "inspect/comparison.h"
#include "inspect/facts.h"
#include "inspect/objects.h"
#include "inspect/sections.h"
#include "verbs.h"

namespace tool {
namespace {

struct Options {
  std::vector<std::string> inputs;
  std::vector<std::string> sections;
  std::string object;
  bool tree = false;
  bool json = false;
  Comparison comparison;
  Secrets secrets;
};

// What was told about one input.
struct Told {
  Json json;
  int code = kDone;
};

bool is_chosen(const Options& options, const char* name) {
  if (options.sections.empty()) return true;
  return std::any_of(options.sections.begin(), options.sections.end(),
                     [&](const std::string& one) { return one == name || one == "all"; });
}

Json gather(const lumvet::Document& document, const Options& options) {
  Json json{{"file", document.name()}};
  for (const Section& section : all_sections())
    if (is_chosen(options, section.name))
      json[section.name] = facts::reading(section.name, [&] { return section.gather(document); });
  return json;
}

void print_sections(const Json& facts) {
  for (const Section& section : all_sections()) {
    if (!facts.contains(section.name)) continue;
    std::string heading = section.name;
    heading[0] = static_cast<char>(heading[0] - 'a' + 'A');
    std::cout << '\n' << heading;
    if (facts[section.name].is_array())
      std::cout << ": "
                << (facts[section.name].empty() ? "none"
                                                : std::to_string(facts[section.name].size()));
    std::cout << '\n';
    section.print(facts[section.name], std::cout);
  }
}

// "12" or "12 0".
std::optional<lumvet::ObjectId> parse_object(const std::string& text) {
  lumvet::ObjectId id;
  const char* end = text.data() + text.size();
  const auto number = std::from_chars(text.data(), end, id.number);
  if (number.ec != std::errc() || id.number == 0) return std::nullopt;
  if (number.ptr == end) return id;
  if (*number.ptr != ' ') return std::nullopt;
  const auto generation = std::from_chars(number.ptr + 1, end, id.generation);
  if (generation.ec != std::errc() || generation.ptr != end) return std::nullopt;
  return id;
}

Told tell_object(const lumvet::Document& document, lumvet::ObjectId id, bool json) {
  Told told;
  if (json) {
    auto facts = object_facts(document, id);
    if (!facts.ok()) return {{}, fail(facts.error())};
    told.json = {{"file", document.name()}};
    told.json.update(*facts);
    return told;
  }
  std::cout << document.name() << '\n';
  if (const auto printed = print_object(document, id, std::cout); !printed.ok())
    told.code = fail(printed.error());
  return told;
}

Told tell_tree(const lumvet::Document& document, bool json) {
  Told told;
  if (json) {
    told.json = {{"file", document.name()}};
    told.json.update(tree_facts(document));
    return told;
  }
  std::cout << document.name() << '\n';
  print_tree(document, std::cout);
  return told;
}

Told tell_sections(const lumvet::Document& document, const Options& options) {
  if (options.sections.empty() && !options.json) {
    std::cout << document.name() << '\n';
    print_summary(document, std::cout);
    return {};
  }
  Told told{gather(document, options), kDone};
  if (options.json) return told;
  std::cout << document.name() << '\n';
  print_sections(told.json);
  return told;
}

Told tell(const lumvet::Document& document, const Options& options) {
  Told told;
  if (!options.object.empty())
    told = tell_object(document, *parse_object(options.object), options.json);
  else if (options.tree)
    told = tell_tree(document, options.json);
  else
    told = tell_sections(document, options);
  std::cout << std::flush;
  if (told.code != kDone) return told;
  const std::vector<lumvet::Finding> findings = document.findings();
  if (options.json || told.json.contains("findings"))
    told.code = code_for(findings);
  else
    told.code = report_findings(findings);
  return told;
}

// That it is locked is itself what a person wanted to know, and how it can be opened.
Json tell_locked(const std::string& input, bool json) {
  std::optional<lumvet::Encryption> encryption;
  if (input != "-")  // standard input is read already
    if (const auto waiting = open_locked(input); waiting.ok()) encryption = waiting->encryption();
  Json facts{{"file", input}};
  facts["protection"] = encryption ? protection_facts(*encryption) : Json{{"access", "locked"}};
  if (json) return facts;
  std::cout << input << '\n';
  if (encryption)
    print_protection(facts["protection"], std::cout);
  else
    std::cout << "  Encrypted     yes, it needs a password\n";
  return facts;
}

// All documents together, which a person wants side by side.
int run_comparison(const Options& options) {
  std::vector<Named> documents;
  for (const std::string& input : options.inputs) {
    auto document = open_document(input, options.secrets);
    if (!document.ok()) return fail(document.error());
    documents.emplace_back(input, *std::move(document));
  }
  if (!options.json) {
    const auto compared = compare(documents, options.comparison, std::cout);
    return compared.ok() ? kDone : fail(compared.error());
  }
  std::vector<Json> facts;
  for (const auto& [name, document] : documents) facts.push_back({{"file", name}});
  if (const auto compared = compare(documents, options.comparison, facts); !compared.ok())
    return fail(compared.error());
  const Json all = facts.size() == 1 ? facts[0] : Json(facts);
  print_json(all);
  return kDone;
}

int run(const Options& options) {
  if (options.comparison.is_asked()) return run_comparison(options);
  if (!options.object.empty() && !parse_object(options.object))
    return wrong_usage("--object takes a number, as in --object 12, not '" + options.object + "'");
  Json all = Json::array();
  int code = kDone;
  for (std::size_t i = 0; i < options.inputs.size(); ++i) {
    if (i > 0 && !options.json) std::cout << '\n';
    const auto document = open_document(options.inputs[i], options.secrets);
    if (!document.ok()) {
      code = fail(document.error());
      if (document.error().code() == lumvet::ErrorCode::password)
        all.push_back(tell_locked(options.inputs[i], options.json));
      continue;
    }
    Told told;
    try {
      told = tell(*document, options);
    } catch (const lumvet::ResultError& error) {
      told = {{},
              fail(lumvet::Error(error.error().code(),
                                 options.inputs[i] + ": " + sentence_of(error.error())))};
    }
    if (code == kDone || told.code == kFailed) code = told.code;
    if (!told.json.is_null()) all.push_back(std::move(told.json));
  }
  if (options.json && (options.inputs.size() > 1 || !all.empty()))
    print_json(options.inputs.size() == 1 ? all[0] : all);
  return code;
}

// Empty when there is such a section, or what to say.
std::string check_section(const std::string& name) {
  const auto& sections = all_sections();
  const auto is_it = [&](const Section& section) { return section.name == name; };
  if (name == "all" || std::any_of(sections.begin(), sections.end(), is_it)) return {};
  return "there is no section '" + name + "'; lumvet inspect --help lists them";
}

std::string help_on_sections() {
  std::string text = "Sections for --show:\n";
  for (const Section& section : all_sections()) {
    std::string name = section.name;
    name.resize(14, ' ');
    text += "  " + name + section.about + "\n";
  }
  return text;
}

}  // namespace

void add_inspect(CLI::App& app, Run& chosen) {
  auto options = std::make_shared<Options>();
  CLI::App* verb = app.add_subcommand(
      "inspect", "Tell what documents are: pages, properties, fonts and everything else in them");
  verb->add_option("inputs", options->inputs, "Documents; - is standard input")
      ->required()
      ->type_name("FILE");
  CLI::Option* show =
      verb->add_option("--show", options->sections, "Only these, in full; see below, or 'all'")
          ->type_name("SECTION,…")
          ->delimiter(',')
          ->allow_extra_args(false)
          ->check(CLI::Validator(check_section, ""));
  CLI::Option* object =
      verb->add_option("--object", options->object, "One object, its place and its stream decoded")
          ->type_name("N")
          ->excludes(show);
  verb->add_flag("--tree", options->tree,
                 "All objects as a tree from the trailer, with offsets and streams")
      ->excludes(show)
      ->excludes(object);
  add_strict_option(*verb);
  verb->add_flag("--json", options->json,
                 "Print the facts for programs: all sections, or those of --show");
  add_comparison_options(*verb, options->comparison);
  verb->add_flag("--replace", options->comparison.replace, "Replace the image if it is there");
  add_secret_options(*verb, options->secrets);
  verb->footer(help_on_sections() +
               "\nExamples:\n"
               "  lumvet inspect report.pdf\n"
               "  lumvet inspect report.pdf annex.pdf --json\n"
               "  lumvet inspect form.pdf --show form,annotations\n"
               "  lumvet inspect odd.pdf --object 12\n"
               "  lumvet inspect manual.pdf web/manual.pdf --loading --load-pages 1,1500 "
               "--waterfall loading.png");
  verb->callback([options, &chosen] { chosen = [options] { return run(*options); }; });
}

}  // namespace tool

// SPDX-License-Identifier: Apache-2.0
// lumvet inspect: what a document is, as a person wants to know it, and what it is made of.
#include <algorithm>
#include <charconv>
#include <iostream>
#include <memory>
#include <optional>
#include <utility>

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

struct InspectArguments {
  std::vector<std::string> inputs;
  std::vector<std::string> sections;
  std::string object;
  bool tree = false;
  bool json = false;
  Comparison comparison;
  Secrets secrets;
};

using NamedFacts = std::vector<std::pair<std::string, Facts>>;

// Facts for programs on standard output, as they come: of one input by itself, of several as a
// list.
class JsonOutput {
 public:
  explicit JsonOutput(bool is_list) : is_list_(is_list) {}

  void add(const std::string& file, const NamedFacts& named) {
    if (is_list_) std::cout << (is_first_ ? "[\n  " : ",\n  ");
    print_json(Json{{"file", file}}, named, is_list_ ? 2 : 0, std::cout);
    if (!is_list_) std::cout << '\n';
    is_first_ = false;
  }
  void end() const {
    if (is_list_) std::cout << (is_first_ ? "[]\n" : "\n]\n");
  }

 private:
  bool is_list_;
  bool is_first_ = true;
};

bool is_chosen(const InspectArguments& options, const char* name) {
  if (options.sections.empty()) return true;
  return std::any_of(options.sections.begin(), options.sections.end(),
                     [&](const std::string& one) { return one == name || one == "all"; });
}

NamedFacts gather(const lumvet::Document& document, const InspectArguments& options) {
  NamedFacts all;
  for (const Section& section : all_sections())
    if (is_chosen(options, section.name))
      all.emplace_back(section.name,
                       facts::reading(section.name, [&] { return section.gather(document); }));
  return all;
}

void print_section(const Section& section, const Facts& facts) {
  std::string heading = section.name;
  heading[0] = static_cast<char>(heading[0] - 'a' + 'A');
  std::cout << '\n' << heading;
  if (facts.is_list)
    std::cout << ": " << (facts.list.empty() ? "none" : std::to_string(facts.list.size()));
  std::cout << '\n';
  section.print(facts, std::cout);
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

// Its entries become facts beside each other.
NamedFacts each_named(const Json& object) {
  NamedFacts all;
  for (const auto& [name, value] : object.items()) all.emplace_back(name, value);
  return all;
}

lumvet::Status tell_object(const lumvet::Document& document, lumvet::ObjectId id,
                           JsonOutput* json) {
  if (json) {
    LUMVET_TRY(const Json facts, object_facts(document, id));
    json->add(document.name(), each_named(facts));
    return lumvet::Done{};
  }
  std::cout << document.name() << '\n';
  return print_object(document, id, std::cout);
}

void tell_tree(const lumvet::Document& document, JsonOutput* json) {
  if (!json) {
    std::cout << document.name() << '\n';
    return print_tree(document, std::cout);
  }
  const Facts tree = tree_facts(document);
  NamedFacts named = each_named(tree.value);
  named.emplace_back(tree.key, tree.list);
  json->add(document.name(), named);
}

void tell_sections(const lumvet::Document& document, const InspectArguments& options,
                   JsonOutput* json) {
  if (options.sections.empty() && !json) {
    std::cout << document.name() << '\n';
    return print_summary(document, std::cout);
  }
  const NamedFacts all = gather(document, options);
  if (json) return json->add(document.name(), all);
  std::cout << document.name() << '\n';
  for (const Section& section : all_sections())
    for (const auto& [name, facts] : all)
      if (name == section.name) print_section(section, facts);
}

// Gives the exit code.
int tell(const lumvet::Document& document, const InspectArguments& options, JsonOutput* json) {
  if (!options.object.empty()) {
    if (const auto told = tell_object(document, *parse_object(options.object), json); !told.ok())
      return fail(told.error());
  } else if (options.tree) {
    tell_tree(document, json);
  } else {
    tell_sections(document, options, json);
  }
  std::cout << std::flush;
  const std::vector<lumvet::Finding> findings = document.findings();
  const bool are_told = !options.sections.empty() && is_chosen(options, "findings");
  return json || are_told ? code_for(findings) : report_findings(findings);
}

// That it is locked is itself what a person wanted to know, and how it can be opened.
void tell_locked(const std::string& input, JsonOutput* json) {
  std::optional<lumvet::Encryption> encryption;
  if (input != "-")  // standard input is read already
    if (const auto waiting = open_locked(input); waiting.ok()) encryption = waiting->encryption();
  const Json protection = encryption ? protection_facts(*encryption) : Json{{"access", "locked"}};
  if (json) return json->add(input, {{"protection", protection}});
  std::cout << input << '\n';
  if (encryption)
    print_protection(protection, std::cout);
  else
    std::cout << "  Encrypted     yes, it needs a password\n";
}

// All documents together, which a person wants side by side.
int run_comparison(const InspectArguments& options) {
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

int run(const InspectArguments& options) {
  if (options.comparison.is_asked()) return run_comparison(options);
  if (!options.object.empty() && !parse_object(options.object))
    return wrong_usage("--object takes a number, as in --object 12, not '" + options.object + "'");
  JsonOutput for_programs(options.inputs.size() > 1);
  JsonOutput* json = options.json ? &for_programs : nullptr;
  int code = kDone;
  for (std::size_t i = 0; i < options.inputs.size(); ++i) {
    if (i > 0 && !json) std::cout << '\n';
    const auto document = open_document(options.inputs[i], options.secrets);
    if (!document.ok()) {
      code = fail(document.error());
      if (document.error().code() == lumvet::ErrorCode::password)
        tell_locked(options.inputs[i], json);
      continue;
    }
    int told = kDone;
    try {
      told = tell(*document, options, json);
    } catch (const lumvet::ResultError& error) {
      told = fail(lumvet::Error(error.error().code(),
                                options.inputs[i] + ": " + sentence_of(error.error())));
    }
    if (code == kDone || told == kFailed) code = told;
  }
  if (json) json->end();
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
  auto options = std::make_shared<InspectArguments>();
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

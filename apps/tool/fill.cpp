// SPDX-License-Identifier: Apache-2.0
// lumvet fill: fields of forms listed, filled in, reset, drawn into the pages.
#include <algorithm>
#include <iostream>
#include <memory>
#include <set>

#include <lumvet/annotate/annotations.h>
#include <lumvet/document/field_format.h>
#include <lumvet/forms/filling.h>
#include <lumvet/forms/value_list.h>
#include <lumvet/io/file_name.h>
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

using lumvet::Error;
using lumvet::ErrorCode;
using lumvet::FieldValue;
using lumvet::FormField;
using FieldKind = FormField::Kind;
using Values = std::vector<FieldValue>;

struct FillArguments {
  std::string input;
  bool lists = false;
  bool json = false;
  bool csv = false;
  std::vector<std::string> set;
  std::string from;
  bool each = false;
  std::string names = "{name}-{row}";
  bool resets = false;
  bool flattens = false;
  bool skips_unfit = false;
  std::string exported;
  Saving saving;
  Secrets secrets;

  bool changes() const { return !set.empty() || !from.empty() || resets || flattens; }
};

std::string kind_of(const FormField& field) {
  switch (field.kind) {
    case FieldKind::push_button: return "button";
    case FieldKind::check_box: return "box";
    case FieldKind::radio_buttons: return "radio";
    case FieldKind::text: return field.is_multiline() ? "text, lines" : "text";
    case FieldKind::list_box: return "list";
    case FieldKind::combo_box: return "choice";
    case FieldKind::signature: return "signature";
    default: return "group";
  }
}

// What can be chosen.
std::vector<std::string> choices_of(const FormField& field) {
  std::vector<std::string> choices;
  for (const auto& option : field.options)
    choices.push_back(option.shown == option.exported
                          ? option.shown
                          : option.exported + " (" + option.shown + ")");
  if (field.kind == FieldKind::radio_buttons && choices.empty())
    for (const auto& widget : field.widgets) choices.push_back(widget.on_state);
  return choices;
}

// What a person must know to fill it in.
std::vector<std::string> remarks_on(const FormField& field) {
  std::vector<std::string> remarks;
  if (field.is_required()) remarks.emplace_back("required");
  if (field.is_read_only()) remarks.emplace_back("read-only");
  if (!field.locked_by.empty()) remarks.push_back("locked by the signature in " + field.locked_by);
  if (const auto format = lumvet::format_of(field)) {
    using Format = lumvet::FieldFormat::Kind;
    remarks.push_back(format->kind == Format::number || format->kind == Format::percent
                          ? "as " + lumvet::shown_value(*format, "1234.5")
                          : "as " + format->pattern);
  }
  if (const auto range = lumvet::range_of(field))
    remarks.push_back((range->least ? "from " + lumvet::number_text(*range->least) : "") +
                      (range->least && range->most ? " " : "") +
                      (range->most ? "up to " + lumvet::number_text(*range->most) : ""));
  if (field.longest) remarks.push_back("at most " + std::to_string(*field.longest) + " characters");
  if (const auto reckoning = lumvet::reckoning_of(field)) {
    static constexpr const char* kHow[] = {"sum", "product", "average", "least", "most"};
    std::string from;
    for (const std::string& name : reckoning->fields) from += (from.empty() ? "" : ", ") + name;
    remarks.push_back(std::string(kHow[static_cast<int>(reckoning->how)]) + " of " + from);
  }
  if (lumvet::has_other_scripts(field)) remarks.emplace_back("with scripts, which are not run");
  return remarks;
}

std::string joined(const std::vector<std::string>& words) {
  std::string all;
  for (const std::string& word : words) all += (all.empty() ? "" : ", ") + word;
  return all;
}

int list_json(const lumvet::Form& form) {
  Json fields = Json::array();
  for (const FormField& field : form.fields) {
    if (!field.is_terminal) continue;
    Json json{{"name", field.name}, {"kind", kind_of(field)}};
    if (!field.label.empty()) json["label"] = field.label;
    json["values"] = lumvet::exported_values(field);
    if (const auto choices = choices_of(field); !choices.empty()) json["choices"] = choices;
    if (const auto remarks = remarks_on(field); !remarks.empty()) json["remarks"] = remarks;
    for (const auto& widget : field.widgets)
      if (widget.page) json["pages"].push_back(*widget.page + 1);
    fields.push_back(std::move(json));
  }
  print_json({{"fields", std::move(fields)}, {"xml_form", form.has_xfa}});
  return kDone;
}

int list(const FillArguments& options, const lumvet::Form& form) {
  if (options.json) return list_json(form);
  if (options.csv) {
    const std::string table = lumvet::values_as_table(lumvet::values_of(form));
    const auto written = StandardOutput().write(lumvet::as_bytes(table));
    return written.ok() ? kDone : fail(written.error());
  }
  std::size_t count = 0;
  std::size_t widest = 0;
  for (const FormField& field : form.fields)
    if (field.is_terminal) widest = std::max(widest, std::min<std::size_t>(field.name.size(), 32));
  for (const FormField& field : form.fields) {
    if (!field.is_terminal) continue;
    ++count;
    std::string name = on_one_line(field.name);
    name.resize(std::max(name.size(), widest), ' ');
    std::string kind = kind_of(field);
    kind.resize(std::max<std::size_t>(kind.size(), 11), ' ');
    std::cout << "  " << name << "  " << kind << "  "
              << on_one_line(joined(lumvet::exported_values(field))) << '\n';
    const std::string before(widest + 17, ' ');
    if (!field.label.empty() && field.label != field.name)
      std::cout << before << on_one_line(field.label) << '\n';
    if (const auto choices = choices_of(field); !choices.empty())
      std::cout << before << "of " << on_one_line(joined(choices)) << '\n';
    if (const auto remarks = remarks_on(field); !remarks.empty())
      std::cout << before << on_one_line(joined(remarks)) << '\n';
  }
  std::cout << count_of(count, "field", "fields")
            << (form.has_xfa ? "; the form is described as XML (XFA) as well" : "") << '\n';
  return kDone;
}

// "bridge=Merrow Ford"; several for one name are several values.
lumvet::Result<Values> given_values(const std::vector<std::string>& set) {
  Values values;
  for (const std::string& one : set) {
    const std::size_t sign = one.find('=');
    if (sign == std::string::npos || sign == 0)
      return Error(ErrorCode::invalid_argument, "--set takes NAME=VALUE, not '" + one + "'");
    const std::string name = one.substr(0, sign);
    const auto known = std::find_if(values.begin(), values.end(),
                                    [&](const FieldValue& value) { return value.name == name; });
    if (known != values.end())
      known->values.push_back(one.substr(sign + 1));
    else
      values.push_back({name, {one.substr(sign + 1)}});
  }
  return values;
}

// What is said twice counts as it is said last.
Values over(Values values, const Values& others) {
  for (const FieldValue& other : others) {
    const auto known = std::find_if(values.begin(), values.end(), [&](const FieldValue& value) {
      return value.name == other.name;
    });
    if (known != values.end())
      known->values = other.values;
    else
      values.push_back(other);
  }
  return values;
}

lumvet::Status fill(const FillArguments& options, lumvet::EditableDocument& changes,
                    const Values& values) {
  if (options.resets) {
    LUMVET_TRY(const auto report, lumvet::reset_fields(changes));
    report_findings(report.findings);
  }
  if (!values.empty()) {
    LUMVET_TRY(const auto report,
               lumvet::fill_fields(changes, values, {.skips_unfit = options.skips_unfit}));
    report_findings(report.findings);
    if (report.filled == 0)
      return Error(ErrorCode::invalid_argument, "none of the values fits a field of the form");
  }
  if (!options.flattens) return lumvet::Done{};
  LUMVET_TRY(const int count, lumvet::flatten_annotations(
                                  changes, {}, {.kinds = {lumvet::Annotation::Kind::widget}}));
  if (count == 0) return Error(ErrorCode::invalid_argument, "there are no fields to flatten");
  return lumvet::Done{};
}

// "{name}-{row}", with the values of fields by their names.
std::string name_for(const FillArguments& options, const Values& values, std::size_t row) {
  std::string name;
  const std::string& pattern = options.names;
  for (std::size_t at = 0; at < pattern.size();) {
    const std::size_t end = pattern[at] == '{' ? pattern.find('}', at) : std::string::npos;
    if (end == std::string::npos) {
      name += pattern[at++];
      continue;
    }
    const std::string what = pattern.substr(at + 1, end - at - 1);
    if (what == "name") name += std::filesystem::path(options.input).stem().string();
    if (what == "row") name += std::to_string(row + 1);
    for (const FieldValue& value : values)
      if (value.name == what) name += joined(value.values);
    at = end + 1;
  }
  return lumvet::safe_file_name(name);
}

int fill_each(const FillArguments& options, const lumvet::Document& document,
              const std::vector<Values>& rows, const Values& set) {
  const std::filesystem::path folder = options.saving.output;
  std::vector<std::filesystem::path> paths;
  std::set<std::string> names;
  for (std::size_t i = 0; i < rows.size(); ++i) {
    const std::string name = name_for(options, rows[i], i);
    if (name.empty())
      return wrong_usage("row " + std::to_string(i + 1) + " gives no name of a file");
    if (!names.insert(name).second)
      return wrong_usage("rows give the name " + name + ".pdf twice; put {row} into --names");
    paths.push_back(folder / (name + ".pdf"));
    Saving saving = options.saving;
    saving.output = paths.back().string();
    if (const auto free = check_output(saving); !free.ok()) return fail(free.error());
  }
  std::error_code failure;
  std::filesystem::create_directories(folder, failure);
  if (failure)
    return fail(Error(ErrorCode::io, "the folder " + folder.string() + " cannot be made"));
  int code = kDone;
  for (std::size_t i = 0; i < rows.size(); ++i) {
    lumvet::EditableDocument changes = lumvet::EditableDocument::of(document);
    if (auto done = fill(options, changes, over(rows[i], set)); !done.ok())
      return refuse(std::move(done).error().about("row " + std::to_string(i + 1)));
    Saving saving = options.saving;
    saving.output = paths[i].string();
    if (const int saved = save_changes(changes, options.input, saving, options.json);
        saved != kDone)
      code = saved;
  }
  return code;
}

lumvet::Status export_values(const FillArguments& options, const lumvet::Document& document) {
  LUMVET_TRY(const lumvet::Form form, document.form());
  LUMVET_TRY(const std::string text, values_for_file(options.exported, document, form));
  LUMVET_TRY(auto file, lumvet::AtomicFile::create(
                            options.exported, options.saving.replace ? lumvet::IfExists::replace
                                                                     : lumvet::IfExists::refuse));
  LUMVET_RETURN_IF_ERROR(file.write(lumvet::as_bytes(text)));
  return file.commit();
}

int run(const FillArguments& options) {
  if (options.changes()) {
    if (options.lists || options.csv)
      return wrong_usage("fields are listed or filled in, not both at once");
    if (options.each && options.from.empty())
      return wrong_usage("--each is for the rows of a table: --from FILE.csv");
    if (options.saving.output.empty())
      return wrong_usage(options.each ? "-o is missing: the folder for the documents"
                                      : "-o is missing: the name of the new document");
    if (!options.each) {
      if (const auto other = check_not_input(options.input, options.saving); !other.ok())
        return refuse(other.error());
      if (const auto free = check_output(options.saving); !free.ok()) return fail(free.error());
    }
  }
  const auto document = open_document(options.input, options.secrets);
  if (!document.ok()) return fail(document.error());
  if (!options.exported.empty())
    if (const auto done = export_values(options, *document); !done.ok()) return fail(done.error());
  if (!options.changes()) {
    if (!options.exported.empty()) return kDone;
    const auto form = document->form();
    return form.ok() ? list(options, *form) : fail(form.error());
  }
  const auto set = given_values(options.set);
  if (!set.ok()) return wrong_usage(set.error().message());
  std::vector<Values> rows;
  if (!options.from.empty()) {
    auto read = values_from_file(options.from, *document);
    if (!read.ok()) return refuse(std::move(read).error().about(options.from));
    rows = *std::move(read);
  }
  if (options.each) return fill_each(options, *document, rows, *set);
  if (rows.size() > 1)
    return wrong_usage(options.from + " has values for " + std::to_string(rows.size()) +
                       " documents; --each makes one of every row");
  lumvet::EditableDocument changes = lumvet::EditableDocument::of(*document);
  const Values values = over(rows.empty() ? Values() : rows[0], *set);
  if (const auto done = fill(options, changes, values); !done.ok()) return refuse(done.error());
  return save_changes(changes, options.input, options.saving, options.json);
}

}  // namespace

void add_fill(CLI::App& app, Run& chosen) {
  auto options = std::make_shared<FillArguments>();
  CLI::App* verb = app.add_subcommand("fill", "List and fill in the fields of forms");
  verb->add_option("input", options->input, "The document")->required()->type_name("FILE");
  verb->add_flag("--list", options->lists, "List the fields, what they hold and take");
  auto* json = verb->add_flag("--json", options->json, "As JSON");
  verb->add_flag("--csv", options->csv, "The values as a table")->excludes(json);
  one_at_a_time(*verb->add_option("--set", options->set, "A value; several of one name for a list")
                     ->type_name("NAME=VALUE"));
  verb->add_option("--from", options->from, "Values from a file; - for JSON on standard input")
      ->type_name("FILE.json|.csv|.xfdf|.fdf");
  verb->add_flag("--each", options->each, "A document for every row of the table, into a folder");
  verb->add_option("--names", options->names,
                   "How those are called: {name} of the form, {row}, and {FIELD} by its name")
      ->type_name("PATTERN");
  verb->add_flag("--skip-unfit", options->skips_unfit,
                 "Leave out what does not fit, and say so, instead of stopping");
  verb->add_flag("--reset", options->resets, "First give all fields what they began with");
  verb->add_flag("--flatten", options->flattens, "Draw the fields into the pages at the end");
  verb->add_option("--export", options->exported, "The values into a file")
      ->type_name("FILE.json|.csv|.xfdf|.fdf");
  add_saving_options(*verb, options->saving, false);
  add_change_options(*verb, options->saving);
  add_strict_option(*verb);
  add_secret_options(*verb, options->secrets);
  verb->footer(
      "Boxes take on and off; radio buttons and lists take what --list shows. Scripts are never "
      "run.\n"
      "Examples:\n"
      "  lumvet fill inspection.pdf --list\n"
      "  lumvet fill inspection.pdf --set bridge='Merrow Ford' --set dry=on -o sheet-12.pdf\n"
      "  lumvet fill inspection.pdf --from readings.csv --each --names '{bridge}' -o sheets/\n"
      "  lumvet fill sheet-12.pdf --export sheet-12.json");
  verb->callback([options, &chosen] { chosen = [options] { return run(*options); }; });
}

}  // namespace tool

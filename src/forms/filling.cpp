// SPDX-License-Identifier: Apache-2.0
#include "lumvet/forms/filling.h"

#include <algorithm>
#include <map>
#include <set>

#include "assemble/equal_objects.h"
#include "edit/editable_document_impl.h"
#include "edit/form_dict.h"
#include "forms/field_writer.h"
#include "forms/locked_fields.h"
#include "forms/reckoning.h"
#include "lumvet/base/nearest_word.h"
#include "lumvet/document/field_format.h"

namespace lumvet {
namespace {

using Kind = FormField::Kind;

bool is_drawn_anew(const FormField& field) {
  return field.kind == Kind::text || field.kind == Kind::combo_box || field.kind == Kind::list_box;
}

std::string count_of(std::size_t count) {
  return std::to_string(count) + (count == 1 ? " field" : " fields");
}

// A step on the values of a form.
class FillStep {
 public:
  FillStep(Inside<EditableDocument>::Impl& impl, const Document& document, file::Ledger& ledger,
           const FillOptions& options)
      : impl_(impl), document_(document), ledger_(ledger), options_(options) {}

  Status open() {
    LUMVET_TRY(form_, document_.form());
    for (std::size_t i = 0; i < form_.fields.size(); ++i)
      by_name_[form_.fields[i].name].push_back(i);
    const bool has_fields = std::any_of(form_.fields.begin(), form_.fields.end(),
                                        [](const FormField& field) { return field.is_terminal; });
    if (has_fields) return Done{};
    return Error(form_.has_xfa ? ErrorCode::unsupported : ErrorCode::invalid_argument,
                 form_.has_xfa ? "the form is described as XML alone (XFA), which is not filled in"
                               : "the document has no fields");
  }

  // One value, for all fields of that name.
  Status set(const FieldValue& value) {
    Status done = set_checked(value);
    if (done.ok() || !options_.skips_unfit) return done;
    const ErrorCode code = done.error().code();
    if (code != ErrorCode::invalid_argument && code != ErrorCode::unsupported) return done;
    report_.findings.push_back({done.error().message() + "; it was left out", {}, {}});
    return Done{};
  }

  Status reset(const std::vector<std::string>& names) {
    for (const std::string& name : names) {
      const auto places = by_name_.find(name);
      if (places == by_name_.end()) return no_field(name);
      for (const std::size_t place : places->second)
        LUMVET_RETURN_IF_ERROR(forms::check_lock(form_.fields[place]));
    }
    for (std::size_t i = 0; i < form_.fields.size(); ++i) {
      FormField& field = form_.fields[i];
      const bool is_named =
          names.empty() || std::any_of(names.begin(), names.end(), [&](const std::string& name) {
            return field.name == name || field.name.starts_with(name + ".");
          });
      const bool holds = field.is_terminal && field.kind != Kind::push_button &&
                         field.kind != Kind::signature && field.kind != Kind::group;
      if (!is_named || !holds || field.values == field.default_values) continue;
      if (stays_locked(field)) continue;
      field.values = field.default_values;
      changed_.insert(i);
      ++report_.filled;
    }
    return Done{};
  }

  Status finish() {
    if (options_.reckons)
      for (const std::size_t i : forms::reckon(form_, report_.findings)) {
        if (stays_locked(form_.fields[i])) continue;
        changed_.insert(i);
        ++report_.reckoned;
      }
    forms::FieldWriter writer(document_, ledger_);
    for (const std::size_t i : changed_) LUMVET_RETURN_IF_ERROR(writer.set(form_.fields[i]));
    if (form_.needs_appearances)
      for (std::size_t i = 0; i < form_.fields.size(); ++i)
        if (!changed_.contains(i) && form_.fields[i].is_terminal &&
            form_.fields[i].locked_by.empty() && is_drawn_anew(form_.fields[i]))
          LUMVET_RETURN_IF_ERROR(writer.draw(form_.fields[i]));
    LUMVET_RETURN_IF_ERROR(writer.finish());
    settle_form();
    note_missing();
    assemble::join_equal_objects(ledger_, impl_.file->first_beyond());
    return Done{};
  }

  FillReport report() { return std::move(report_); }
  bool has_changes() const { return !changed_.empty(); }

 private:
  Error no_field(const std::string& name) const {
    std::vector<std::string> names;
    for (const FormField& field : form_.fields)
      if (field.is_terminal) names.push_back(field.name);
    const auto near = nearest_word(name, names);
    return Error(ErrorCode::invalid_argument,
                 "there is no field '" + name + "'" +
                     (near ? "; did you mean " + *near + "?"
                           : "; `--list` shows the " + count_of(names.size())));
  }

  // Of fields that nobody named.
  bool stays_locked(const FormField& field) {
    if (field.locked_by.empty()) return false;
    report_.findings.push_back({"field '" + field.name +
                                    "' keeps its value: it is locked by the signature in field '" +
                                    field.locked_by + "'",
                                {},
                                field.id});
    return true;
  }

  Status set_checked(const FieldValue& value) {
    const auto places = by_name_.find(value.name);
    if (places == by_name_.end()) return no_field(value.name);
    std::map<std::size_t, std::vector<std::string>> kept;
    for (const std::size_t place : places->second) {
      const FormField& field = form_.fields[place];
      if (!field.is_terminal && places->second.size() > 1) continue;
      if (field.is_read_only() && !options_.fills_read_only)
        return Error(ErrorCode::unsupported,
                     "field '" + field.name + "' is read-only" +
                         (reckoning_of(field) ? ": it is reckoned from others" : ""));
      LUMVET_RETURN_IF_ERROR(forms::check_lock(field));
      LUMVET_TRY(kept[place], checked_values(field, value.values));
    }
    for (auto& [place, values] : kept) {
      form_.fields[place].values = std::move(values);
      changed_.insert(place);
    }
    ++report_.filled;
    return Done{};
  }

  // The form asks for nothing more, and says nothing else about its values.
  void settle_form() {
    if (!form_.needs_appearances && !form_.has_xfa) return;
    Dict catalog = impl_.catalog(ledger_);
    Dict dict = editing::form_dict(ledger_, catalog);
    dict.remove("NeedAppearances");
    if (form_.has_xfa) {
      dict.remove("XFA");
      report_.findings.push_back(
          {"the form was described as XML as well (XFA), with the old values; that was taken out",
           {},
           {}});
    }
    editing::set_form_dict(ledger_, catalog, std::move(dict));
    impl_.put_catalog(ledger_, std::move(catalog));
  }

  void note_missing() {
    for (const FormField& field : form_.fields) {
      const bool is_empty =
          field.values.empty() ||
          (field.values.size() == 1 && (field.value().empty() || field.value() == "Off"));
      if (field.is_terminal && field.is_required() && is_empty && field.kind != Kind::signature &&
          field.kind != Kind::push_button)
        report_.findings.push_back(
            {"field '" + field.name + "' is required, and is empty", {}, field.id});
    }
  }

  Inside<EditableDocument>::Impl& impl_;
  const Document& document_;
  file::Ledger& ledger_;
  FillOptions options_;
  Form form_;
  std::map<std::string, std::vector<std::size_t>> by_name_;
  std::set<std::size_t> changed_;
  FillReport report_;
};

}  // namespace

Result<FillReport> fill_fields(EditableDocument& document, const std::vector<FieldValue>& values,
                               const FillOptions& options) {
  if (values.empty()) return Error(ErrorCode::invalid_argument, "there is no value to fill in");
  auto& impl = Inside<EditableDocument>::impl(document);
  FillReport report;
  LUMVET_RETURN_IF_ERROR(
      impl.fill_in([&](const Document& now, file::Ledger& ledger) -> Result<std::string> {
        FillStep step(impl, now, ledger, options);
        LUMVET_RETURN_IF_ERROR(step.open());
        for (const FieldValue& value : values) LUMVET_RETURN_IF_ERROR(step.set(value));
        LUMVET_RETURN_IF_ERROR(step.finish());
        report = step.report();
        return "filled in " + count_of(static_cast<std::size_t>(report.filled));
      }));
  return report;
}

Result<FillReport> reset_fields(EditableDocument& document, const std::vector<std::string>& names) {
  auto& impl = Inside<EditableDocument>::impl(document);
  FillReport report;
  LUMVET_RETURN_IF_ERROR(
      impl.fill_in([&](const Document& now, file::Ledger& ledger) -> Result<std::string> {
        FillStep step(impl, now, ledger, {});
        LUMVET_RETURN_IF_ERROR(step.open());
        LUMVET_RETURN_IF_ERROR(step.reset(names));
        LUMVET_RETURN_IF_ERROR(step.finish());
        report = step.report();
        return "reset " + count_of(static_cast<std::size_t>(report.filled));
      }));
  return report;
}

}  // namespace lumvet

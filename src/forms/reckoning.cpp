// SPDX-License-Identifier: Apache-2.0
#include "forms/reckoning.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "lumvet/document/field_format.h"

namespace lumvet::forms {
namespace {

using How = FieldReckoning::How;

// Nothing for what holds no number.
std::optional<double> number_of(const FormField& field) {
  const std::string value = field.value();
  if (value.empty()) return std::nullopt;
  if (const auto format = format_of(field)) {
    const auto kept = kept_value(*format, value);
    return kept.ok() ? number_in(*kept) : std::nullopt;
  }
  return number_in(value);
}

double reckoned(How how, const std::vector<double>& numbers) {
  double value = how == How::product ? 1 : how == How::sum || how == How::average ? 0 : numbers[0];
  for (const double number : numbers) {
    if (how == How::product)
      value *= number;
    else if (how == How::least)
      value = std::min(value, number);
    else if (how == How::most)
      value = std::max(value, number);
    else
      value += number;
  }
  return how == How::average ? value / static_cast<double>(numbers.size()) : value;
}

// Far more than any form needs; the way from there would be without end.
constexpr std::size_t kMostNumbers = 1'000'000;

// The fields of a form by their names.
class NamedFields {
 public:
  explicit NamedFields(const Form& form) : form_(form) {
    for (std::size_t i = 0; i < form.fields.size(); ++i) places_.emplace(form.fields[i].name, i);
  }

  // The numbers of the fields of that name and of those below it; false when there is no such one.
  bool add(const std::string& name, std::vector<double>& numbers) {
    const std::size_t before = met_;
    for (auto at = places_.lower_bound(name); at != places_.end(); ++at) {
      if (!at->first.starts_with(name) || met_ > kMostNumbers) break;
      if (at->first.size() > name.size() && at->first[name.size()] != '.') continue;
      ++met_;
      const FormField& field = form_.fields[at->second];
      if (!field.is_terminal) continue;
      if (const auto number = number_of(field)) numbers.push_back(*number);
    }
    return met_ > before;
  }
  bool met_too_many() const { return met_ > kMostNumbers; }

 private:
  const Form& form_;
  std::multimap<std::string, std::size_t> places_;
  std::size_t met_ = 0;
};

bool is_calculated_by_script(const FormField& field) {
  return std::any_of(field.triggers.begin(), field.triggers.end(), [](const Trigger& trigger) {
    return trigger.event == "value calculated" && !trigger.actions.empty();
  });
}

}  // namespace

std::vector<std::size_t> reckon(Form& form, std::vector<Finding>& findings) {
  std::vector<std::size_t> order;
  std::set<std::size_t> ordered;
  const auto add = [&](std::size_t place) {
    if (ordered.insert(place).second) order.push_back(place);
  };
  for (const int place : form.calculation_order) add(static_cast<std::size_t>(place));
  for (std::size_t i = 0; i < form.fields.size(); ++i)
    if (reckoning_of(form.fields[i])) add(i);

  NamedFields named(form);
  std::vector<std::size_t> changed;
  for (const std::size_t place : order) {
    FormField& field = form.fields[place];
    const auto reckoning = reckoning_of(field);
    const auto tell = [&](const std::string& what) {
      findings.push_back({"field '" + field.name + "' " + what, {}, field.id});
    };
    if (!reckoning) {
      if (is_calculated_by_script(field))
        tell("is calculated by a script, which is not run; it keeps its value");
      continue;
    }
    std::vector<double> numbers;
    for (const std::string& name : reckoning->fields)
      if (!named.add(name, numbers)) tell("is reckoned from '" + name + "', which is no field");
    if (named.met_too_many()) {
      tell("is reckoned from too many fields; it keeps its value");
      break;
    }
    const double value = numbers.empty() ? 0 : reckoned(reckoning->how, numbers);
    if (!std::isfinite(value)) continue;
    const std::vector<std::string> now =
        numbers.empty() ? std::vector<std::string>() : std::vector{number_text(value)};
    if (field.values == now) continue;
    field.values = now;
    changed.push_back(place);
  }
  return changed;
}

}  // namespace lumvet::forms

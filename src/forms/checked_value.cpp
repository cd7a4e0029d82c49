// SPDX-License-Identifier: Apache-2.0
// What fields take.
#include <algorithm>
#include <array>

#include "lumvet/base/nearest_word.h"
#include "lumvet/document/field_format.h"
#include "lumvet/forms/filling.h"

namespace lumvet {
namespace {

using Kind = FormField::Kind;

Error wrong(const FormField& field, const std::string& what) {
  return Error(ErrorCode::invalid_argument, "field '" + field.name + "' " + what);
}

std::string listed(const std::vector<std::string>& words) {
  constexpr std::size_t kMost = 20;
  std::string all;
  for (std::size_t i = 0; i < words.size() && i < kMost; ++i)
    all += (all.empty() ? "" : ", ") + words[i];
  return words.size() > kMost ? all + " and " + std::to_string(words.size() - kMost) + " others"
                              : all;
}

Error no_such(const FormField& field, const std::string& value,
              const std::vector<std::string>& there) {
  if (there.empty()) return wrong(field, "has nothing that could be chosen");
  const auto near = nearest_word(value, there);
  return wrong(field, "does not take '" + value + "'; " +
                          (near ? "did you mean " + *near + "? There are " : "there are ") +
                          listed(there));
}

std::size_t length_of(const std::string& text) {
  return static_cast<std::size_t>(
      std::count_if(text.begin(), text.end(), [](char c) { return (c & 0xC0) != 0x80; }));
}

Result<std::string> checked_text(const FormField& field, const std::string& value) {
  std::string kept = value;
  if (const auto format = format_of(field)) {
    auto text = kept_value(*format, value);
    if (!text.ok()) return wrong(field, text.error().message());
    kept = *std::move(text);
    if (const auto range = range_of(field); range && !kept.empty()) {
      const auto number = number_in(kept);
      if (number &&
          ((range->least && *number < *range->least) || (range->most && *number > *range->most)))
        return wrong(field, "takes numbers " +
                                (range->least ? "from " + number_text(*range->least) + " " : "") +
                                (range->most ? "up to " + number_text(*range->most) : "") +
                                ", not " + kept);
    }
  }
  if (field.kind == Kind::text && !field.is_multiline() &&
      kept.find_first_of("\r\n") != std::string::npos)
    return wrong(field, "takes one line");
  if (field.longest && *field.longest > 0 &&
      length_of(kept) > static_cast<std::size_t>(*field.longest))
    return wrong(field, "takes at most " + std::to_string(*field.longest) + " characters; '" +
                            kept + "' has " + std::to_string(length_of(kept)));
  return kept;
}

std::string lower(std::string text) {
  for (char& c : text)
    if (c >= 'A' && c <= 'Z') c = static_cast<char>(c - 'A' + 'a');
  return text;
}

bool is_one_of(const std::string& value, std::initializer_list<const char*> words) {
  const std::string low = lower(value);
  return std::any_of(words.begin(), words.end(), [&](const char* word) { return low == word; });
}

// What each place of a box or of radio buttons stands for.
std::vector<std::string> choices_of(const FormField& field) {
  std::vector<std::string> choices;
  for (std::size_t i = 0; i < field.widgets.size(); ++i) {
    const std::string& state = field.widgets[i].on_state;
    choices.push_back(i < field.options.size() ? field.options[i].exported
                      : state.empty()          ? "On"
                                               : state);
  }
  return choices;
}

Result<std::string> checked_button(const FormField& field, const std::string& value) {
  const std::vector<std::string> choices = choices_of(field);
  if (const auto found = std::find(choices.begin(), choices.end(), value); found != choices.end())
    return value;
  for (const FieldWidget& widget : field.widgets)
    if (!widget.on_state.empty() && widget.on_state == value) return value;
  const bool is_single = field.kind == Kind::check_box &&
                         std::all_of(choices.begin(), choices.end(),
                                     [&](const std::string& one) { return one == choices[0]; });
  if (value.empty() || is_one_of(value, {"off", "no", "false"})) return std::string("Off");
  if (is_single && !choices.empty() && is_one_of(value, {"on", "yes", "true", "x", "1"}))
    return choices[0];
  std::vector<std::string> there = choices;
  there.emplace_back("Off");
  return no_such(field, value, there);
}

Result<std::string> checked_option(const FormField& field, const std::string& value) {
  for (const FieldOption& option : field.options)
    if (option.exported == value) return value;
  for (const FieldOption& option : field.options)
    if (option.shown == value) return option.exported;
  if (field.is_editable()) return checked_text(field, value);
  std::vector<std::string> there;
  for (const FieldOption& option : field.options) there.push_back(option.shown);
  return no_such(field, value, there);
}

}  // namespace

Result<std::vector<std::string>> checked_values(const FormField& field,
                                                const std::vector<std::string>& values) {
  const auto keeps_none = [&](const char* why) {
    return Error(ErrorCode::unsupported, "field '" + field.name + "' " + why);
  };
  switch (field.kind) {
    case Kind::group: return keeps_none("is a group of fields; name one of them");
    case Kind::push_button: return keeps_none("is a push button, which holds no value");
    case Kind::signature: return keeps_none("is a signature, which is made by signing");
    default: break;
  }
  if (field.is_password()) return keeps_none("is a password, which no document should keep");
  std::vector<std::string> given = values;
  const bool is_button = field.kind == Kind::check_box || field.kind == Kind::radio_buttons;
  if (!is_button) std::erase(given, "");
  if (given.empty()) return is_button ? std::vector<std::string>{"Off"} : given;
  if (given.size() > 1 && !field.takes_several())
    return wrong(field, "takes one value, not " + std::to_string(given.size()));
  std::vector<std::string> kept;
  kept.reserve(given.size());
  for (const std::string& value : given) {
    LUMVET_TRY(std::string one, is_button                  ? checked_button(field, value)
                                : field.kind == Kind::text ? checked_text(field, value)
                                                           : checked_option(field, value));
    kept.push_back(std::move(one));
  }
  return kept;
}

std::vector<std::string> exported_values(const FormField& field) {
  const bool is_button = field.kind == Kind::check_box || field.kind == Kind::radio_buttons;
  if (!is_button) return field.values;
  for (std::size_t i = 0; i < field.widgets.size() && i < field.options.size(); ++i)
    if (!field.value().empty() && field.widgets[i].on_state == field.value())
      return {field.options[i].exported};
  return {field.value().empty() ? "Off" : field.value()};
}

std::vector<FieldValue> values_of(const Form& form) {
  std::vector<FieldValue> values;
  for (const FormField& field : form.fields) {
    const bool holds = field.kind != Kind::group && field.kind != Kind::push_button &&
                       field.kind != Kind::signature && !field.is_password();
    if (field.is_terminal && holds && field.is_exported())
      values.push_back({field.name, exported_values(field)});
  }
  return values;
}

}  // namespace lumvet

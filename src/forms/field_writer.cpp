// SPDX-License-Identifier: Apache-2.0
#include "forms/field_writer.h"

#include <algorithm>

#include "document/inside.h"
#include "document/text_entries.h"

namespace lumvet::forms {
namespace {

using document::text_object;
using Kind = FormField::Kind;

bool is_button(const FormField& field) {
  return field.kind == Kind::check_box || field.kind == Kind::radio_buttons;
}

Object texts(const std::vector<std::string>& values) {
  if (values.empty()) return {};
  if (values.size() == 1) return text_object(values[0]);
  Array all;
  all.reserve(values.size());
  for (const std::string& value : values) all.push_back(text_object(value));
  return all;
}

// Which options of a list are chosen, from 0.
Object places_of(const FormField& field) {
  Array places;
  for (std::size_t i = 0; i < field.options.size(); ++i)
    if (std::find(field.values.begin(), field.values.end(), field.options[i].exported) !=
        field.values.end())
      places.push_back(static_cast<std::int64_t>(i));
  return places.empty() ? Object() : Object(std::move(places));
}

// What a place is called when it is on.
std::string on_state(const FormField& field, std::size_t place) {
  const std::string& state = field.widgets[place].on_state;
  return state.empty() ? "On" : state;
}

}  // namespace

std::string state_at(const FormField& field, std::size_t place) {
  const std::string value = field.value();
  const std::string state = on_state(field, place);
  const bool is_exported =
      place < field.options.size() && field.options[place].exported == value && value != "Off";
  return value == state || is_exported ? state : "Off";
}

FieldWriter::FieldWriter(const Document& document, file::Ledger& ledger)
    : document_(document), ledger_(ledger), looks_(core_of(document), ledger, FontSupply()) {}

Status FieldWriter::set(const FormField& field) {
  if (field.id == ObjectId())
    return Error(ErrorCode::unsupported,
                 "field '" + field.name + "' is no object of its own; repair the document first");
  Dict dict = ledger_.resolve(Object(field.id)).as_dict();
  if (is_button(field)) {
    std::string state = "Off";
    for (std::size_t i = 0; i < field.widgets.size(); ++i)
      if (const std::string at = state_at(field, i); at != "Off") state = at;
    dict.set("V", Object::name(state));
  } else {
    dict.set("V", texts(field.values));
    dict.remove("RV");
    if (field.kind == Kind::list_box)
      dict.set("I", places_of(field));
    else
      dict.remove("I");
  }
  ledger_.set(field.id, std::move(dict));
  return draw(field);
}

Status FieldWriter::draw(const FormField& field) {
  for (std::size_t i = 0; i < field.widgets.size(); ++i) {
    const FieldWidget& widget = field.widgets[i];
    if (widget.id == ObjectId())
      return Error(ErrorCode::unsupported, "field '" + field.name +
                                               "' has a place that is no object of its own; repair "
                                               "the document first");
    if (widget.page) pages_.insert(*widget.page);
    Dict dict = ledger_.resolve(Object(widget.id)).as_dict();
    if (!is_button(field)) {
      LUMVET_TRY(const auto look, looks_.write(field, dict, true));
      if (look) dict.set("AP", Dict{{"N", look->form}});
      ledger_.set(widget.id, std::move(dict));
      continue;
    }
    const std::string on = on_state(field, i);
    const Object looks = ledger_.get(dict, "AP");
    const Object normal = ledger_.get(looks.as_dict(), "N");
    if (!normal.as_dict().contains(on)) {
      Dict states;
      for (const bool is_on : {true, false}) {
        LUMVET_TRY(const auto look, looks_.write(field, dict, is_on));
        if (look) states.set(is_on ? on : "Off", look->form);
      }
      dict.set("AP", Dict{{"N", std::move(states)}});
    }
    dict.set("AS", Object::name(state_at(field, i)));
    ledger_.set(widget.id, std::move(dict));
  }
  return Done{};
}

Status FieldWriter::finish() {
  for (const int page : pages_)
    if (const auto node = core_of(document_).pages().find(page);
        node.ok() && node->id != ObjectId())
      ledger_.touch_page(node->id);
  return looks_.finish();
}

}  // namespace lumvet::forms

// SPDX-License-Identifier: Apache-2.0
#include "forms/new_field.h"

#include <map>

#include "appearance/default_appearance.h"
#include "document/text_entries.h"
#include "forms/field_writer.h"
#include "lumvet/forms/filling.h"

namespace lumvet::forms {
namespace {

using document::text_object;
using Kind = FormField::Kind;

Array numbers(const std::vector<double>& parts) {
  Array list;
  list.reserve(parts.size());
  for (const double part : parts) list.push_back(part);
  return list;
}

// Tables 227, 229, 231 and 233.
std::int64_t flags_of(const NewField& field) {
  std::int64_t flags = 0;
  const auto set = [&](bool is_set, int bit) {
    if (is_set) flags |= std::int64_t{1} << (bit - 1);
  };
  set(field.is_read_only, 1);
  set(field.is_required, 2);
  const bool is_text = field.kind == Kind::text;
  set(is_text && field.is_multiline, 13);
  set(is_text && field.is_password, 14);
  set(is_text && field.has_cells, 25);
  set(field.kind == Kind::radio_buttons, 15);
  set(field.kind == Kind::radio_buttons, 16);
  set(field.kind == Kind::push_button, 17);
  set(field.kind == Kind::combo_box, 18);
  set(field.kind == Kind::combo_box && field.is_editable, 19);
  set(field.kind == Kind::list_box && field.takes_several, 22);
  return flags;
}

const char* type_of(Kind kind) {
  switch (kind) {
    case Kind::text: return "Tx";
    case Kind::list_box:
    case Kind::combo_box: return "Ch";
    case Kind::signature: return "Sig";
    default: return "Btn";
  }
}

bool is_button(const NewField& field) {
  return field.kind == Kind::check_box || field.kind == Kind::radio_buttons;
}

Dict events_of(const NewField& field) {
  Dict events;
  if (field.format) {
    events.set("K", script_action(keystroke_script(*field.format)));
    events.set("F", script_action(show_script(*field.format)));
  }
  if (field.range) events.set("V", script_action(script_of(*field.range)));
  if (field.reckoning) events.set("C", script_action(script_of(*field.reckoning)));
  return events;
}

}  // namespace

Object script_action(const std::string& script) {
  return Dict{{"S", Object::name("JavaScript")}, {"JS", text_object(script)}};
}

Status check(const NewField& field) {
  const auto wrong = [&](const char* why) {
    return Error(ErrorCode::invalid_argument, "field '" + field.name + "' " + why);
  };
  if (field.kind == Kind::group) return wrong("has no kind; groups are made by the names in them");
  if (field.places.empty()) return wrong("stands on no page");
  if (field.has_cells && (!field.longest || *field.longest < 1))
    return wrong("has cells; say how many characters it takes");
  if (field.longest && *field.longest < 0) return wrong("takes less than no character");
  const bool is_list = field.kind == Kind::list_box || field.kind == Kind::combo_box;
  if (is_list && field.options.empty() && !field.is_editable) return wrong("has no options");
  if (!is_list && !field.options.empty()) return wrong("has options, which only lists have");
  const bool has_number_parts = field.format || field.range || field.reckoning;
  if (has_number_parts && field.kind != Kind::text && field.kind != Kind::combo_box)
    return wrong("has a format, which only texts have");
  if (field.kind == Kind::radio_buttons)
    for (const WidgetPlace& place : field.places)
      if (place.state.empty() || place.state == "Off")
        return wrong("has a button that stands for nothing");
  return Done{};
}

Dict field_dict(const NewField& field, const std::string& own_name) {
  Dict dict{{"FT", Object::name(type_of(field.kind))}, {"T", text_object(own_name)}};
  if (!field.label.empty()) dict.set("TU", text_object(field.label));
  if (const std::int64_t flags = flags_of(field); flags != 0) dict.set("Ff", flags);
  if (field.longest) dict.set("MaxLen", std::int64_t{*field.longest});
  if (field.alignment != FormField::Alignment::left)
    dict.set("Q", std::int64_t{field.alignment == FormField::Alignment::centered ? 1 : 2});
  if (!field.options.empty()) {
    Array options;
    for (const FieldOption& option : field.options)
      options.push_back(
          option.shown.empty() || option.shown == option.exported
              ? text_object(option.exported)
              : Object(Array{text_object(option.exported), text_object(option.shown)}));
    dict.set("Opt", std::move(options));
  }
  appearance::TextLook look;
  look.font = is_button(field) ? "ZaDb" : "Helv";
  look.size = field.size;
  look.color = field.color.parts();
  if (field.kind != Kind::signature) dict.set("DA", Object::string(appearance::operators_of(look)));
  if (Dict events = events_of(field); !events.is_empty()) dict.set("AA", std::move(events));
  return dict;
}

Dict widget_dict(const NewField& field, ObjectId page) {
  Dict widget{
      {"Type", Object::name("Annot")}, {"Subtype", Object::name("Widget")}, {"P", page}, {"F", 4}};
  Dict look;
  if (field.border) {
    look.set("BC", numbers(field.border->parts()));
    widget.set("BS", Dict{{"W", field.border_width}, {"S", Object::name("S")}});
  }
  if (field.background) look.set("BG", numbers(field.background->parts()));
  if (field.kind == Kind::push_button && !field.caption.empty())
    look.set("CA", text_object(field.caption));
  if (is_button(field)) {
    look.set("CA", text_object(field.kind == Kind::check_box ? "4" : "l"));
    widget.set("AS", Object::name("Off"));
  }
  if (!look.is_empty()) widget.set("MK", std::move(look));
  return widget;
}

Status fill_new(const Document& document, file::Ledger& ledger, const Form& form,
                const std::vector<ObjectId>& ids, const std::vector<NewField>& fields) {
  std::map<ObjectId, const FormField*> known;
  for (const FormField& field : form.fields) known.emplace(field.id, &field);
  FieldWriter writer(document, ledger);
  for (std::size_t i = 0; i < ids.size(); ++i) {
    const auto found = known.find(ids[i]);
    if (found == known.end()) continue;
    FormField field = *found->second;
    for (std::size_t at = 0; at < field.widgets.size() && at < fields[i].places.size(); ++at)
      if (is_button(fields[i]))
        field.widgets[at].on_state =
            fields[i].places[at].state.empty() ? "On" : fields[i].places[at].state;
    const bool holds = field.kind != Kind::push_button && field.kind != Kind::signature;
    if (!holds) {
      LUMVET_RETURN_IF_ERROR(writer.draw(field));
      continue;
    }
    if (!fields[i].values.empty() || is_button(fields[i])) {
      LUMVET_TRY(field.values, checked_values(field, fields[i].values));
      LUMVET_RETURN_IF_ERROR(writer.set(field));
    } else {
      LUMVET_RETURN_IF_ERROR(writer.draw(field));
    }
    if (fields[i].default_values.empty()) continue;
    LUMVET_TRY(const auto kept, checked_values(field, fields[i].default_values));
    Dict dict = ledger.resolve(Object(ids[i])).as_dict();
    Array all;
    for (const std::string& value : kept) all.push_back(text_object(value));
    Object default_value = all.size() == 1 ? all[0] : Object(std::move(all));
    if (is_button(fields[i])) default_value = Object::name(kept[0]);
    dict.set("DV", std::move(default_value));
    ledger.set(ids[i], std::move(dict));
  }
  return writer.finish();
}

}  // namespace lumvet::forms

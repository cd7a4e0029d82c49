// SPDX-License-Identifier: Apache-2.0
#include "document/form.h"

#include <map>
#include <set>

#include "base/attempt.h"
#include "document/field_locks.h"
#include "document/geometry_objects.h"
#include "document/text_entries.h"
#include "document/triggers.h"
#include "filters/stream_decoder.h"

namespace lumvet::document {
namespace {

// What a field takes from those above it where it says nothing itself (table 226).
struct Inherited {
  Object type;
  Object flags;
  Object value;
  Object default_value;
  Object options;
  Object longest;
  Object alignment;
  Object appearance;
};

FormField::Kind field_kind(const Object& type, std::int64_t flags) {
  using Kind = FormField::Kind;
  const auto has_flag = [flags](int bit) { return (flags >> (bit - 1) & 1) != 0; };
  if (type.is_name("Btn"))
    return has_flag(17) ? Kind::push_button : has_flag(16) ? Kind::radio_buttons : Kind::check_box;
  if (type.is_name("Tx")) return Kind::text;
  if (type.is_name("Ch")) return has_flag(18) ? Kind::combo_box : Kind::list_box;
  if (type.is_name("Sig")) return Kind::signature;
  return Kind::group;
}

class FormReader {
 public:
  explicit FormReader(const Core& core)
      : core_(core),
        store_(core.store()),
        dict_(store_.get(core.catalog(), "AcroForm").as_dict()) {}

  Form read() {
    form_.default_appearance = store_.get(dict_, "DA").as_string();
    form_.needs_appearances = store_.get(dict_, "NeedAppearances").as_bool();
    const std::int64_t signatures = store_.get(dict_, "SigFlags").as_integer();
    form_.has_signatures = (signatures & 1) != 0;
    form_.append_only = (signatures & 2) != 0;
    form_.has_xfa = dict_.contains("XFA");
    if (dict_.is_empty()) return std::move(form_);
    find_widgets();
    open_.push_back({-1, store_.get(dict_, "Fields").as_array(), 0, top(), {}});
    while (!open_.empty()) {
      if (open_.back().next == open_.back().kids.size()) {
        open_.pop_back();
        continue;
      }
      const Object kid = open_.back().kids[open_.back().next++];
      read_field(kid);
    }
    const Object order = store_.get(dict_, "CO");
    for (const Object& field : order.as_array())
      if (const auto place = places_.find(field.as_reference()); place != places_.end())
        form_.calculation_order.push_back(place->second);
    note_locks(store_, form_);
    return std::move(form_);
  }

  FormField field_of(const Dict& widget) {
    std::vector<Dict> way{widget};
    std::set<ObjectId> seen;
    while (way.back()["Parent"].is_reference() &&
           seen.insert(way.back()["Parent"].as_reference()).second &&
           static_cast<int>(way.size()) <= store_.limits().nesting)
      way.push_back(store_.get(way.back(), "Parent").as_dict());
    Inherited inherited = top();
    for (auto dict = way.rbegin(); dict != way.rend(); ++dict) inherited = with(inherited, *dict);
    FormField field;
    field.is_terminal = true;
    fill(field, inherited);
    // A widget that is no more than a place has what is done on events from its field.
    const bool is_field = way.front().contains("T") || way.size() == 1;
    field.triggers = read_triggers(core_, is_field ? way[0] : way[1], TriggerOwner::field);
    return field;
  }

 private:
  struct Open {
    int field;  // -1 for the form itself
    Array kids;
    std::size_t next;
    Inherited inherited;
    std::string name;
  };

  // What all fields have from the form.
  Inherited top() const {
    Inherited top;
    top.appearance = dict_["DA"];
    top.alignment = dict_["Q"];
    return top;
  }

  // On which page each widget is, since few say so themselves.
  void find_widgets() {
    for (int i = 0; i < core_.pages().count(); ++i) {
      const Result<PageNode> page = core_.pages().find(i);
      if (!page.ok()) continue;
      const Object annotations = store_.get(page->dict, "Annots");
      for (const Object& reference : annotations.as_array())
        if (reference.is_reference()) pages_.emplace(reference.as_reference(), i);
    }
  }

  void read_field(const Object& kid) {
    if (kid.is_reference() && !seen_.insert(kid.as_reference()).second) {
      store_.findings().add(
          {"the form holds a field twice, or leads back into itself; it was taken "
           "once",
           {},
           kid.as_reference()});
      return;
    }
    if (static_cast<int>(open_.size()) > store_.limits().nesting) {
      met_limit("the form is deeper than Limits::nesting");
      return;
    }
    const Object object = store_.resolve(kid);
    const Dict& dict = object.as_dict();
    if (dict.is_empty()) return;
    const Open& above = open_.back();
    // What has no name of its own is one of the places of the field above it (12.7.4.2).
    const bool is_widget_only = !dict.contains("T") && above.field >= 0 && !dict.contains("Kids");
    if (is_widget_only) {
      add_widget(above.field, kid, dict);
      return;
    }
    if (!Attempt::follow(sizeof(FormField))) return;
    FormField field;
    field.id = kid.as_reference();
    field.parent = above.field;
    field.depth = static_cast<int>(open_.size()) - 1;
    const std::string own = text_entry(store_, dict, "T");
    field.name = above.name + (above.name.empty() || own.empty() ? "" : ".") + own;
    if (!Attempt::follow(2 * field.name.size())) return;
    field.label = text_entry(store_, dict, "TU");
    field.export_name = text_entry(store_, dict, "TM");
    const Inherited inherited = with(above.inherited, dict);
    fill(field, inherited);
    field.triggers = read_triggers(core_, dict, TriggerOwner::field);
    const auto place = static_cast<int>(form_.fields.size());
    places_.emplace(kid.as_reference(), place);
    std::string name = field.name;
    form_.fields.push_back(std::move(field));
    const Array kids = store_.get(dict, "Kids").as_array();
    form_.fields.back().is_terminal = !has_fields(kids);
    if (kids.empty() && is_widget(dict)) add_widget(place, kid, dict);
    open_.push_back({place, kids, 0, inherited, std::move(name)});
  }

  bool is_widget(const Dict& dict) {
    return store_.get(dict, "Subtype").is_name("Widget") || dict.contains("Rect");
  }

  bool has_fields(const Array& kids) {
    for (const Object& kid : kids)
      if (const Object object = store_.resolve(kid);
          object.as_dict().contains("T") || object.as_dict().contains("Kids"))
        return true;
    return false;
  }

  static Inherited with(Inherited inherited, const Dict& dict) {
    struct Entry {
      std::string_view key;
      Object Inherited::*member;
    };
    constexpr Entry kEntries[] = {{"FT", &Inherited::type},     {"Ff", &Inherited::flags},
                                  {"V", &Inherited::value},     {"DV", &Inherited::default_value},
                                  {"Opt", &Inherited::options}, {"MaxLen", &Inherited::longest},
                                  {"Q", &Inherited::alignment}, {"DA", &Inherited::appearance}};
    for (const Entry& entry : kEntries)
      if (dict.contains(entry.key)) inherited.*entry.member = dict[entry.key];
    return inherited;
  }

  void fill(FormField& field, const Inherited& inherited) {
    field.flags = store_.resolve(inherited.flags).as_integer();
    field.kind = field_kind(store_.resolve(inherited.type), field.flags);
    const Object value = store_.resolve(inherited.value);
    if (field.kind == FormField::Kind::signature)
      field.signature = value.is_dict() ? inherited.value : Object();
    else
      field.values = texts_of(value);
    field.default_values = texts_of(store_.resolve(inherited.default_value));
    const Object options = store_.resolve(inherited.options);
    for (const Object& item : options.as_array()) {
      const Object option = store_.resolve(item);
      const std::vector<std::string> texts = texts_of(option);
      if (!texts.empty()) field.options.push_back({texts.front(), texts.back()});
    }
    const Object longest = store_.resolve(inherited.longest);
    if (longest.is_integer() && longest.as_integer() >= 0) field.longest = longest.as_integer();
    const std::int64_t alignment = store_.resolve(inherited.alignment).as_integer();
    if (alignment == 1) field.alignment = FormField::Alignment::centered;
    if (alignment == 2) field.alignment = FormField::Alignment::right;
    field.default_appearance = store_.resolve(inherited.appearance).as_string();
  }

  // Text strings, names of states and streams of text, one or several.
  std::vector<std::string> texts_of(const Object& value) {
    if (value.is_string()) return {objects::text_to_utf8(value.as_string())};
    if (value.is_name()) return {std::string(value.as_name())};
    if (const Stream* stream = value.as_stream()) {
      Budget budget(store_.limits());
      const auto bytes = filters::decode_whole(*stream, store_, budget, store_.findings());
      if (bytes.ok()) return {objects::text_to_utf8(as_text(bytes->view()))};
    }
    std::vector<std::string> texts;
    for (const Object& item : value.as_array())
      if (const Object text = store_.resolve(item); text.is_string())
        texts.push_back(objects::text_to_utf8(text.as_string()));
    return texts;
  }

  void add_widget(int place, const Object& kid, const Dict& dict) {
    if (!Attempt::follow(sizeof(FieldWidget))) return;
    FieldWidget widget;
    widget.id = kid.as_reference();
    if (const auto page = pages_.find(widget.id); page != pages_.end())
      widget.page = page->second;
    else if (dict["P"].is_reference())
      widget.page = core_.pages().index_of(dict["P"].as_reference());
    widget.rect = rect_of(store_, dict["Rect"]).value_or(Rect());
    widget.state = store_.get(dict, "AS").as_name();
    const Object looks = store_.get(dict, "AP");
    const Object normal = store_.get(looks.as_dict(), "N");
    if (!normal.is_stream())
      for (const auto& [state, look] : normal.as_dict())
        if (state != "Off") widget.on_state = state;
    form_.fields[static_cast<std::size_t>(place)].widgets.push_back(std::move(widget));
  }

  const Core& core_;
  const file::ObjectStore& store_;
  Dict dict_;
  Form form_;
  std::vector<Open> open_;
  std::set<ObjectId> seen_;
  std::map<ObjectId, int> places_;
  std::map<ObjectId, int> pages_;
};

}  // namespace

FormField field_of_widget(const Core& core, const Dict& widget) {
  return FormReader(core).field_of(widget);
}

Form read_form(const Core& core) { return FormReader(core).read(); }

}  // namespace lumvet::document

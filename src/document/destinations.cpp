// SPDX-License-Identifier: Apache-2.0
#include "document/destinations.h"

#include <array>
#include <set>

#include "base/attempt.h"
#include "document/name_tree.h"
#include "filters/stream_decoder.h"
#include "objects/text_string.h"

namespace lumvet::document {
namespace {

using View = Destination::View;

struct ViewKind {
  std::string_view name;
  View view;
  // Which number each further element of the array is.
  std::array<std::optional<double> Destination::*, 4> numbers;
};

constexpr std::array<ViewKind, 8> kViews = {
    {{"XYZ", View::xyz, {&Destination::left, &Destination::top, &Destination::zoom, nullptr}},
     {"Fit", View::fit, {}},
     {"FitH", View::fit_h, {&Destination::top}},
     {"FitV", View::fit_v, {&Destination::left}},
     {"FitR",
      View::fit_r,
      {&Destination::left, &Destination::bottom, &Destination::right, &Destination::top}},
     {"FitB", View::fit_b, {}},
     {"FitBH", View::fit_bh, {&Destination::top}},
     {"FitBV", View::fit_bv, {&Destination::left}}}};

std::optional<int> page_at(const Core& core, const Array& target) {
  const Object& page = target[0];
  if (page.is_reference()) return core.pages().index_of(page.as_reference());
  if (page.is_integer() && page.as_integer() >= 0 && page.as_integer() < core.pages().count())
    return static_cast<int>(page.as_integer());
  return std::nullopt;
}

Destination from_array(const Core& core, const Array& target) {
  Destination destination;
  destination.page = page_at(core, target);
  if (target.size() < 2) return destination;
  const Object name = core.store().resolve(target[1]);
  for (const ViewKind& kind : kViews) {
    if (!name.is_name(kind.name)) continue;
    destination.view = kind.view;
    for (std::size_t i = 0; i < kind.numbers.size() && i + 2 < target.size(); ++i) {
      const Object number = core.store().resolve(target[i + 2]);
      if (kind.numbers[i] != nullptr && number.is_number())
        destination.*kind.numbers[i] = number.as_number();
    }
    if (destination.zoom == 0) destination.zoom.reset();  // as it is (table 149)
  }
  return destination;
}

Action::Kind action_kind(std::string_view type) {
  struct Known {
    std::string_view type;
    Action::Kind kind;
  };
  static constexpr std::array<Known, 12> kKnown = {{{"GoTo", Action::Kind::go_to},
                                                    {"GoToR", Action::Kind::go_to_remote},
                                                    {"GoToE", Action::Kind::go_to_embedded},
                                                    {"Launch", Action::Kind::launch},
                                                    {"URI", Action::Kind::uri},
                                                    {"Named", Action::Kind::named},
                                                    {"SubmitForm", Action::Kind::submit_form},
                                                    {"ResetForm", Action::Kind::reset_form},
                                                    {"ImportData", Action::Kind::import_data},
                                                    {"JavaScript", Action::Kind::script},
                                                    {"Hide", Action::Kind::hide},
                                                    {"SetOCGState", Action::Kind::set_layers}}};
  for (const Known& known : kKnown)
    if (known.type == type) return known.kind;
  return Action::Kind::other;
}

std::string text(const Object& object) { return objects::text_to_utf8(object.as_string()); }

// A text string or a stream of one, as scripts are.
std::string long_text(const file::ObjectStore& store, const Object& object) {
  const Stream* stream = object.as_stream();
  if (stream == nullptr) return text(object);
  Budget budget(store.limits());
  const auto bytes = filters::decode_whole(*stream, store, budget, store.findings());
  return bytes.ok() ? objects::text_to_utf8(as_text(bytes->view())) : std::string();
}

// The full name of a field: its own behind those of its parents (12.7.4.2).
std::string field_name(const file::ObjectStore& store, const Object& field) {
  if (field.is_string()) return text(field);
  std::string name;
  Object at = field;
  for (int depth = 0; depth < store.limits().nesting && at.is_dict(); ++depth) {
    const Object own = store.get(at.as_dict(), "T");
    if (own.is_string()) name = text(own) + (name.empty() ? "" : "." + name);
    at = store.get(at.as_dict(), "Parent");
  }
  return name;
}

// What Hide shows or hides: fields by their names, annotations by their objects (12.6.4.11).
void read_hidden(const file::ObjectStore& store, const Object& target, Action& action) {
  const Object stated = store.resolve(target);
  const Array targets = stated.is_array() ? stated.as_array() : Array{target};
  for (const Object& one : targets) {
    const Object value = store.resolve(one);
    const std::string name = field_name(store, value);
    if (!name.empty())
      action.fields.push_back(name);
    else if (one.is_reference() && value.is_dict())
      action.objects.push_back(one.as_reference());
  }
}

// What SetOCGState switches: "ON", "OFF" and "Toggle", each with the layers behind it (12.6.4.13).
void read_switched_layers(const file::ObjectStore& store, const Dict& dict, Action& action) {
  LayerSwitch::To to = LayerSwitch::To::toggle;
  const Object state = store.get(dict, "State");
  for (const Object& item : state.as_array()) {
    const Object value = store.resolve(item);
    if (value.is_name("ON")) to = LayerSwitch::To::on;
    if (value.is_name("OFF")) to = LayerSwitch::To::off;
    if (value.is_name("Toggle")) to = LayerSwitch::To::toggle;
    if (!value.is_name() && item.is_reference()) action.layers.push_back({item.as_reference(), to});
  }
}

// The page of a structure element, or of the first below it that has one.
Object page_of_element(const file::ObjectStore& store, const Object& element) {
  std::vector<Object> open = {element};
  std::set<ObjectId> seen;
  while (!open.empty() && Attempt::follow(sizeof(Object))) {
    const Object reference = open.back();
    open.pop_back();
    if (reference.is_reference() && !seen.insert(reference.as_reference()).second) continue;
    const Object at = store.resolve(reference);
    if (!at.is_dict()) continue;
    if (const Object& page = at.as_dict()["Pg"]; page.is_reference()) return page;
    const Object& kids = at.as_dict()["K"];
    const Object list = store.resolve(kids);
    if (!list.is_array()) open.push_back(kids);
    for (auto kid = list.as_array().rbegin(); kid != list.as_array().rend(); ++kid)
      open.push_back(*kid);
  }
  return Object();
}

// One that leads to a structure element, and where that has no page, to nothing (12.3.2.3).
std::optional<Destination> structure_destination(const Core& core, const Object& stated) {
  Object value = core.store().resolve(stated);
  if (value.is_dict()) value = core.store().get(value.as_dict(), "SD");
  if (value.as_array().empty()) return std::nullopt;
  Array target = value.as_array();
  target[0] = page_of_element(core.store(), target[0]);
  Destination destination = from_array(core, target);
  return destination.page ? std::optional(std::move(destination)) : std::nullopt;
}

Action read_action(const Core& core, const Dict& dict) {
  const file::ObjectStore& store = core.store();
  Action action;
  action.type = store.get(dict, "S").as_name();
  action.kind = action_kind(action.type);
  switch (action.kind) {
    case Action::Kind::go_to:
      action.destination = structure_destination(core, dict["SD"]);
      if (!action.destination) action.destination = read_destination(core, dict["D"]);
      break;
    case Action::Kind::go_to_remote:
    case Action::Kind::go_to_embedded: {
      action.target = file_name_of(store, store.get(dict, "F"));
      // Its pages are numbers, since objects of other files cannot be referred to.
      const Object place = store.get(dict, "D");
      Destination destination;
      if (!place.as_array().empty()) {
        destination = from_array(core, place.as_array());
        const Object page = store.resolve(place.as_array()[0]);
        destination.page = page.is_integer() && page.as_integer() >= 0
                               ? std::optional(static_cast<int>(page.as_integer()))
                               : std::nullopt;
      }
      destination.name = place.is_name() ? std::string(place.as_name()) : text(place);
      action.destination = destination;
      break;
    }
    case Action::Kind::launch: {
      action.target = file_name_of(store, store.get(dict, "F"));
      const Object windows = store.get(dict, "Win");
      if (action.target.empty()) action.target = text(store.get(windows.as_dict(), "F"));
      break;
    }
    case Action::Kind::uri: action.target = store.get(dict, "URI").as_string(); break;
    case Action::Kind::named: action.target = store.get(dict, "N").as_name(); break;
    case Action::Kind::import_data:
    case Action::Kind::submit_form:
      action.target = file_name_of(store, store.get(dict, "F"));
      [[fallthrough]];
    case Action::Kind::reset_form: {
      const Object fields = store.get(dict, "Fields");
      for (const Object& field : fields.as_array())
        action.fields.push_back(field_name(store, store.resolve(field)));
      action.flags = store.get(dict, "Flags").as_integer();
      break;
    }
    case Action::Kind::script: action.target = long_text(store, store.get(dict, "JS")); break;
    case Action::Kind::hide: read_hidden(store, dict["T"], action); break;
    case Action::Kind::set_layers: read_switched_layers(store, dict, action); break;
    case Action::Kind::other: break;
  }
  return action;
}

}  // namespace

Object explicit_destination(const Core& core, const Object& destination) {
  const file::ObjectStore& store = core.store();
  Object target = store.resolve(destination);
  if (target.is_string()) {
    const Object names = store.get(core.catalog(), "Names");
    target = find_in_name_tree(store, names.as_dict()["Dests"], target.as_string(),
                               store.limits().name_tree_depth);
  } else if (target.is_name()) {
    const Object dests = store.get(core.catalog(), "Dests");
    target = store.get(dests.as_dict(), target.as_name());
  }
  if (target.is_dict()) target = store.get(target.as_dict(), "D");
  return target.as_array().empty() ? Object() : target;
}

std::optional<int> page_of_destination(const Core& core, const Object& destination) {
  const Object target = explicit_destination(core, destination);
  return target.is_null() ? std::nullopt : page_at(core, target.as_array());
}

std::optional<Destination> read_destination(const Core& core, const Object& destination) {
  const Object stated = core.store().resolve(destination);
  const Object target = explicit_destination(core, destination);
  if (target.is_null()) return std::nullopt;
  Destination read = from_array(core, target.as_array());
  if (stated.is_name()) read.name = stated.as_name();
  if (stated.is_string()) read.name = text(stated);
  return read;
}

std::vector<Destination> read_named_destinations(const Core& core) {
  const file::ObjectStore& store = core.store();
  std::vector<Destination> destinations;
  const auto add = [&](std::string name, const Object& value) {
    const Object resolved = store.resolve(value);
    const Object target = resolved.is_dict() ? store.get(resolved.as_dict(), "D") : resolved;
    if (target.as_array().empty() || !Attempt::follow(sizeof(Destination))) return;
    destinations.push_back(from_array(core, target.as_array()));
    destinations.back().name = std::move(name);
  };
  const Object old = store.get(core.catalog(), "Dests");
  for (const auto& [name, value] : old.as_dict()) add(name, value);
  const Object names = store.get(core.catalog(), "Names");
  walk_tree(store, names.as_dict()["Dests"], "Names",
            [&](const Object& key, const Object& value) { add(text(key), value); });
  return destinations;
}

std::vector<Action> read_actions(const Core& core, const Object& action) {
  const file::ObjectStore& store = core.store();
  std::vector<Action> actions;
  std::vector<Object> open = {action};
  std::set<ObjectId> seen;
  constexpr std::size_t kLongestChain = 1000;
  while (!open.empty() && actions.size() < kLongestChain) {
    const Object at = open.back();
    open.pop_back();
    if (at.is_reference() && !seen.insert(at.as_reference()).second) {
      store.findings().add({"a chain of actions leads back into itself", {}, at.as_reference()});
      continue;
    }
    const Object object = store.resolve(at);
    if (!object.is_dict()) continue;
    if (!Attempt::follow(sizeof(Action))) break;
    actions.push_back(read_action(core, object.as_dict()));
    const Object& next = object.as_dict()["Next"];
    const Object several = store.resolve(next);
    if (several.is_array() && Attempt::follow(several.as_array().size() * sizeof(Object)))
      open.insert(open.end(), several.as_array().rbegin(), several.as_array().rend());
    else
      open.push_back(next);
  }
  return actions;
}

std::string file_name_of(const file::ObjectStore& store, const Object& specification) {
  if (specification.is_string()) return text(specification);
  for (const char* key : {"UF", "F", "Unix", "DOS", "Mac"})
    if (const Object name = store.get(specification.as_dict(), key); name.is_string())
      return text(name);
  return {};
}

}  // namespace lumvet::document

// SPDX-License-Identifier: Apache-2.0
#include "document/layers.h"

#include <map>
#include <set>

#include "base/attempt.h"
#include "document/text_entries.h"

namespace lumvet::document {
namespace {

class LayerReader {
 public:
  explicit LayerReader(const Core& core) : store_(core.store()) {
    properties_ = store_.get(core.catalog(), "OCProperties");
  }

  Layers read() {
    const Object groups = store_.get(properties_.as_dict(), "OCGs");
    for (const Object& group : groups.as_array()) add_layer(group);
    const Object initial = store_.get(properties_.as_dict(), "D");
    std::vector<bool> on(layers_.all.size(), true);
    layers_.initial = read_configuration(initial.as_dict(), on);
    const Object others = store_.get(properties_.as_dict(), "Configs");
    for (const Object& other : others.as_array())
      layers_.others.push_back(
          read_configuration(store_.resolve(other).as_dict(), layers_.initial.visible));
    return std::move(layers_);
  }

 private:
  void add_layer(const Object& reference) {
    const Object object = store_.resolve(reference);
    const Dict& group = object.as_dict();
    if (group.is_empty() || !reference.is_reference()) {
      store_.findings().add(
          {"the list of layers holds something that is none", {}, reference.as_reference()});
      return;
    }
    const auto place = static_cast<int>(layers_.all.size());
    if (!places_.emplace(reference.as_reference(), place).second) return;
    Layer layer;
    layer.id = reference.as_reference();
    layer.name = text_entry(store_, group, "Name");
    layer.intents = names(group, "Intent");
    if (layer.intents.empty()) layer.intents = {"View"};
    layer.usage = read_usage(store_.get(group, "Usage").as_dict());
    layers_.all.push_back(std::move(layer));
  }

  LayerUsage read_usage(const Dict& dict) {
    LayerUsage usage;
    const auto part = [&](std::string_view key) { return store_.get(dict, key); };
    const Object creator = part("CreatorInfo");
    usage.creator = text_entry(store_, creator.as_dict(), "Creator");
    usage.subtype = store_.get(creator.as_dict(), "Subtype").as_name();
    const Object language = part("Language");
    usage.language = text_entry(store_, language.as_dict(), "Lang");
    usage.language_preferred = store_.get(language.as_dict(), "Preferred").is_name("ON");
    const Object zoom = part("Zoom");
    if (const Object from = store_.get(zoom.as_dict(), "min"); from.is_number())
      usage.zoom_from = from.as_number();
    if (const Object to = store_.get(zoom.as_dict(), "max"); to.is_number())
      usage.zoom_to = to.as_number();
    usage.shown_in_view = state(part("View").as_dict(), "ViewState");
    usage.shown_in_print = state(part("Print").as_dict(), "PrintState");
    usage.shown_in_export = state(part("Export").as_dict(), "ExportState");
    usage.print_subtype = store_.get(part("Print").as_dict(), "Subtype").as_name();
    const Object user = part("User");
    usage.user_kind = store_.get(user.as_dict(), "Type").as_name();
    const Object who = store_.get(user.as_dict(), "Name");
    if (who.is_string()) usage.users = {objects::text_to_utf8(who.as_string())};
    for (const Object& one : who.as_array())
      usage.users.push_back(objects::text_to_utf8(store_.resolve(one).as_string()));
    usage.page_element = store_.get(part("PageElement").as_dict(), "Subtype").as_name();
    return usage;
  }

  LayerConfiguration read_configuration(const Dict& dict, const std::vector<bool>& before) {
    LayerConfiguration configuration;
    configuration.name = text_entry(store_, dict, "Name");
    configuration.creator = text_entry(store_, dict, "Creator");
    configuration.intents = names(dict, "Intent");
    if (configuration.intents.empty()) configuration.intents = {"View"};
    const Object base = store_.get(dict, "BaseState");
    if (base.is_name("OFF")) configuration.base = LayerConfiguration::BaseState::off;
    if (base.is_name("Unchanged")) configuration.base = LayerConfiguration::BaseState::unchanged;
    configuration.visible = before;
    if (configuration.base != LayerConfiguration::BaseState::unchanged)
      configuration.visible.assign(layers_.all.size(),
                                   configuration.base == LayerConfiguration::BaseState::on);
    for (const int layer : places(dict["ON"])) configuration.visible[at(layer)] = true;
    for (const int layer : places(dict["OFF"])) configuration.visible[at(layer)] = false;
    configuration.locked.assign(layers_.all.size(), false);
    for (const int layer : places(dict["Locked"])) configuration.locked[at(layer)] = true;
    configuration.order = read_order(dict["Order"]);
    const Object groups = store_.get(dict, "RBGroups");
    for (const Object& group : groups.as_array()) configuration.one_of.push_back(places(group));
    const Object automations = store_.get(dict, "AS");
    for (const Object& item : automations.as_array()) {
      const Object automation = store_.resolve(item);
      configuration.automations.push_back(
          {std::string(store_.get(automation.as_dict(), "Event").as_name()),
           names(automation.as_dict(), "Category"), places(automation.as_dict()["OCGs"])});
    }
    configuration.lists_visible_pages_only = store_.get(dict, "ListMode").is_name("VisiblePages");
    return configuration;
  }

  // Arrays within arrays: one that begins with a text is a list under that heading, any other one
  // lies below the layer before it (8.11.4.3).
  std::vector<LayerLine> read_order(const Object& order) {
    struct Level {
      Object list;
      std::size_t next = 0;
      int depth = 0;
    };
    std::vector<LayerLine> lines;
    std::vector<Level> levels = {{store_.resolve(order), 0, 0}};
    std::set<ObjectId> seen;
    while (!levels.empty()) {
      Level& level = levels.back();
      const Array& items = level.list.as_array();
      if (level.next == items.size() || lines.size() > store_.limits().objects) {
        levels.pop_back();
        continue;
      }
      if (!Attempt::follow(sizeof(LayerLine))) break;
      const Object& item = items[level.next++];
      const int depth = level.depth;
      if (const auto place = places_.find(item.as_reference()); place != places_.end()) {
        lines.push_back({depth, place->second, {}});
        continue;
      }
      if (item.is_reference() && !seen.insert(item.as_reference()).second) continue;
      const Object value = store_.resolve(item);
      if (value.is_string()) {
        lines.push_back({depth, std::nullopt, objects::text_to_utf8(value.as_string())});
      } else if (value.is_array() && static_cast<int>(levels.size()) < store_.limits().nesting) {
        const Array& below = value.as_array();
        const Object heading = below.empty() ? Object() : store_.resolve(below[0]);
        if (heading.is_string())
          lines.push_back({depth, std::nullopt, objects::text_to_utf8(heading.as_string())});
        levels.push_back({value, heading.is_string() ? std::size_t{1} : 0, depth + 1});
      }
    }
    return lines;
  }

  // A name, or an array of them.
  std::vector<std::string> names(const Dict& dict, std::string_view key) {
    const Object value = store_.get(dict, key);
    if (value.is_name()) return {std::string(value.as_name())};
    std::vector<std::string> all;
    for (const Object& name : value.as_array()) all.emplace_back(store_.resolve(name).as_name());
    return all;
  }

  std::vector<int> places(const Object& list) {
    std::vector<int> all;
    const Object groups = store_.resolve(list);
    for (const Object& group : groups.as_array())
      if (const auto place = places_.find(group.as_reference()); place != places_.end())
        all.push_back(place->second);
    return all;
  }

  std::optional<bool> state(const Dict& dict, std::string_view key) {
    const Object value = store_.get(dict, key);
    return value.is_name() ? std::optional(value.is_name("ON")) : std::nullopt;
  }

  static std::size_t at(int layer) { return static_cast<std::size_t>(layer); }

  const file::ObjectStore& store_;
  Object properties_;
  Layers layers_;
  std::map<ObjectId, int> places_;
};

}  // namespace

Layers read_layers(const Core& core) { return LayerReader(core).read(); }

}  // namespace lumvet::document

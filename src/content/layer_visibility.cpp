// SPDX-License-Identifier: Apache-2.0
#include "content/layer_visibility.h"

#include <algorithm>
#include <bit>

#include "document/layers.h"

namespace lumvet::content {
namespace {

const char* event_of(Purpose purpose) {
  switch (purpose) {
    case Purpose::print: return "Print";
    case Purpose::exporting: return "Export";
    case Purpose::view: break;
  }
  return "View";
}

// "es-MX" and "es-ES", or "es".
bool are_of_one_language(const std::string& one, const std::string& other) {
  return one.substr(0, one.find('-')) == other.substr(0, other.find('-'));
}

// The state that one category of a layer's usage recommends, if it says anything.
class Recommendation {
 public:
  Recommendation(const Layers& layers, const LayerSetting& setting)
      : layers_(layers), setting_(setting) {}

  std::optional<bool> of(const Layer& layer, const std::string& category,
                         const LayerAutomation& automation) const {
    const LayerUsage& usage = layer.usage;
    if (category == "View") return usage.shown_in_view;
    if (category == "Print") return usage.shown_in_print;
    if (category == "Export") return usage.shown_in_export;
    if (category == "Zoom" && (usage.zoom_from || usage.zoom_to))
      return setting_.zoom >= usage.zoom_from.value_or(0) &&
             (!usage.zoom_to || setting_.zoom < *usage.zoom_to);
    if (category == "User" && !usage.users.empty() && !setting_.user.empty())
      return std::find(usage.users.begin(), usage.users.end(), setting_.user) != usage.users.end();
    if (category == "Language" && !usage.language.empty() && !setting_.language.empty())
      return usage.language == setting_.language ||
             (usage.language_preferred && !fits_exactly(automation) &&
              are_of_one_language(usage.language, setting_.language));
    return std::nullopt;
  }

 private:
  // Whether any layer is in just the person's language.
  bool fits_exactly(const LayerAutomation& automation) const {
    return std::any_of(automation.layers.begin(), automation.layers.end(), [&](int layer) {
      return layers_.all[static_cast<std::size_t>(layer)].usage.language == setting_.language;
    });
  }

  const Layers& layers_;
  const LayerSetting& setting_;
};

// Layers whose state follows from the setting show where no category speaks against it.
void automate(const Layers& layers, const LayerSetting& setting, std::vector<bool>& visible) {
  const Recommendation recommendation(layers, setting);
  for (const LayerAutomation& automation : layers.initial.automations) {
    if (automation.event != event_of(setting.purpose)) continue;
    for (const int place : automation.layers) {
      const auto at = static_cast<std::size_t>(place);
      std::optional<bool> state;
      for (const std::string& category : automation.categories)
        if (const auto one = recommendation.of(layers.all[at], category, automation))
          state = *one && state.value_or(true);
      visible[at] = state.value_or(visible[at]);
    }
  }
}

// Whether a configuration is meant for what a layer is.
bool is_meant_for(const LayerConfiguration& configuration, const Layer& layer) {
  const auto& wanted = configuration.intents;
  return std::any_of(wanted.begin(), wanted.end(), [&](const std::string& intent) {
    return intent == "All" ||
           std::find(layer.intents.begin(), layer.intents.end(), intent) != layer.intents.end();
  });
}

}  // namespace

LayerVisibility::States LayerVisibility::states_of(const document::Core& core,
                                                   const LayerSetting& setting,
                                                   const std::optional<std::vector<bool>>& states) {
  const file::ObjectStore& store = core.store();
  States made;
  const Object properties = store.get(core.catalog(), "OCProperties");
  if (!properties.is_dict()) return made;
  const Layers layers = document::read_layers(core);
  std::vector<bool> visible = states.value_or(layers.initial.visible);
  visible.resize(layers.all.size(), true);
  if (!states) automate(layers, setting, visible);
  for (std::size_t i = 0; i < layers.all.size(); ++i) {
    if (!states && !is_meant_for(layers.initial, layers.all[i]))
      made.ignored.insert(layers.all[i].id);
    else if (!visible[i])
      made.hidden.insert(layers.all[i].id);
  }
  if (states) return made;
  // Some writers switch layers off that they do not list.
  const Object initial = store.get(properties.as_dict(), "D");
  const Object off = store.get(initial.as_dict(), "OFF");
  for (const Object& layer : off.as_array()) {
    const auto is_it = [&](const Layer& known) { return known.id == layer.as_reference(); };
    if (std::none_of(layers.all.begin(), layers.all.end(), is_it))
      made.hidden.insert(layer.as_reference());
  }
  return made;
}

LayerVisibility::LayerVisibility(const document::Core& core, const LayerSetting& setting,
                                 const std::optional<std::vector<bool>>& states)
    : store_(core.store()) {
  const auto make = [&]() -> document::ObjectCache::Made {
    auto made = std::make_shared<const States>(states_of(core, setting, states));
    const std::size_t bytes =
        sizeof *made + (made->hidden.size() + made->ignored.size()) * sizeof(ObjectId);
    return {std::move(made), bytes};
  };
  const bool is_usual = !states && setting.language.empty() && setting.user.empty();
  constexpr int kPurposeBits = 8;
  const std::uint64_t variant = std::uint64_t{std::bit_cast<std::uint32_t>(setting.zoom)}
                                    << kPurposeBits |
                                static_cast<std::uint64_t>(setting.purpose);
  // They follow from what the catalog leads to.
  states_ = std::static_pointer_cast<const States>(
      is_usual ? core.made(document::ObjectCache::Kind::layers, core.root().as_reference(), variant,
                           make)
               : make().thing);
}

bool LayerVisibility::shows(const Object& membership) const {
  if (membership.is_null()) return true;
  const Object object = store_.resolve(membership);
  const Object type = store_.get(object.as_dict(), "Type");
  if (!type.is_name("OCMD")) return shows_layer(membership);
  const Object expression = store_.get(object.as_dict(), "VE");
  if (!expression.as_array().empty()) return holds(expression, store_.limits().nesting);
  return shows_members(object.as_dict());
}

bool LayerVisibility::shows_layer(const Object& layer) const {
  return !layer.is_reference() || !states_->hidden.contains(layer.as_reference());
}

// By the policy (table 97); without members that play a part everything shows.
bool LayerVisibility::shows_members(const Dict& membership) const {
  const Object list = store_.get(membership, "OCGs");
  const Array members = list.is_array() ? list.as_array() : Array{membership["OCGs"]};
  Array layers;
  for (const Object& member : members)
    if (!store_.resolve(member).is_null() && !states_->ignored.contains(member.as_reference()))
      layers.push_back(member);
  if (layers.empty()) return true;
  const auto is_on = [this](const Object& layer) { return shows_layer(layer); };
  const Object policy = store_.get(membership, "P");
  if (policy.is_name("AllOn")) return std::all_of(layers.begin(), layers.end(), is_on);
  if (policy.is_name("AnyOff")) return !std::all_of(layers.begin(), layers.end(), is_on);
  if (policy.is_name("AllOff")) return std::none_of(layers.begin(), layers.end(), is_on);
  return std::any_of(layers.begin(), layers.end(), is_on);
}

// [/And …], [/Or …], [/Not …] of layers and of further expressions.
bool LayerVisibility::holds(const Object& expression, int levels) const {
  const Object value = store_.resolve(expression);
  if (!value.is_array()) return shows_layer(expression);
  const Array& parts = value.as_array();
  if (parts.size() < 2 || levels == 0) return true;
  const Object op = store_.resolve(parts[0]);
  const auto holds_part = [&](const Object& part) { return holds(part, levels - 1); };
  if (op.is_name("Not")) return !holds_part(parts[1]);
  if (op.is_name("Or")) return std::any_of(parts.begin() + 1, parts.end(), holds_part);
  return std::all_of(parts.begin() + 1, parts.end(), holds_part);
}

}  // namespace lumvet::content

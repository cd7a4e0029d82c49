// SPDX-License-Identifier: Apache-2.0
#include "content/layer_visibility.h"

#include <algorithm>

#include "document/layers.h"

namespace lumvet::content {
namespace {

struct Recommended {
  const char* event;
  std::optional<bool> LayerUsage::*state;
};

Recommended recommended_for(Purpose purpose) {
  switch (purpose) {
    case Purpose::print: return {"Print", &LayerUsage::shown_in_print};
    case Purpose::exporting: return {"Export", &LayerUsage::shown_in_export};
    case Purpose::view: break;
  }
  return {"View", &LayerUsage::shown_in_view};
}

std::set<ObjectId> hidden_layers(const document::Core& core, Purpose purpose,
                                 const std::optional<std::vector<bool>>& states) {
  const file::ObjectStore& store = core.store();
  std::set<ObjectId> hidden;
  const Object properties = store.get(core.catalog(), "OCProperties");
  if (!properties.is_dict()) return hidden;
  const Layers layers = document::read_layers(core);
  std::vector<bool> visible = layers.initial.visible;
  if (states) {
    visible = *states;
    visible.resize(layers.all.size(), true);
  } else {
    const Recommended recommended = recommended_for(purpose);
    for (const LayerAutomation& automation : layers.initial.automations) {
      const auto& categories = automation.categories;
      if (automation.event != recommended.event ||
          std::find(categories.begin(), categories.end(), recommended.event) == categories.end())
        continue;
      for (const int layer : automation.layers) {
        const auto at = static_cast<std::size_t>(layer);
        visible[at] = (layers.all[at].usage.*recommended.state).value_or(visible[at]);
      }
    }
  }
  for (std::size_t i = 0; i < layers.all.size(); ++i)
    if (!visible[i]) hidden.insert(layers.all[i].id);
  if (states) return hidden;
  // Some writers switch layers off that they do not list.
  const Object initial = store.get(properties.as_dict(), "D");
  const Object off = store.get(initial.as_dict(), "OFF");
  for (const Object& layer : off.as_array()) {
    const auto is_it = [&](const Layer& known) { return known.id == layer.as_reference(); };
    if (std::none_of(layers.all.begin(), layers.all.end(), is_it))
      hidden.insert(layer.as_reference());
  }
  return hidden;
}

}  // namespace

LayerVisibility::LayerVisibility(const document::Core& core, Purpose purpose,
                                 const std::optional<std::vector<bool>>& states)
    : store_(core.store()) {
  using Hidden = std::set<ObjectId>;
  const auto make = [&]() -> document::ObjectCache::Made {
    auto hidden = std::make_shared<const Hidden>(hidden_layers(core, purpose, states));
    const std::size_t bytes = sizeof *hidden + hidden->size() * sizeof(ObjectId);
    return {std::move(hidden), bytes};
  };
  // They follow from what the catalog leads to.
  hidden_ = std::static_pointer_cast<const Hidden>(
      states ? make().thing
             : core.made(document::ObjectCache::Kind::layers, core.root().as_reference(),
                         static_cast<std::uint64_t>(purpose), make));
}

bool LayerVisibility::shows(const Object& membership) const {
  if (membership.is_null() || hidden_->empty()) return true;
  const Object object = store_.resolve(membership);
  const Object type = store_.get(object.as_dict(), "Type");
  if (!type.is_name("OCMD")) return shows_layer(membership);
  const Object expression = store_.get(object.as_dict(), "VE");
  if (!expression.as_array().empty()) return holds(expression, store_.limits().nesting);
  return shows_members(object.as_dict());
}

bool LayerVisibility::shows_layer(const Object& layer) const {
  return !layer.is_reference() || !hidden_->contains(layer.as_reference());
}

// By the policy (table 97); without members everything shows.
bool LayerVisibility::shows_members(const Dict& membership) const {
  const Object list = store_.get(membership, "OCGs");
  const Array members = list.is_array() ? list.as_array() : Array{membership["OCGs"]};
  Array layers;
  for (const Object& member : members)
    if (!store_.resolve(member).is_null()) layers.push_back(member);
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

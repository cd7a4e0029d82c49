// SPDX-License-Identifier: Apache-2.0
#include "assemble/layer_builder.h"

#include <optional>
#include <set>

#include "document/inside.h"

namespace lumvet::assemble {
namespace {

// The copies of layers in a list, without those that are not in use.
class Copies {
 public:
  explicit Copies(const SourceCopier& copier) : copier_(copier) {}

  Array of(const Object& list) const {
    Array copies;
    const Object items = store_of(copier_.source()).resolve(list);
    for (const Object& item : items.as_array())
      if (item.is_reference())
        if (const auto copy = copier_.copy_of(item.as_reference())) copies.push_back(*copy);
    return copies;
  }

  // Lists within lists, each once, with their headings; nothing for one without layers.
  std::optional<Object> ordered(const Object& list, int depth) {
    const Document& source = copier_.source();
    if (depth > store_of(source).limits().nesting) return std::nullopt;
    if (list.is_reference() && !seen_.insert(list.as_reference()).second) return std::nullopt;
    Array kept;
    bool has_layers = false;
    const Object items = store_of(source).resolve(list);
    for (const Object& item : items.as_array()) {
      const Object value = store_of(source).resolve(item);
      if (value.is_string()) {
        kept.push_back(value);
      } else if (value.is_array()) {
        if (auto below = ordered(item, depth + 1)) {
          kept.push_back(*std::move(below));
          has_layers = true;
        }
      } else if (item.is_reference()) {
        if (const auto copy = copier_.copy_of(item.as_reference())) {
          kept.push_back(*copy);
          has_layers = true;
        }
      }
    }
    return has_layers ? std::optional(Object(std::move(kept))) : std::nullopt;
  }

 private:
  const SourceCopier& copier_;
  std::set<ObjectId> seen_;  // lists
};

void append(Array& to, Array from) { to.insert(to.end(), from.begin(), from.end()); }

std::set<ObjectId> as_set(const Array& references) {
  std::set<ObjectId> ids;
  for (const Object& reference : references) ids.insert(reference.as_reference());
  return ids;
}

}  // namespace

void LayerBuilder::add(const SourceCopier& copier) {
  const Document& source = copier.source();
  const Object properties = store_of(source).resolve(source.catalog()["OCProperties"]);
  Copies copies(copier);
  const Array used = copies.of(properties.as_dict()["OCGs"]);
  if (used.empty()) return;
  append(groups_, used);
  const Object stated = store_of(source).resolve(properties.as_dict()["D"]);
  const Dict& configuration = stated.as_dict();
  const bool are_off = store_of(source).resolve(configuration["BaseState"]).is_name("OFF");
  const std::set<ObjectId> other = as_set(copies.of(configuration[are_off ? "ON" : "OFF"]));
  for (const Object& layer : used)
    if (other.contains(layer.as_reference()) != are_off) off_.push_back(layer);
  append(locked_, copies.of(configuration["Locked"]));
  if (auto order = copies.ordered(configuration["Order"], 0)) append(order_, order->as_array());
  const Object one_of = store_of(source).resolve(configuration["RBGroups"]);
  for (const Object& group : one_of.as_array())
    if (Array some = copies.of(group); !some.empty()) one_of_.push_back(std::move(some));
  const Object automations = store_of(source).resolve(configuration["AS"]);
  for (const Object& item : automations.as_array()) {
    const Object automation = store_of(source).resolve(item);
    Dict dict = automation.as_dict();
    Array layers = copies.of(dict["OCGs"]);
    if (layers.empty()) continue;
    dict.set("OCGs", std::move(layers));
    dict.set("Category", store_of(source).resolve(dict["Category"]));
    automations_.push_back(std::move(dict));
  }
}

void LayerBuilder::add(ObjectId layer, bool is_shown, bool is_printed) {
  groups_.push_back(layer);
  order_.push_back(layer);
  if (!is_shown) off_.push_back(layer);
  if (!is_printed) unprinted_.push_back(layer);
}

Object LayerBuilder::finish(file::Ledger& target, const Object& stated) {
  if (groups_.empty()) return stated;
  if (!unprinted_.empty())
    automations_.push_back(Dict{{"Event", Object::name("Print")},
                                {"Category", Array{Object::name("Print")}},
                                {"OCGs", Object(std::move(unprinted_))}});
  Dict properties = target.resolve(stated).as_dict();
  Dict configuration = target.get(properties, "D").as_dict();
  const auto add = [&](Dict& to, std::string_view key, const Array& items) {
    if (items.empty()) return;
    Array all = target.get(to, key).as_array();
    append(all, items);
    to.set(key, std::move(all));
  };
  if (target.get(configuration, "BaseState").is_name("OFF")) {
    const std::set<ObjectId> off = as_set(off_);
    Array on = groups_;
    std::erase_if(on, [&](const Object& layer) { return off.contains(layer.as_reference()); });
    add(configuration, "ON", on);
  } else {
    add(configuration, "OFF", off_);
  }
  add(properties, "OCGs", groups_);
  if (!configuration.contains("Order")) configuration.set("Order", Array());
  add(configuration, "Order", order_);
  add(configuration, "Locked", locked_);
  add(configuration, "RBGroups", one_of_);
  add(configuration, "AS", automations_);
  if (properties["D"].is_reference())
    target.set(properties["D"].as_reference(), std::move(configuration));
  else
    properties.set("D", std::move(configuration));
  if (!stated.is_reference()) return target.add(std::move(properties));
  target.set(stated.as_reference(), std::move(properties));
  return stated;
}

}  // namespace lumvet::assemble

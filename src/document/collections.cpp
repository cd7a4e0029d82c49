// SPDX-License-Identifier: Apache-2.0
#include "document/collections.h"

#include <algorithm>
#include <cmath>

#include "base/attempt.h"
#include "document/destinations.h"
#include "document/name_tree.h"
#include "document/text_entries.h"
#include "objects/serializer.h"

namespace lumvet::document {
namespace {

Collection::View view_named(std::string_view name) {
  if (name == "T") return Collection::View::tiles;
  if (name == "H") return Collection::View::hidden;
  if (name == "C") return Collection::View::custom;
  return Collection::View::details;
}

std::vector<CollectionField> read_fields(const file::ObjectStore& store, const Dict& schema) {
  struct Ordered {
    double order;
    CollectionField field;
  };
  std::vector<Ordered> all;
  for (const auto& [key, value] : schema) {
    const Object object = store.resolve(value);
    if (!object.is_dict() || key == "Type" || !Attempt::follow(sizeof(Ordered))) continue;
    const Dict& dict = object.as_dict();
    all.push_back(
        {store.get(dict, "O").as_number(),
         {key, text_entry(store, dict, "N"), std::string(store.get(dict, "Subtype").as_name()),
          store.get(dict, "V").as_bool(true)}});
  }
  std::stable_sort(all.begin(), all.end(),
                   [](const Ordered& a, const Ordered& b) { return a.order < b.order; });
  std::vector<CollectionField> fields;
  fields.reserve(all.size());
  for (Ordered& one : all) fields.push_back(std::move(one.field));
  return fields;
}

// A name, or a list of them.
std::vector<std::string> names_of(const file::ObjectStore& store, const Object& stated) {
  if (stated.is_name()) return {std::string(stated.as_name())};
  std::vector<std::string> names;
  for (const Object& one : stated.as_array()) names.emplace_back(store.resolve(one).as_name());
  return names;
}

}  // namespace

std::optional<Collection> read_collection(const Core& core) {
  const file::ObjectStore& store = core.store();
  const Object object = store.get(core.catalog(), "Collection");
  if (!object.is_dict()) return std::nullopt;
  const Dict& dict = object.as_dict();
  Collection collection;
  collection.view = view_named(store.get(dict, "View").as_name());
  // It is stated as a key of the name tree.
  const Object first = store.get(dict, "D");
  if (first.is_string()) {
    const Object names = store.get(core.catalog(), "Names");
    const Object file = find_in_name_tree(store, names.as_dict()["EmbeddedFiles"],
                                          first.as_string(), store.limits().name_tree_depth);
    collection.shown_first = file_name_of(store, file);
    if (collection.shown_first.empty())
      collection.shown_first = objects::text_to_utf8(first.as_string());
  }
  collection.fields = read_fields(store, store.get(dict, "Schema").as_dict());
  const Object sort = store.get(dict, "Sort");
  collection.sorted_by = names_of(store, store.get(sort.as_dict(), "S"));
  return collection;
}

std::vector<CollectionItem> read_collection_items(const file::ObjectStore& store,
                                                  const Dict& items) {
  std::vector<CollectionItem> all;
  for (const auto& [key, value] : items) {
    if (key == "Type" || !Attempt::follow(sizeof(CollectionItem))) continue;
    Object stated = store.resolve(value);
    std::string prefix;
    if (stated.is_dict()) {  // with something in front that does not count for sorting (7.11.5)
      prefix = text_entry(store, stated.as_dict(), "P");
      stated = store.get(stated.as_dict(), "D");
    }
    if (stated.is_string())
      all.push_back({key, prefix + objects::text_to_utf8(stated.as_string())});
    if (!stated.is_number()) continue;
    objects::serialize_number(stated.as_number(), prefix);
    all.push_back({key, prefix});
  }
  return all;
}

std::vector<Requirement> read_requirements(const Core& core) {
  const file::ObjectStore& store = core.store();
  constexpr int kMost = 100;
  std::vector<Requirement> requirements;
  const Object list = store.get(core.catalog(), "Requirements");
  for (const Object& item : list.as_array()) {
    const Object object = store.resolve(item);
    if (!object.is_dict() || !Attempt::follow(sizeof(Requirement))) continue;
    const std::int64_t penalty = store.get(object.as_dict(), "Penalty").as_integer(kMost);
    requirements.push_back({std::string(store.get(object.as_dict(), "S").as_name()),
                            static_cast<int>(std::clamp<std::int64_t>(penalty, 0, kMost))});
  }
  return requirements;
}

Presentation read_presentation(const file::ObjectStore& store, const Dict& page) {
  Presentation presentation;
  if (const double seconds = store.get(page, "Dur").as_number(); seconds > 0)
    presentation.seconds = seconds;
  const Object object = store.get(page, "Trans");
  if (!object.is_dict()) return presentation;
  const Dict& dict = object.as_dict();
  Transition transition;
  if (const Object style = store.get(dict, "S"); style.is_name())
    transition.style = style.as_name();
  transition.seconds = std::max(0.0, store.get(dict, "D").as_number(1));
  transition.is_vertical = store.get(dict, "Dm").is_name("V");
  transition.goes_outward = store.get(dict, "M").is_name("O");
  const Object direction = store.get(dict, "Di");
  if (direction.is_name("None"))
    transition.direction.reset();
  else
    transition.direction = direction.as_number();
  transition.scale = store.get(dict, "SS").as_number(1);
  transition.is_opaque = store.get(dict, "B").as_bool();
  presentation.transition = std::move(transition);
  return presentation;
}

}  // namespace lumvet::document

// SPDX-License-Identifier: Apache-2.0
#include "assemble/source_copier.h"

#include <algorithm>
#include <array>

#include "document/destinations.h"
#include "document/inside.h"
#include "document/name_tree.h"

namespace lumvet::assemble {
namespace {

// Entries of a page that lead out of it, into trees that are put together anew.
constexpr std::array<std::string_view, 5> kLeftBehind = {"Parent", "StructParents", "B", "Annots",
                                                         "Tabs"};

bool is_page_tree_node(const Dict& dict) {
  return dict["Type"].is_name("Page") || dict["Type"].is_name("Pages");
}

}  // namespace

void SourceCopier::announce(int part, const Page& page, ObjectId as) {
  pages_[page.index()].push_back({part, as});
  page_indices_.emplace(page.id(), page.index());
}

std::optional<ObjectId> SourceCopier::page_copy(int index) const {
  const auto found = pages_.find(index);
  if (found == pages_.end()) return std::nullopt;
  for (const Copy& copy : found->second)
    if (copy.part == part_) return copy.id;
  return found->second.front().id;
}

std::optional<ObjectId> SourceCopier::first_copy(int index) const {
  const auto found = pages_.find(index);
  return found == pages_.end() ? std::nullopt : std::optional(found->second.front().id);
}

std::optional<int> SourceCopier::page_index(ObjectId page) const {
  const auto found = page_indices_.find(page);
  return found == page_indices_.end() ? std::nullopt : std::optional(found->second);
}

void SourceCopier::copy_page(const Page& page, const Object& resources, ObjectId as,
                             ObjectId parent) {
  Dict dict = page.dict();
  dict.set("Resources", resources);
  for (const std::string_view key : kLeftBehind) dict.remove(key);
  Dict copy = copied_dict(dict);
  copy.set("Type", Object::name("Page"));
  copy.set("Parent", parent);
  const Rect& box = page.media_box();
  if (!copy.contains("MediaBox"))
    copy.set("MediaBox",
             Array{Object(box.left), Object(box.bottom), Object(box.right), Object(box.top)});
  if (!copy.contains("Resources")) copy.set("Resources", Dict());
  target_.set(as, std::move(copy));
}

// Deep structures are copied one object after the other, not one within the other.
void SourceCopier::finish_open() {
  if (std::exchange(is_finishing_, true)) return;
  while (!open_.empty()) {
    const auto [from, to] = open_.back();
    open_.pop_back();
    target_.set(to, copied(store_of(source_).resolve(Object(from))));
  }
  is_finishing_ = false;
}

Object SourceCopier::copied(const Object& object) {
  if (object.is_reference()) {
    Object copy = copied_reference(object.as_reference());
    finish_open();
    return copy;
  }
  if (object.is_array()) {
    Array items;
    items.reserve(object.as_array().size());
    for (const Object& item : object.as_array()) items.push_back(copied(item));
    return items;
  }
  if (const Stream* stream = object.as_stream()) {
    Stream copy = *stream;
    copy.dict = copied_dict(stream->dict);
    return copy;
  }
  if (!object.is_dict()) return object;
  const Dict& dict = object.as_dict();
  const bool is_action =
      dict["S"].is_name() && (dict.contains("D") || dict.contains("JS") || dict.contains("Next"));
  return is_action ? copied_action(dict) : Object(copied_dict(dict));
}

Dict SourceCopier::copied_dict(const Dict& dict, std::initializer_list<std::string_view> without) {
  std::vector<Dict::Entry> entries;
  entries.reserve(dict.size());
  for (const auto& [key, value] : dict) {
    const bool is_tied = key == "StructParent" || key == "StructParents" ||
                         std::find(without.begin(), without.end(), key) != without.end();
    if (is_tied) continue;
    Object copy = copied(value);
    if (!copy.is_null()) entries.emplace_back(key, std::move(copy));
  }
  return Dict(std::move(entries));
}

// Scripts stay behind, with all that follows only them; places become those of the new document.
Object SourceCopier::copied_action(const Dict& action) {
  const Object kind = store_of(source_).resolve(action["S"]);
  if (kind.is_name("JavaScript")) {
    ++scripts_left_out_;
    return copied(action["Next"]);
  }
  if (kind.is_name("GoTo")) {
    const Object place = copied_destination(action["D"]);
    if (place.is_null()) return Object();
    Dict copy = copied_dict(action, {"D", "SD"});
    copy.set("D", place);
    return copy;
  }
  if (kind.is_name("GoToR") && find_remote_) {
    const std::string file =
        document::file_name_of(store_of(source_), store_of(source_).resolve(action["F"]));
    if (const Object place = find_remote_(file, store_of(source_).resolve(action["D"]));
        !place.is_null())
      return Dict{{"S", Object::name("GoTo")}, {"D", place}};
  }
  return copied_dict(action, {"JS"});
}

Object SourceCopier::copied_reference(ObjectId id) {
  if (const auto stand_in = stand_ins_.find(id); stand_in != stand_ins_.end())
    return stand_in->second;
  if (const auto page = page_indices_.find(id); page != page_indices_.end())
    return *page_copy(page->second);
  if (const auto copy = copies_.find(id); copy != copies_.end()) return copy->second;
  const Object object = store_of(source_).resolve(Object(id));
  Object reference;
  // A page that is not taken along must not come in by the back door, with the tree behind it.
  const bool is_script = object.as_dict()["S"].is_name("JavaScript");
  if (is_script) {
    reference = copied_action(object.as_dict());
  } else if (!object.is_null() && !is_page_tree_node(object.as_dict())) {
    const ObjectId fresh = target_.reserve();
    open_.emplace_back(id, fresh);
    reference = fresh;
  }
  copies_.emplace(id, reference);
  return reference;
}

std::optional<ObjectId> SourceCopier::copy_of(ObjectId id) const {
  const auto copy = copies_.find(id);
  if (copy == copies_.end() || !copy->second.is_reference()) return std::nullopt;
  return copy->second.as_reference();
}

const std::map<std::string, Object>& SourceCopier::destinations() {
  if (destinations_) return *destinations_;
  destinations_.emplace();
  const file::ObjectStore& store = store_of(source_);
  const auto add = [&](std::string_view name, const Object& value) {
    const Object target = store.resolve(value);
    const Object place = target.is_dict() ? store.get(target.as_dict(), "D") : target;
    if (!place.as_array().empty()) destinations_->emplace(name, place);
  };
  const Object names = store.get(source_.catalog(), "Names");
  document::walk_tree(store, names.as_dict()["Dests"], "Names",
                      [&](const Object& key, const Object& value) { add(key.as_string(), value); });
  const Object old = store.get(source_.catalog(), "Dests");
  for (const auto& [name, value] : old.as_dict()) add(name, value);
  return *destinations_;
}

Object SourceCopier::place_of(const Object& destination) {
  Object place = store_of(source_).resolve(destination);
  if (place.is_string() || place.is_name()) {
    const auto found =
        destinations().find(std::string(place.is_name() ? place.as_name() : place.as_string()));
    place = found == destinations().end() ? Object() : found->second;
  }
  if (place.is_dict()) place = store_of(source_).resolve(place.as_dict()["D"]);
  return place.as_array().empty() ? Object() : place;
}

std::optional<int> SourceCopier::page_at(const Object& page) const {
  if (page.is_integer()) return static_cast<int>(page.as_integer());
  return page_index(page.as_reference());
}

Object SourceCopier::copied_place(Array place) {
  const std::optional<int> index = page_at(place[0]);
  const std::optional<ObjectId> page = index ? page_copy(*index) : std::nullopt;
  if (!page) return Object();
  for (Object& item : place) item = store_of(source_).resolve(item);
  place[0] = *page;
  return place;
}

Object SourceCopier::copied_destination(const Object& destination) {
  const Object place = place_of(destination);
  if (place.is_null()) return Object();
  Object copy = copied_place(place.as_array());
  const Object stated = store_of(source_).resolve(destination);
  if (copy.is_null() || names_ == nullptr || (!stated.is_string() && !stated.is_name()))
    return copy;
  const auto name =
      names_->find(std::string(stated.is_name() ? stated.as_name() : stated.as_string()));
  return name == names_->end() ? copy : Object::string(name->second);
}

}  // namespace lumvet::assemble

// SPDX-License-Identifier: Apache-2.0
#include "assemble/page_copier.h"

#include <array>

#include "document/destinations.h"

namespace lumvet::assemble {
namespace {

// Entries of a page that lead out of it, into trees that are not taken along as they are.
constexpr std::array<std::string_view, 5> kLeftBehind = {"Parent", "StructParents", "B", "Annots",
                                                         "Tabs"};

bool is_page_tree_node(const Dict& dict) {
  return dict["Type"].is_name("Page") || dict["Type"].is_name("Pages");
}

}  // namespace

void PageCopier::announce(const Page& page, ObjectId as) {
  pages_.emplace(page.id(), as);
  page_indices_.emplace(page.index(), as);
}

void PageCopier::copy(const Page& page, ObjectId as, ObjectId parent) {
  Dict dict = page.dict();
  for (const std::string_view key : kLeftBehind) dict.remove(key);
  Dict copy = copied_dict(dict);
  copy.set("Type", Object::name("Page"));
  copy.set("Parent", parent);
  const Rect& box = page.media_box();
  if (!copy.contains("MediaBox"))
    copy.set("MediaBox",
             Array{Object(box.left), Object(box.bottom), Object(box.right), Object(box.top)});
  if (!copy.contains("Resources")) copy.set("Resources", Dict());
  copy.set("Annots", copied_annotations(page.dict()["Annots"]));
  target_.set(as, std::move(copy));
  finish_open();
}

void PageCopier::finish_open() {
  while (!open_.empty()) {
    const auto [from, to] = open_.back();
    open_.pop_back();
    target_.set(to, copied(source_.resolve(Object(from))));
  }
}

Object PageCopier::copied(const Object& object) {
  if (object.is_reference()) return copied_reference(object.as_reference());
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
  if (object.is_dict()) return copied_dict(object.as_dict());
  return object;
}

Dict PageCopier::copied_dict(const Dict& dict) {
  std::vector<Dict::Entry> entries;
  entries.reserve(dict.size());
  for (const auto& [key, value] : dict)
    if (key != "StructParent" && key != "StructParents") entries.emplace_back(key, copied(value));
  return Dict(std::move(entries));
}

Object PageCopier::copied_reference(ObjectId id) {
  if (const auto page = pages_.find(id); page != pages_.end()) return page->second;
  if (const auto copy = copies_.find(id); copy != copies_.end()) return copy->second;
  const Object object = source_.resolve(Object(id));
  Object reference;
  // A page that is not taken along must not come in by the back door, with the tree behind it.
  if (!object.is_null() && !is_page_tree_node(object.as_dict())) {
    const ObjectId fresh = target_.reserve();
    open_.emplace_back(id, fresh);
    reference = fresh;
  }
  copies_.emplace(id, reference);
  return reference;
}

Object PageCopier::copied_annotations(const Object& annotations) {
  const Object list = source_.resolve(annotations);
  Array kept;
  for (const Object& annotation : list.as_array())
    if (auto copy = copied_annotation(annotation)) kept.push_back(*std::move(copy));
  return kept.empty() ? Object() : Object(std::move(kept));
}

std::optional<Object> PageCopier::copied_annotation(const Object& annotation) {
  const Object object = source_.resolve(annotation);
  if (!object.is_dict()) return std::nullopt;
  Dict dict = object.as_dict();
  if (dict["Subtype"].is_name("Widget")) ++fields_left_behind_;
  if (!dict["Subtype"].is_name("Link")) return copied(annotation);

  const Object action = source_.resolve(dict["A"]);
  const bool goes_to_page =
      dict.contains("Dest") || source_.resolve(action.as_dict()["S"]).is_name("GoTo");
  if (!goes_to_page) return copied(annotation);
  const Object destination = dict.contains("Dest") ? dict["Dest"] : action.as_dict()["D"];
  const auto index = document::page_of_destination(source_.core(), destination);
  const auto page = index ? page_indices_.find(*index) : page_indices_.end();
  if (page == page_indices_.end()) {
    ++links_left_out_;
    return std::nullopt;
  }
  // Named destinations stay behind with the source's catalog, so the link gets the place itself.
  Array place = document::explicit_destination(source_.core(), destination).as_array();
  place[0] = Object();
  Object copy = copied(Object(std::move(place)));
  Array target = copy.as_array();
  target[0] = page->second;
  dict.remove("A");
  dict.remove("Dest");
  Dict link = copied_dict(dict);
  link.set("Dest", Object(std::move(target)));
  return Object(target_.add(Object(std::move(link))));
}

}  // namespace lumvet::assemble

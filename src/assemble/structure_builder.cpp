// SPDX-License-Identifier: Apache-2.0
#include "assemble/structure_builder.h"

#include <algorithm>
#include <optional>

#include "document/inside.h"
#include "document/name_tree.h"
#include "document/tree_builder.h"

namespace lumvet::assemble {
namespace {

Array items_of(const Object& kids) {
  if (kids.is_array()) return kids.as_array();
  return kids.is_null() ? Array() : Array{kids};
}

}  // namespace

StructureBuilder::StructureBuilder(file::Ledger& target, const file::ObjectStore& store,
                                   const Object& root)
    : target_(target), stated_(root), own_(target.resolve(root).as_dict()) {
  root_ = root.is_reference() ? root.as_reference() : target.reserve();
  roles_ = target_.get(own_, "RoleMap").as_dict();
  classes_ = target_.get(own_, "ClassMap").as_dict();
  namespaces_ = target_.get(own_, "Namespaces").as_array();
  document::walk_tree(
      store, own_["IDTree"], "Names",
      [this](const Object& key, const Object& value) { ids_.emplace(key.as_string(), value); });
  document::walk_tree(store, own_["ParentTree"], "Nums",
                      [this](const Object& key, const Object& value) {
                        parents_.emplace(key.as_integer(), value);
                      });
  next_ = std::max(target_.get(own_, "ParentTreeNextKey").as_integer(),
                   parents_.empty() ? 0 : parents_.rbegin()->first + 1);
}

void StructureBuilder::add(SourceCopier& copier, const std::map<ObjectId, ObjectId>& annotations) {
  const Document& document = copier.source();
  const Object root = store_of(document).resolve(document.catalog()["StructTreeRoot"]);
  if (!root.is_dict()) return;
  Source source{copier, annotations, {}, {}, {}, 0};
  take_names(source, root.as_dict());
  copy_tree(source, root.as_dict()["K"]);
}

// What elements are called, and what those names stand for.
void StructureBuilder::take_names(Source& source, const Dict& root) {
  const Document& document = source.copier.source();
  const Object roles = store_of(document).resolve(root["RoleMap"]);
  for (const auto& [name, value] : roles.as_dict()) {
    const Object standard = store_of(document).resolve(value);
    if (roles_[name] == standard) continue;
    const std::string own = document::free_name(
        name, [this](const std::string& other) { return roles_.contains(other); });
    roles_.set(own, standard);
    if (own != name) source.roles.emplace(name, own);
  }
  const Object classes = store_of(document).resolve(root["ClassMap"]);
  for (const auto& [name, value] : classes.as_dict()) {
    const Object copy = source.copier.copied(value);
    if (target_.resolve(classes_[name]) == target_.resolve(copy)) continue;
    const std::string own = document::free_name(
        name, [this](const std::string& other) { return classes_.contains(other); });
    classes_.set(own, copy);
    if (own != name) source.classes.emplace(name, own);
  }
  const Object spaces = store_of(document).resolve(root["Namespaces"]);
  for (const Object& space : spaces.as_array()) namespaces_.push_back(source.copier.copied(space));
}

StructureBuilder::Open StructureBuilder::opened(const Source& source, const Object& element,
                                                const Open* parent) const {
  const Document& document = source.copier.source();
  Open open;
  open.parent = parent == nullptr ? root_ : parent->id;
  open.source = store_of(document).resolve(element).as_dict();
  const Object& page = open.source["Pg"];
  open.page = page.is_reference() ? source.copier.page_index(page.as_reference())
              : parent == nullptr ? std::nullopt
                                  : parent->page;
  const Object& kids = open.source["K"];
  const Object resolved = store_of(document).resolve(kids);
  // A reference to an element is one kid; one to an array, the array's.
  open.items = resolved.is_array() ? resolved.as_array() : items_of(kids);
  return open;
}

// Without recursion, since elements lie as deep as a file likes.
void StructureBuilder::copy_tree(Source& source, const Object& kids) {
  const Object resolved = store_of(source.copier.source()).resolve(kids);
  for (const Object& top : resolved.is_array() ? resolved.as_array() : items_of(kids)) {
    if (top.is_reference() && !source.seen.insert(top.as_reference()).second) continue;
    std::vector<Open> open = {opened(source, top, nullptr)};
    open.back().id = target_.reserve();
    while (!open.empty()) {
      Open& element = open.back();
      const bool is_enough = ++source.items > store_of(source.copier.source()).limits().objects;
      if (element.next == element.items.size() || is_enough)
        close(source, open);
      else
        take_item(source, open, element.items[element.next++]);
    }
  }
}

void StructureBuilder::take_item(Source& source, std::vector<Open>& open, const Object& item) {
  const Document& document = source.copier.source();
  Open& element = open.back();
  const Object object = store_of(document).resolve(item);
  if (object.is_integer()) return take_content(source, element, Dict(), object.as_integer());
  const Dict& dict = object.as_dict();
  const Object type = store_of(document).resolve(dict["Type"]);
  if (type.is_name("MCR"))
    return take_content(source, element, dict,
                        store_of(document).resolve(dict["MCID"]).as_integer(-1));
  if (type.is_name("OBJR")) return take_object(source, element, dict);
  if (dict.is_empty()) return;
  if (item.is_reference() && !source.seen.insert(item.as_reference()).second) return;
  Open below = opened(source, item, &element);
  below.id = target_.reserve();
  open.push_back(std::move(below));
}

// Marked content of a page; that within forms has its place by them and stays behind.
void StructureBuilder::take_content(Source& source, Open& element, const Dict& item,
                                    std::int64_t id) {
  const Object& stated = item["Pg"];
  const std::optional<int> page =
      stated.is_reference() ? source.copier.page_index(stated.as_reference()) : element.page;
  const auto copy = page ? source.copier.first_copy(*page) : std::nullopt;
  constexpr std::int64_t kMost = 1 << 20;
  if (!copy || id < 0 || id > kMost || item.contains("Stm")) return;
  if (!contents_[*copy].emplace(id, element.id).second) return;
  element.has_content = true;
  if (page == element.page)
    element.kept.push_back(id);
  else
    element.kept.push_back(Dict{{"Type", Object::name("MCR")}, {"Pg", *copy}, {"MCID", id}});
}

void StructureBuilder::take_object(const Source& source, Open& element, const Dict& item) {
  const auto annotation = source.annotations.find(item["Obj"].as_reference());
  if (annotation == source.annotations.end()) return;
  Dict copy{{"Type", Object::name("OBJR")}, {"Obj", annotation->second}};
  if (const Object& page = item["Pg"]; page.is_reference())
    if (const auto index = source.copier.page_index(page.as_reference()))
      if (const auto id = source.copier.first_copy(*index)) copy.set("Pg", *id);
  objects_.emplace(annotation->second, element.id);
  element.kept.push_back(std::move(copy));
  element.has_content = true;
}

// A name, or several with numbers of revisions between them.
Object StructureBuilder::renamed_classes(const Source& source, const Object& stated) {
  if (stated.is_array()) {
    Array all;
    for (const Object& one : stated.as_array()) all.push_back(renamed_classes(source, one));
    return all;
  }
  const auto other = source.classes.find(std::string(stated.as_name()));
  return other == source.classes.end() ? stated : Object::name(other->second);
}

// An element without anything on the pages taken along goes, unless it never had anything, as empty
// cells of tables have not: it stays with the others.
void StructureBuilder::close(Source& source, std::vector<Open>& open) {
  const Open element = std::move(open.back());
  open.pop_back();
  const bool is_kept = element.has_content || (element.items.empty() && !open.empty());
  if (!is_kept) return;
  Dict dict = source.copier.copied_dict(element.source, {"P", "K", "Pg", "Ref"});
  dict.set("Type", Object::name("StructElem"));
  dict.set("P", element.parent);
  if (!element.kept.empty()) dict.set("K", element.kept);
  if (element.page)
    if (const auto page = source.copier.first_copy(*element.page)) dict.set("Pg", *page);
  const auto role = source.roles.find(std::string(dict["S"].as_name()));
  if (role != source.roles.end()) dict.set("S", Object::name(role->second));
  if (!source.classes.empty() && dict.contains("C"))
    dict.set("C", renamed_classes(source, target_.resolve(dict["C"])));
  if (dict["ID"].is_string()) {
    const std::string name =
        document::free_name(std::string(dict["ID"].as_string()),
                            [this](const std::string& n) { return ids_.contains(n); });
    dict.set("ID", Object::string(name));
    ids_.emplace(name, element.id);
  }
  target_.set(element.id, std::move(dict));
  if (open.empty()) {
    tops_.push_back(element.id);
  } else {
    open.back().kept.push_back(element.id);
    open.back().has_content = open.back().has_content || element.has_content;
  }
}

Object StructureBuilder::finish() {
  if (tops_.empty()) return stated_;
  const auto tell = [&](ObjectId id, std::string_view key, Object value) {
    Dict dict = target_.resolve(Object(id)).as_dict();
    dict.set(key, next_);
    target_.set(id, std::move(dict));
    parents_.emplace(next_++, std::move(value));
  };
  for (const auto& [page, elements] : contents_) {
    Array by_number(static_cast<std::size_t>(elements.rbegin()->first) + 1);
    for (const auto& [number, element] : elements)
      by_number[static_cast<std::size_t>(number)] = element;
    tell(page, "StructParents", target_.add(std::move(by_number)));
  }
  for (const auto& [annotation, element] : objects_) tell(annotation, "StructParent", element);
  Dict root = own_;
  root.set("Type", Object::name("StructTreeRoot"));
  const Object kids = target_.get(own_, "K");
  Array all = kids.is_array() ? kids.as_array() : items_of(own_["K"]);
  all.insert(all.end(), tops_.begin(), tops_.end());
  root.set("K", std::move(all));
  root.set("ParentTree", document::build_number_tree(target_, parents_));
  root.set("ParentTreeNextKey", next_);
  if (!roles_.is_empty()) root.set("RoleMap", std::move(roles_));
  if (!classes_.is_empty()) root.set("ClassMap", std::move(classes_));
  if (!namespaces_.empty()) root.set("Namespaces", std::move(namespaces_));
  root.set("IDTree", document::build_name_tree(target_, ids_));
  target_.set(root_, std::move(root));
  return root_;
}

}  // namespace lumvet::assemble

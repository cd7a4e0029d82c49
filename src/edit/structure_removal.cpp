// SPDX-License-Identifier: Apache-2.0
#include "edit/structure_removal.h"

#include "document/name_tree.h"

namespace lumvet::editing {

StructureRemoval::StructureRemoval(const document::Core& core, file::Ledger& ledger,
                                   const Dict& catalog)
    : core_(core), ledger_(ledger), root_(ledger.resolve(catalog["StructTreeRoot"])) {}

Object StructureRemoval::owners_of(const Object& key) {
  if (!root_.is_dict() || !key.is_integer()) return Object();
  if (parents_.empty())
    document::walk_tree(core_.store(), root_.as_dict()["ParentTree"], "Nums",
                        [this](const Object& number, const Object& value) {
                          parents_.emplace(number.as_integer(), value);
                        });
  const auto found = parents_.find(key.as_integer());
  return found == parents_.end() ? Object() : found->second;
}

void StructureRemoval::take_page(ObjectId page, const Dict& dict) {
  const Object elements = ledger_.resolve(owners_of(core_.store().get(dict, "StructParents")));
  for (const Object& element : elements.as_array())
    if (element.is_reference())
      take_content(element.as_reference(), page, [&](const Object& kid, const Object& own_page) {
        return is_of_page(kid, own_page, page);
      });
}

void StructureRemoval::remove_annotations(const std::set<ObjectId>& annotations) {
  for (const ObjectId id : annotations) {
    const Object annotation = ledger_.resolve(Object(id));
    const Object element = owners_of(ledger_.get(annotation.as_dict(), "StructParent"));
    if (!element.is_reference()) continue;
    take_content(element.as_reference(), ObjectId(), [&](const Object& kid, const Object&) {
      const Object item = ledger_.resolve(kid);
      return item.as_dict()["Obj"].is_reference() &&
             annotations.contains(item.as_dict()["Obj"].as_reference());
    });
  }
  for (const ObjectId id : annotations) ledger_.set(id, Object());
}

bool StructureRemoval::is_of_page(const Object& kid, const Object& own_page, ObjectId page) const {
  if (kid.is_integer()) return own_page.as_reference() == page;
  const Object item = ledger_.resolve(kid);
  const Dict& dict = item.as_dict();
  const Object type = ledger_.get(dict, "Type");
  if (!type.is_name("MCR") && !type.is_name("OBJR")) return false;
  const Object& at = dict.contains("Pg") ? dict["Pg"] : own_page;
  return at.as_reference() == page;
}

void StructureRemoval::take_content(ObjectId element, ObjectId page, const IsGone& is_gone) {
  for (int level = 0; level < core_.store().limits().nesting; ++level) {
    Dict dict = ledger_.resolve(Object(element)).as_dict();
    if (dict.is_empty()) return;
    const Object stated = ledger_.get(dict, "K");
    Array kids = stated.is_array() ? stated.as_array() : Array{dict["K"]};
    const std::size_t before = kids.size();
    std::erase_if(kids, [&](const Object& kid) {
      return is_gone(kid, dict["Pg"]) || ledger_.resolve(kid).is_null();
    });
    if (kids.size() == before) return;
    const bool is_root = dict["Type"].is_name("StructTreeRoot");
    if (!kids.empty() || is_root) {
      dict.set("K", std::move(kids));
      if (page != ObjectId() && dict["Pg"].as_reference() == page) dict.remove("Pg");
      ledger_.set(element, std::move(dict));
      return;
    }
    const Object above = dict["P"];
    ledger_.set(element, Object());
    if (!above.is_reference()) return;
    element = above.as_reference();
  }
}

}  // namespace lumvet::editing

// SPDX-License-Identifier: Apache-2.0
#include "edit/page_duplicates.h"

#include <algorithm>
#include <map>

#include "document/field_entries.h"
#include "edit/form_dict.h"

namespace lumvet::editing {
namespace {

class Annotations {
 public:
  Annotations(file::Ledger& ledger, Dict& catalog, const Limits& limits)
      : ledger_(ledger), catalog_(catalog), limits_(limits) {}

  void copy(ObjectId page, ObjectId duplicate) {
    copies_.emplace(page, duplicate);
    const Object list = ledger_.get(ledger_.resolve(Object(page)).as_dict(), "Annots");
    std::vector<std::pair<Object, ObjectId>> chosen;
    for (const Object& stated : list.as_array()) {
      const Object annotation = ledger_.resolve(stated);
      if (annotation.as_dict().is_empty() || is_signature(annotation.as_dict())) continue;
      chosen.emplace_back(stated, ledger_.reserve());
      if (stated.is_reference()) copies_.emplace(stated.as_reference(), chosen.back().second);
    }
    Array copied;
    for (const auto& [stated, id] : chosen) {
      const Object source = ledger_.resolve(stated);
      Dict dict = with_copies(source.as_dict());
      dict.remove("StructParent");
      dict.set("P", duplicate);
      const bool is_widget = ledger_.get(dict, "Subtype").is_name("Widget");
      ledger_.set(id, Object(std::move(dict)));
      if (is_widget && stated.is_reference()) join_field(stated.as_reference(), id);
      copied.push_back(id);
    }
    if (copied.empty()) return;
    Dict dict = ledger_.resolve(Object(duplicate)).as_dict();
    dict.set("Annots", std::move(copied));
    ledger_.set(duplicate, std::move(dict));
  }

 private:
  Object inherited(const Dict& widget, std::string_view key) const {
    Object at{widget};
    for (int depth = 0; depth < limits_.nesting && at.is_dict(); ++depth) {
      if (Object value = ledger_.get(at.as_dict(), key); !value.is_null()) return value;
      at = ledger_.get(at.as_dict(), "Parent");
    }
    return Object();
  }

  bool is_signature(const Dict& annotation) const {
    return ledger_.get(annotation, "Subtype").is_name("Widget") &&
           inherited(annotation, "FT").is_name("Sig");
  }

  // What leads to the page or to an annotation on it leads to the copies, except through a place: a
  // link goes on leading where it led.
  Dict with_copies(const Dict& dict) const {
    Dict copy;
    for (const auto& [key, value] : dict) {
      const bool is_place = key == "Dest" || key == "A" || key == "AA" || key == "Parent";
      copy.set(key, is_place ? value : with_copies(value));
    }
    return copy;
  }
  Object with_copies(const Object& object) const {
    if (object.is_reference()) {
      const auto copy = copies_.find(object.as_reference());
      return copy == copies_.end() ? object : Object(copy->second);
    }
    if (object.is_array()) {
      Array items = object.as_array();
      for (Object& item : items) item = with_copies(item);
      return items;
    }
    return object.is_dict() ? Object(with_copies(object.as_dict())) : object;
  }

  // A widget that is its own field becomes one of two of a field (12.7.4.1).
  void join_field(ObjectId original, ObjectId copy) {
    Dict widget = ledger_.resolve(Object(original)).as_dict();
    const bool is_field = widget.contains("T") || !widget.contains("Parent");
    const ObjectId field =
        is_field ? split(original, std::move(widget)) : widget["Parent"].as_reference();
    Dict own = document::without_field(ledger_.resolve(Object(copy)).as_dict());
    own.set("Parent", field);
    ledger_.set(copy, std::move(own));
    Dict dict = ledger_.resolve(Object(field)).as_dict();
    Array kids = ledger_.get(dict, "Kids").as_array();
    kids.push_back(copy);
    dict.set("Kids", std::move(kids));
    ledger_.set(field, std::move(dict));
  }

  // The field apart from its widget, in the widget's place.
  ObjectId split(ObjectId id, Dict widget) {
    const ObjectId field = ledger_.reserve();
    Dict dict{{"Kids", Array{Object(id)}}};
    for (const std::string_view key : document::kOfFields)
      if (widget.contains(key)) dict.set(key, widget[key]);
    for (const char* key : {"T", "Parent"}) dict.set(key, widget[key]);
    const Object parent = widget["Parent"];
    widget = document::without_field(std::move(widget));
    widget.set("Parent", field);
    ledger_.set(id, std::move(widget));
    ledger_.set(field, std::move(dict));
    put_in_place(parent, id, field);
    return field;
  }

  void put_in_place(const Object& parent, ObjectId old, ObjectId field) {
    const auto replaced = [&](Dict& dict, std::string_view key) {
      Array items = ledger_.get(dict, key).as_array();
      std::replace(items.begin(), items.end(), Object(old), Object(field));
      if (!items.empty()) dict.set(key, std::move(items));
    };
    Dict form = form_dict(ledger_, catalog_);
    if (parent.is_reference()) {
      Dict above = ledger_.resolve(parent).as_dict();
      replaced(above, "Kids");
      ledger_.set(parent.as_reference(), std::move(above));
    } else {
      replaced(form, "Fields");
    }
    replaced(form, "CO");
    if (!form.is_empty()) set_form_dict(ledger_, catalog_, std::move(form));
  }

  file::Ledger& ledger_;
  Dict& catalog_;
  const Limits& limits_;
  std::map<ObjectId, ObjectId> copies_;
};

}  // namespace

ObjectId add_bare_duplicate(file::Ledger& ledger, const Page& page) {
  Dict dict = page.dict();
  for (const char* key : {"Parent", "StructParents", "B", "Annots", "Tabs", "ID", "PZ"})
    dict.remove(key);
  const ObjectId id = ledger.add(Object(std::move(dict)));
  ledger.touch_page(id);
  return id;
}

void duplicate_annotations(file::Ledger& ledger, Dict& catalog, ObjectId page, ObjectId duplicate,
                           const Limits& limits) {
  Annotations(ledger, catalog, limits).copy(page, duplicate);
}

}  // namespace lumvet::editing

// SPDX-License-Identifier: Apache-2.0
#include "edit/field_removal.h"

#include "edit/form_dict.h"

namespace lumvet::editing {
namespace {

void take_from_fields(file::Ledger& ledger, Dict& catalog, ObjectId field) {
  Dict form = form_dict(ledger, catalog);
  for (const char* list : {"Fields", "CO"}) {
    Array fields = ledger.get(form, list).as_array();
    if (std::erase(fields, Object(field)) > 0) form.set(list, std::move(fields));
  }
  set_form_dict(ledger, catalog, std::move(form));
}

}  // namespace

void take_from_form(file::Ledger& ledger, Dict& catalog, ObjectId kid, Object parent, int nesting) {
  for (int level = 0; level < nesting; ++level) {
    if (!parent.is_reference()) return take_from_fields(ledger, catalog, kid);
    Dict dict = ledger.resolve(parent).as_dict();
    Array kids = ledger.get(dict, "Kids").as_array();
    std::erase(kids, Object(kid));
    if (!kids.empty()) {
      dict.set("Kids", std::move(kids));
      ledger.set(parent.as_reference(), std::move(dict));
      return;
    }
    const Object above = dict["Parent"];
    kid = parent.as_reference();
    ledger.set(kid, Object());
    parent = above;
  }
}

}  // namespace lumvet::editing

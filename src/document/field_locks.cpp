// SPDX-License-Identifier: Apache-2.0
#include "document/field_locks.h"

#include <algorithm>

#include "base/attempt.h"
#include "document/text_entries.h"

namespace lumvet {

bool FieldLock::holds(const std::string& name) const {
  const bool is_named = std::any_of(names.begin(), names.end(), [&](const std::string& each) {
    return name.starts_with(each) && (name.size() == each.size() || name[each.size()] == '.');
  });
  switch (which) {
    case Which::these: return is_named;
    case Which::all_but_these: return !is_named;
    default: return true;
  }
}

namespace document {

std::vector<FieldLock> field_locks(const file::ObjectStore& store, const Dict& signature) {
  std::vector<FieldLock> locks;
  const Object references = store.get(signature, "Reference");
  for (const Object& item : references.as_array()) {
    const Object reference = store.resolve(item);
    if (!store.get(reference.as_dict(), "TransformMethod").is_name("FieldMDP")) continue;
    const Object stated = store.get(reference.as_dict(), "TransformParams");
    FieldLock lock;
    const Object action = store.get(stated.as_dict(), "Action");
    if (action.is_name("Include")) lock.which = FieldLock::Which::these;
    if (action.is_name("Exclude")) lock.which = FieldLock::Which::all_but_these;
    const Object names = store.get(stated.as_dict(), "Fields");
    for (const Object& name : names.as_array())
      lock.names.push_back(objects::text_to_utf8(store.resolve(name).as_string()));
    locks.push_back(std::move(lock));
  }
  return locks;
}

void note_locks(const file::ObjectStore& store, Form& form) {
  for (const FormField& signed_field : form.fields) {
    if (signed_field.signature.is_null()) continue;
    const Object signature = store.resolve(signed_field.signature);
    for (const FieldLock& lock : field_locks(store, signature.as_dict()))
      for (FormField& field : form.fields) {
        if (!Attempt::follow(1 + lock.names.size())) return;
        if (field.locked_by.empty() && field.name != signed_field.name && lock.holds(field.name))
          field.locked_by = signed_field.name;
      }
  }
}

}  // namespace document

}  // namespace lumvet

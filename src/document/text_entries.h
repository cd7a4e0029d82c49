// SPDX-License-Identifier: Apache-2.0
// Entries of dictionaries that people read: text (ISO 32000-2, 7.9.2.2) and dates (7.9.4), in
// UTF-8; empty when they are missing.
#pragma once

#include "objects/resolver.h"
#include "objects/text_string.h"

namespace lumvet::document {

inline std::string text_entry(const objects::Resolver& resolver, const Dict& dict,
                              std::string_view key) {
  const Object& stated = dict[key];
  if (!stated.is_reference()) return objects::text_to_utf8(stated.as_string());
  return objects::text_to_utf8(resolver.resolve(stated).as_string());
}

// The other way round, as an object.
inline Object text_object(std::string_view utf8) {
  return Object::string(objects::utf8_to_text(utf8));
}

// As it stands when it is no date.
inline std::string date_entry(const objects::Resolver& resolver, const Dict& dict,
                              std::string_view key) {
  const std::string text = text_entry(resolver, dict, key);
  return objects::date_for_people(text).value_or(text);
}

}  // namespace lumvet::document

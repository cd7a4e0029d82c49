// SPDX-License-Identifier: Apache-2.0
#include "objects/references.h"

#include <vector>

namespace lumvet::objects {

Object with_references(const Object& object, const ReferenceMap& map) {
  if (object.is_reference()) return map(object.as_reference());
  if (object.is_array()) {
    Array items = object.as_array();
    for (Object& item : items) item = with_references(item, map);
    return items;
  }
  if (!object.is_dict() && !object.is_stream()) return object;
  std::vector<Dict::Entry> entries;
  for (const auto& [key, value] : object.as_dict())
    entries.emplace_back(key, with_references(value, map));
  if (const Stream* stream = object.as_stream()) {
    Stream copy = *stream;
    copy.dict = Dict(std::move(entries));
    return copy;
  }
  return Dict(std::move(entries));
}

}  // namespace lumvet::objects

// SPDX-License-Identifier: Apache-2.0
#include "objects/standing.h"

#include "base/attempt.h"

namespace lumvet::objects {
namespace {

template <typename Change>
Dict changed(const Dict& dict, const Change& change) {
  std::vector<Dict::Entry> entries;
  entries.reserve(dict.size());
  for (const auto& [key, value] : dict) entries.emplace_back(key, change(value));
  return Dict(std::move(entries));
}

// What is in the object directly, changed; a stream's entries, not its bytes.
template <typename Change>
Object with_each(const Object& object, const Change& change) {
  if (object.is_array()) {
    Array items;
    items.reserve(object.as_array().size());
    for (const Object& item : object.as_array()) items.push_back(change(item));
    return items;
  }
  if (const Stream* stream = object.as_stream()) {
    Stream own = *stream;
    own.dict = changed(stream->dict, change);
    return own;
  }
  return object.is_dict() ? Object(changed(object.as_dict(), change)) : object;
}

}  // namespace

Object standing_alone(const Resolver& resolver, const Object& object, int nesting) {
  const Object value = resolver.resolve(object);
  if (nesting <= 0 || !Attempt::follow(sizeof(Dict::Entry))) return Object();
  const auto stand = [&](const Object& one) { return standing_alone(resolver, one, nesting - 1); };
  const Stream* stream = value.as_stream();
  if (stream == nullptr) return with_each(value, stand);
  Stream own = *stream;
  for (const char* key : {"OC", "StructParent", "StructParents", "Metadata", "PieceInfo",
                          "LastModified", "Ref", "AF"})
    own.dict.remove(key);
  if (!Attempt::follow(own.length)) return Object();
  return with_each(Object(std::move(own)), stand);
}

Object with_references(const Object& object, const std::function<ObjectId(Stream)>& put) {
  return with_each(object, [&](const Object& one) {
    Object inner = with_references(one, put);
    return inner.is_stream() ? Object(put(*inner.as_stream())) : inner;
  });
}

}  // namespace lumvet::objects

// SPDX-License-Identifier: Apache-2.0
#include "save/reachable.h"

#include <algorithm>

#include "filters/stream_decoder.h"

namespace lumvet::saving {
namespace {

constexpr std::size_t kWorthComparing = 256;  // bytes

void push(const Object& item, std::vector<Object>& open) {
  if (item.is_reference() || item.is_array() || item.is_dict()) open.push_back(item);
}

// Of the size, the beginning and the end: streams that share those are compared whole.
std::size_t hash_of(std::string_view bytes) {
  constexpr std::size_t kPart = 1024;
  const std::hash<std::string_view> hash;
  const std::string_view end = bytes.substr(bytes.size() - std::min(kPart, bytes.size()));
  return hash(bytes.substr(0, kPart)) ^ (hash(end) << 1) ^ bytes.size();
}

// That knows its filters (ISO 32000-2, 7.4.1, table 6). What has none is packed when it is
// written.
std::string version_of(const Stream& stream, const objects::Resolver& objects) {
  std::string least = "1.2";
  for (const filters::FilterStep& step : filters::filter_chain(stream.dict, objects)) {
    if (step.name == "JBIG2Decode") least = std::max<std::string>(least, "1.4");
    if (step.name == "JPXDecode" || step.name == "Crypt")
      least = std::max<std::string>(least, "1.5");
  }
  return least;
}

bool are_same(const Object& a, const Object& b) {
  if (!a.is_stream() || !b.is_stream()) return false;
  Dict dict = a.as_dict();
  Dict other = b.as_dict();
  dict.remove("Length");
  other.remove("Length");
  if (!(dict == other)) return false;
  const Result<ByteSlice> bytes = a.as_stream()->encoded();
  const Result<ByteSlice> others = b.as_stream()->encoded();
  return bytes.ok() && others.ok() && as_text(bytes->view()) == as_text(others->view());
}

}  // namespace

void Reachable::collect(const Object& root) {
  std::vector<Object> open = {root};
  while (!open.empty()) {
    const Object at = std::move(open.back());
    open.pop_back();
    if (at.is_reference()) {
      if (Object object = note(at.as_reference()); !object.is_null()) open.push_back(object);
      continue;
    }
    const std::size_t first_new = open.size();
    for (const Object& item : at.as_array()) push(item, open);
    for (const auto& [key, value] : at.as_dict())
      if (!at.is_stream() || key != "Length") push(value, open);  // lengths are written anew
    std::reverse(open.begin() + static_cast<std::ptrdiff_t>(first_new), open.end());
  }
}

void Reachable::collect_document(const Object& catalog) {
  std::vector<Object> tree = {catalog};
  for (std::size_t i = 0; i < tree.size(); ++i) {
    const Object node = objects_.resolve(tree[i]);
    const Object& pages = node.as_dict()["Pages"];
    const Object kids = i == 0 ? Object(Array{pages}) : objects_.get(node.as_dict(), "Kids");
    if (note(tree[i].as_reference()).is_null()) continue;  // met before: the tree is a circle
    for (const Object& kid : kids.as_array())
      if (kid.is_reference() && objects_.resolve(kid).as_dict().contains("Kids"))
        tree.push_back(kid);
  }
  for (const Object& node : tree) collect(objects_.resolve(node));
}

std::optional<std::size_t> Reachable::place_of(ObjectId id) const {
  const auto found = places_.find(key(id));
  if (found == places_.end() || found->second == 0) return std::nullopt;
  return found->second - 1;
}

// Notes an object met for the first time and gives it; null when it was met before, or when it is a
// stream like one that was.
Object Reachable::note(ObjectId id) {
  const auto [place, fresh] = places_.emplace(key(id), 0);
  if (!fresh) return Object();
  Object object = objects_.resolve(Object(id));
  if (object.is_null()) return object;
  const std::size_t next = order_.size() + 1;
  place->second = object.is_stream() ? same_stream(object, next) : next;
  if (place->second != next) return Object();
  order_.push_back(id);
  const Stream* stream = object.as_stream();
  if (stream != nullptr) least_version_ = std::max(least_version_, version_of(*stream, objects_));
  lengths_.push_back(stream != nullptr ? std::optional(stream->length) : std::nullopt);
  return object;
}

// The place of a stream met before with the same dictionary and bytes, above all a font that
// several documents embed; `place` if there is none.
std::size_t Reachable::same_stream(const Object& object, std::size_t place) {
  const Stream& stream = *object.as_stream();
  if (stream.length < kWorthComparing) return place;
  for (const auto& [key, value] : stream.dict)
    if (key != "Length" && (value.is_reference() || value.is_array() || value.is_dict()))
      return place;
  const Result<ByteSlice> bytes = stream.encoded();
  if (!bytes.ok()) return place;
  const std::size_t hash = hash_of(as_text(bytes->view()));
  const auto [first, last] = streams_.equal_range(hash);
  for (auto known = first; known != last; ++known)
    if (are_same(object, objects_.resolve(Object(order_[known->second - 1])))) return known->second;
  streams_.emplace(hash, place);
  return place;
}

}  // namespace lumvet::saving

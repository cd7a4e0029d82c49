// SPDX-License-Identifier: Apache-2.0
#include "assemble/equal_objects.h"

#include <algorithm>
#include <array>

#include "crypto/digest.h"
#include "objects/references.h"

namespace lumvet::assemble {
namespace {

bool is_shareable(const Object& object) {
  if (object.is_stream()) return true;
  if (!object.is_dict() && !object.is_array()) return false;
  static constexpr std::array<std::string_view, 8> kThemselves = {
      "Page", "Pages", "Catalog", "Annot", "OCG", "OCMD", "StructElem", "StructTreeRoot"};
  const Dict& dict = object.as_dict();
  const std::string_view type = dict["Type"].as_name();
  if (std::find(kThemselves.begin(), kThemselves.end(), type) != kThemselves.end()) return false;
  // What has a place in a tree or on a page, though it does not say its type.
  return !dict.contains("Parent") && !dict.contains("Kids") && !dict.contains("Rect") &&
         !dict.contains("P");
}

void add_references(const Object& object, std::vector<ObjectId>& out) {
  if (object.is_reference()) return out.push_back(object.as_reference());
  for (const Object& item : object.as_array()) add_references(item, out);
  for (const auto& [key, value] : object.as_dict()) add_references(value, out);
}

// Of one text: the same bytes, if they are streams.
bool are_alike(const Object& a, const Object& b) {
  const Stream* one = a.as_stream();
  const Stream* other = b.as_stream();
  if (one == nullptr || other == nullptr) return one == other;
  return have_equal_bytes(*one, *other);
}

// What an object says, short; empty when its bytes cannot be read, which is like nothing else.
std::string digest_of(const std::string& text, const Object& object) {
  ByteSlice bytes;
  if (const Stream* stream = object.as_stream()) {
    Result<ByteSlice> read = stream->encoded();
    if (!read.ok()) return {};
    bytes = *std::move(read);
  }
  const Bytes digest =
      crypto::digest(crypto::DigestKind::sha256, {as_bytes(text), as_bytes("\n"), bytes.view()});
  return std::string(as_text(digest));
}

// By what an object says; by its bytes too where they are few, of which there may be very many that
// say the same of them.
std::size_t key_of(const std::string& text, const Object& object) {
  constexpr std::uint64_t kFew = 1 << 16;
  const std::size_t key = std::hash<std::string>()(text);
  const Stream* stream = object.as_stream();
  if (stream == nullptr || stream->length > kFew) return key;
  const Result<ByteSlice> bytes = stream->encoded();
  if (!bytes.ok()) return key;
  constexpr std::size_t kSpread = 0x9E3779B97F4A7C15u;
  return key ^ std::hash<std::string_view>()(as_text(bytes->view())) * kSpread;
}

}  // namespace

std::size_t EqualObjects::join(file::Ledger& ledger, std::uint32_t from) {
  users_.clear();
  known_.clear();
  const std::vector<ObjectId> ids = ledger.changed_ids();
  std::vector<ObjectId> references;
  for (const ObjectId id : ids) {
    const Object object = ledger.resolve(Object(id));
    references.clear();
    add_references(object, references);
    for (const ObjectId target : references) users_.emplace_back(target, id);
  }
  std::sort(users_.begin(), users_.end());
  // Level by level: what refers to equal objects may be equal once those are one.
  std::vector<ObjectId> open = ids;
  std::vector<ObjectId> all_gone;
  while (!open.empty()) {
    std::vector<ObjectId> gone;
    for (const ObjectId id : open) {
      const Object object = ledger.resolve(Object(id));
      if (id.number < from || same_as_.contains(id) || !is_shareable(object)) continue;
      const ObjectId first = first_like(ledger, id, object);
      if (first == id) continue;
      same_as_[id] = first;
      gone.push_back(id);
    }
    all_gone.insert(all_gone.end(), gone.begin(), gone.end());
    open = users_of(gone);
  }
  std::vector<ObjectId> led;
  for (const auto& [target, user] : users_)
    if ((led.empty() || led.back() != target) && same_as_.contains(target)) led.push_back(target);
  for (const ObjectId id : users_of(led))
    if (!same_as_.contains(id))
      ledger.set(id, objects::with_references(ledger.resolve(Object(id)), [this](ObjectId target) {
                   return Object(last(target));
                 }));
  for (const ObjectId id : all_gone) ledger.drop(id);
  return all_gone.size();
}

void EqualObjects::remember(const file::Ledger& ledger) {
  for (const auto& [hash, alike] : known_)
    for (const Known& one : alike) {
      if (same_as_.contains(one.id)) continue;
      std::string digest = digest_of(one.text, ledger.resolve(Object(one.id)));
      if (!digest.empty()) taken_[hash].push_back({one.id, std::move(digest)});
    }
  known_.clear();
}

ObjectId EqualObjects::last(ObjectId id) const {
  for (auto next = same_as_.find(id); next != same_as_.end(); next = same_as_.find(id))
    id = next->second;
  return id;
}

// The first object met that says the same; `id` itself when there was none.
ObjectId EqualObjects::first_like(const file::Ledger& ledger, ObjectId id, const Object& object) {
  std::string text;
  objects::serialize(object, text, [this](ObjectId target) { return Object(last(target)); });
  const std::size_t hash = key_of(text, object);
  if (const auto taken = taken_.find(hash); taken != taken_.end()) {
    const std::string digest = digest_of(text, object);
    for (const Known& other : taken->second)
      if (other.text == digest) return other.id;
  }
  auto& alike = known_[hash];
  for (const Known& other : alike) {
    if (other.id == id) return id;
    if (other.text == text && are_alike(object, ledger.resolve(Object(other.id))))
      return last(other.id);
  }
  alike.push_back({id, std::move(text)});
  return id;
}

std::vector<ObjectId> EqualObjects::users_of(const std::vector<ObjectId>& ids) const {
  std::vector<ObjectId> users;
  for (const ObjectId id : ids)
    for (auto at = std::lower_bound(users_.begin(), users_.end(), std::pair(id, ObjectId()));
         at != users_.end() && at->first == id; ++at)
      users.push_back(at->second);
  std::sort(users.begin(), users.end());
  users.erase(std::unique(users.begin(), users.end()), users.end());
  return users;
}

bool have_equal_bytes(const Stream& a, const Stream& b) {
  if (a.length != b.length) return false;
  if (a.source == b.source && a.offset == b.offset) return true;
  const Result<ByteSlice> left = a.encoded();
  const Result<ByteSlice> right = b.encoded();
  return left.ok() && right.ok() && as_text(left->view()) == as_text(right->view());
}

std::size_t join_equal_objects(file::Ledger& ledger, std::uint32_t from) {
  return EqualObjects().join(ledger, from);
}

}  // namespace lumvet::assemble

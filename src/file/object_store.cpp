// SPDX-License-Identifier: Apache-2.0
#include "file/object_store.h"

#include <mutex>

#include "base/budget.h"
#include "file/object_reader.h"
#include "filters/stream_decoder.h"
#include "objects/parser.h"

namespace lumvet::file {
namespace {

// Loading an object may need others (a length, an object stream) that need others in turn. Files
// made for it can lead that round in a circle.
class LoadDepth {
 public:
  LoadDepth() { ++depth(); }
  ~LoadDepth() { --depth(); }
  LoadDepth(const LoadDepth&) = delete;
  LoadDepth& operator=(const LoadDepth&) = delete;
  bool too_deep() const { return depth() > 16; }

 private:
  static int& depth() {
    thread_local int depth = 0;
    return depth;
  }
};

}  // namespace

Result<std::shared_ptr<const ObjectStore>> ObjectStore::open(
    std::shared_ptr<const ByteSource> source, const Limits& limits) {
  std::shared_ptr<ObjectStore> store(new ObjectStore(std::move(source), limits));
  LUMVET_TRY(store->xref_, read_cross_references(*store->source_, limits, store->findings_));
  if (store->xref_.trailer.contains("Encrypt"))
    return Error(ErrorCode::password,
                 "the document is encrypted and needs a password; this version cannot decrypt, so "
                 "ask for an open copy");
  return std::shared_ptr<const ObjectStore>(std::move(store));
}

Result<Object> ObjectStore::load(ObjectId id) const {
  if (id.number >= xref_.entries.size()) return Object();
  const XrefEntry& entry = xref_.entries[id.number];
  const bool present = (entry.kind == XrefEntry::Kind::in_file && entry.detail == id.generation) ||
                       (entry.kind == XrefEntry::Kind::in_stream && id.generation == 0);
  if (!present) return Object();
  {
    const std::shared_lock lock(mutex_);
    const auto found = loaded_.find(id.number);
    if (found != loaded_.end()) return found->second;
  }
  const LoadDepth depth;
  if (depth.too_deep())
    return Error(ErrorCode::malformed, "objects need one another in a circle").in_object(id);
  Result<Object> object = read(id, entry);
  if (!object.ok()) return std::move(object).error().in_object(id);
  const std::unique_lock lock(mutex_);
  // Another thread may have been quicker; its object stays, so that all see the same one.
  return loaded_.emplace(id.number, *std::move(object)).first->second;
}

Object ObjectStore::resolve(const Object& object) const {
  constexpr int kLongestChain = 32;
  Object current = object;
  for (int i = 0; i < kLongestChain && current.is_reference(); ++i) {
    Result<Object> loaded = load(current.as_reference());
    if (!loaded.ok()) {
      const Error& error = loaded.error();
      findings_.add({error.message() + "; null was taken instead", error.offset(), error.object()});
      return Object();
    }
    current = *std::move(loaded);
  }
  return current.is_reference() ? Object() : current;
}

Result<Object> ObjectStore::read(ObjectId id, const XrefEntry& entry) const {
  if (entry.kind == XrefEntry::Kind::in_stream) return read_packed(id, entry);
  const LengthLookup length_of = [this](ObjectId length) { return resolve(Object(length)); };
  LUMVET_TRY(IndirectObject object,
             read_object_at(source_, entry.where, length_of, limits_.nesting, findings_));
  if (object.id.number != id.number)
    return Error(ErrorCode::malformed, "the cross references lead to object " +
                                           std::to_string(object.id.number) + " instead")
        .at_offset(entry.where);
  return std::move(object.value);
}

Result<Object> ObjectStore::read_packed(ObjectId id, const XrefEntry& entry) const {
  constexpr std::uint64_t kMostNumber = 0xFFFFFFFF;
  if (entry.where > kMostNumber)
    return Error(ErrorCode::malformed, "the number of an object stream is impossible");
  LUMVET_TRY(const auto pack, unpack(static_cast<std::uint32_t>(entry.where)));
  std::size_t index = entry.detail;
  if (index >= pack->places.size() || pack->places[index].first != id.number) {
    index = 0;
    while (index < pack->places.size() && pack->places[index].first != id.number) ++index;
    if (index == pack->places.size())
      return Error(ErrorCode::malformed, "object stream " + std::to_string(entry.where) +
                                             " does not hold what the cross references say");
  }
  objects::Parser parser(pack->bytes.view(), pack->places[index].second,
                         objects::References::allowed, limits_.nesting);
  Result<Object> value = parser.value();
  if (!value.ok())  // its offset counts within the unpacked bytes, which helps nobody
    return Error(value.error().code(),
                 value.error().message() + ", inside object stream " + std::to_string(entry.where));
  return value;
}

Result<std::shared_ptr<const ObjectStore::Unpacked>> ObjectStore::unpack(
    std::uint32_t number) const {
  {
    const std::shared_lock lock(mutex_);
    const auto found = unpacked_.find(number);
    if (found != unpacked_.end()) return found->second;
  }
  const Object object = resolve(Object(ObjectId{number, 0}));
  const Stream* stream = object.as_stream();
  if (stream == nullptr)
    return Error(ErrorCode::malformed, "object stream " + std::to_string(number) + " is missing");
  auto pack = std::make_shared<Unpacked>();
  Budget budget(limits_);
  LUMVET_TRY(pack->bytes, filters::decode_whole(*stream, *this, budget, findings_));
  const std::int64_t count = get(stream->dict, "N").as_integer();
  const std::int64_t first = get(stream->dict, "First").as_integer();
  const auto size = static_cast<std::int64_t>(pack->bytes.size());
  // Each object takes at least four bytes of header: "1 0 ".
  if (count < 0 || first < 0 || first > size || count > size)
    return Error(ErrorCode::malformed, "an object stream with an impossible count of objects");
  objects::Lexer lexer(pack->bytes.view());
  for (std::int64_t i = 0; i < count; ++i) {
    const Result<objects::Token> numbered = lexer.next();
    const Result<objects::Token> place = lexer.next();
    if (!numbered.ok() || !place.ok() || numbered->kind != objects::TokenKind::integer ||
        place->kind != objects::TokenKind::integer || place->integer < 0 ||
        place->integer > size - first)
      break;
    pack->places.emplace_back(static_cast<std::uint32_t>(numbered->integer),
                              static_cast<std::size_t>(first + place->integer));
  }
  const std::unique_lock lock(mutex_);
  return unpacked_.emplace(number, std::move(pack)).first->second;
}

}  // namespace lumvet::file

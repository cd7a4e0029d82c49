// SPDX-License-Identifier: Apache-2.0
#include "file/opened_file.h"

#include <algorithm>
#include <array>
#include <string_view>
#include <utility>

#include "base/attempt.h"
#include "base/budget.h"
#include "filters/stream_decoder.h"
#include "objects/parser.h"

namespace lumvet::file {
namespace {

constexpr std::uint64_t kNear = 1024;  // bytes by which offsets are off in files mended by hand

// What this thread is loading. An object may need others (a length, an object stream) that need
// others in turn; files made for it can lead that round in a circle.
class Loading {
 public:
  Loading(const void* store, ObjectId id) { stack().push_back({store, id}); }
  ~Loading() { stack().pop_back(); }
  Loading(const Loading&) = delete;
  Loading& operator=(const Loading&) = delete;
  static bool goes_on(const void* store, ObjectId id) {
    return std::find(stack().begin(), stack().end(), std::pair(store, id)) != stack().end();
  }
  static int depth() { return static_cast<int>(stack().size()); }

 private:
  static std::vector<std::pair<const void*, ObjectId>>& stack() {
    thread_local std::vector<std::pair<const void*, ObjectId>> stack;
    return stack;
  }
};

// Looking through the whole file reads objects, which must not look through it in turn.
class WholeSearch {
 public:
  WholeSearch() { state() = true; }
  ~WholeSearch() { state() = false; }
  WholeSearch(const WholeSearch&) = delete;
  WholeSearch& operator=(const WholeSearch&) = delete;
  static bool goes_on() { return state(); }

 private:
  static bool& state() {
    thread_local bool goes_on = false;
    return goes_on;
  }
};

std::uint64_t key_of(ObjectId id) { return std::uint64_t{id.number} << 16 | id.generation; }

// About the memory that an object takes, in bytes.
std::uint64_t weight_of(const Object& object) {
  std::uint64_t bytes = sizeof(Object);
  if (object.is_string()) bytes += object.as_string().size();
  if (object.is_name()) bytes += object.as_name().size();
  if (object.is_array())
    for (const Object& item : object.as_array()) bytes += weight_of(item);
  if (object.is_dict() || object.is_stream())
    for (const auto& [key, item] : object.as_dict()) bytes += sizeof(std::string) + weight_of(item);
  return bytes;
}

// Whether another place may be tried after this error, rather than giving up or fetching.
bool is_damage(const Error& error) { return error.code() == ErrorCode::malformed; }

// What an encryption dictionary is asked for (7.6.2, 7.6.4.2, 7.6.5.2).
constexpr std::array<std::string_view, 17> kProtection = {
    "Filter",    "SubFilter", "V", "Length", "CF", "StmF", "StrF",  "EFF",
    "R",         "O",         "U", "OE",     "UE", "P",    "Perms", "EncryptMetadata",
    "Recipients"};

// A dictionary with everything in it direct, as far as `levels` go.
Object followed(const objects::Resolver& resolver, const Object& object, int levels) {
  const Object value = resolver.resolve(object);
  if (!Attempt::follow(weight_of(value))) return Object();
  if (levels == 0) return value;
  if (value.is_array()) {
    Array items;
    for (const Object& item : value.as_array())
      items.push_back(followed(resolver, item, levels - 1));
    return items;
  }
  if (!value.is_dict()) return value;
  std::vector<Dict::Entry> entries;
  for (const auto& [key, item] : value.as_dict())
    entries.emplace_back(key, followed(resolver, item, levels - 1));
  return Dict(std::move(entries));
}

}  // namespace

Result<std::shared_ptr<const OpenedFile>> OpenedFile::open(std::shared_ptr<const ByteSource> source,
                                                           const Limits& limits) {
  std::shared_ptr<OpenedFile> store(new OpenedFile(std::move(source), limits));
  LUMVET_RETURN_IF_ERROR(store->read_structure());
  return std::shared_ptr<const OpenedFile>(std::move(store));
}

Result<std::shared_ptr<const OpenedFile>> OpenedFile::earlier(
    std::shared_ptr<const ByteSource> beginning) const {
  std::shared_ptr<OpenedFile> store(new OpenedFile(std::move(beginning), limits_));
  LUMVET_RETURN_IF_ERROR(store->read_structure());
  if (store->is_locked()) store->security_ = security_;
  return std::shared_ptr<const OpenedFile>(std::move(store));
}

Status OpenedFile::read_structure() {
  LUMVET_TRY(header_, find_header(*source_));
  if (!header_.oddity.empty()) findings_->add({header_.oddity, header_.offset, {}});
  Result<XrefTable> table = XrefTable::read(*source_, header_.offset, limits_, *findings_);
  if (table.ok()) {
    xref_ = std::make_shared<const XrefTable>(*std::move(table));
    return read_encryption();
  }
  const Error& error = table.error();
  if (!is_damage(error)) return error;
  findings_->add({error.message() + "; the objects in the file were looked for instead",
                  error.offset(), error.object()});
  LUMVET_RETURN_IF_ERROR(rebuild());
  return read_encryption();
}

Result<std::shared_ptr<const OpenedFile>> OpenedFile::rebuilt() const {
  std::shared_ptr<OpenedFile> store(new OpenedFile(source_, limits_));
  store->header_ = header_;
  store->findings_ = findings_;
  store->encrypt_reference_ = encrypt_reference_;
  store->encryption_ = encryption_;
  store->security_ = security_;
  LUMVET_RETURN_IF_ERROR(store->rebuild());
  LUMVET_RETURN_IF_ERROR(store->read_encryption());
  return std::shared_ptr<const OpenedFile>(std::move(store));
}

Status OpenedFile::rebuild() {
  LUMVET_TRY(const Scan scan, scan_file(*source_, limits_.objects));
  if (scan.objects.empty())
    return Error(ErrorCode::malformed,
                 "the file begins like a PDF document but holds no objects; it was probably cut "
                 "off while being copied or fetched, so get it again");
  xref_ = std::make_shared<const XrefTable>(
      XrefTable::of(index_of(scan, limits_.objects,
                             [](const ScannedObject&) { return std::vector<std::uint32_t>(); }),
                    trailer_of(source_, scan, limits_.nesting, *findings_)));
  // Packed objects of an encrypted file can be seen once it is unlocked.
  if (xref_->trailer().contains("Encrypt") && !security_) return Done{};
  return index_packed_objects(scan);
}

Status OpenedFile::index_packed_objects(const Scan& scan) {
  const auto numbers = [this](const ScannedObject& object) { return packed_numbers(object); };
  xref_ = std::make_shared<const XrefTable>(
      XrefTable::of(index_of(scan, limits_.objects, numbers), xref_->trailer()));
  loaded_.clear();
  unpacked_.clear();
  return Done{};
}

Status OpenedFile::read_encryption() {
  encrypt_reference_ = xref_->trailer()["Encrypt"];
  if (encrypt_reference_.is_null() || encryption_) return Done{};
  constexpr int kLevels = 3;  // down to the recipients of a crypt filter
  std::vector<Dict::Entry> entries;
  const Object stated = resolve(encrypt_reference_);
  for (const auto& [key, value] : stated.as_dict())
    if (std::find(kProtection.begin(), kProtection.end(), key) != kProtection.end())
      entries.emplace_back(key, followed(*this, value, kLevels));
  if (auto stopped = Attempt::stopped_by()) return *std::move(stopped);
  const Object dict = stated.is_dict() ? Object(Dict(std::move(entries))) : Object();
  if (!dict.is_dict())
    return Error(ErrorCode::malformed,
                 "the document is encrypted, but how is lost; it cannot be read")
        .in_object(encrypt_reference_.as_reference());
  LUMVET_RETURN_IF_ERROR(security::SecurityHandler::describe(dict.as_dict()));
  encryption_ = dict.as_dict();
  // What was read so far, a length perhaps, may be read again otherwise.
  loaded_.clear();
  return Done{};
}

std::optional<Encryption> OpenedFile::encryption() const {
  if (security_) return security_->encryption();
  if (!encryption_) return std::nullopt;
  const Result<Encryption> described = security::SecurityHandler::describe(*encryption_);
  return described.ok() ? std::optional(*described) : std::nullopt;
}

Result<std::shared_ptr<const OpenedFile>> OpenedFile::unlocked(
    const security::Credentials& credentials) const {
  const Object ids = followed(*this, xref_->trailer()["ID"], 1);
  const std::string id =
      ids.as_array().empty() ? std::string() : std::string(ids.as_array()[0].as_string());
  std::shared_ptr<OpenedFile> store(new OpenedFile(source_, limits_));
  LUMVET_TRY(store->security_,
             security::SecurityHandler::unlock(*encryption_, id, credentials, *findings_));
  store->header_ = header_;
  store->xref_ = xref_;
  store->encrypt_reference_ = encrypt_reference_;
  store->encryption_ = encryption_;
  store->findings_ = findings_;
  if (xref_->is_rebuilt()) {
    LUMVET_TRY(const Scan scan, scan_file(*source_, limits_.objects));
    LUMVET_RETURN_IF_ERROR(store->index_packed_objects(scan));
  }
  return std::shared_ptr<const OpenedFile>(std::move(store));
}

std::uint32_t OpenedFile::size() const {
  const std::uint64_t found = xref_->has_gaps() ? whole_index()->size() : 0;
  return static_cast<std::uint32_t>(std::max(xref_->size(), found));
}

// Numbers from the limit on are refused wherever a file states them.
std::uint32_t OpenedFile::first_beyond() const {
  return static_cast<std::uint32_t>(std::min<std::uint64_t>(limits_.objects, 1u << 31));
}

XrefEntry OpenedFile::entry_of(std::uint32_t number) const {
  const XrefEntry entry = xref_->find(number);
  const bool is_known = entry.kind != XrefEntry::Kind::missing;
  return is_known || !xref_->has_gaps() ? entry : whole_index()->find(number);
}

std::optional<std::uint64_t> OpenedFile::place_of(std::uint32_t number) const {
  const XrefEntry entry = entry_of(number);
  if (entry.kind == XrefEntry::Kind::in_file) return entry.where;
  if (entry.kind != XrefEntry::Kind::in_stream) return std::nullopt;
  const XrefEntry stream = entry_of(static_cast<std::uint32_t>(entry.where));
  return stream.kind == XrefEntry::Kind::in_file ? std::optional(stream.where) : std::nullopt;
}

Result<Object> OpenedFile::load(ObjectId id) const {
  if (std::optional<Object> kept = loaded_.find(key_of(id))) return *std::move(kept);
  if (auto stopped = Attempt::stopped_by()) return *std::move(stopped);
  XrefEntry entry = xref_->find(id.number);
  if (entry.kind == XrefEntry::Kind::free && is_wrongly_free(id.number, entry)) {
    findings_->add({"an object is called free but is in use; it was taken", entry.where, id});
    entry = {entry.where, id.generation, XrefEntry::Kind::in_file};
  }
  const bool present = (entry.kind == XrefEntry::Kind::in_file && entry.detail == id.generation) ||
                       (entry.kind == XrefEntry::Kind::in_stream && id.generation == 0);
  const bool may_be_lost = entry.kind == XrefEntry::Kind::missing && xref_->has_gaps();
  if (!present && !may_be_lost) return Object();
  if (Loading::goes_on(this, id))
    return Error(ErrorCode::malformed, "objects need one another in a circle").in_object(id);
  const Loading loading(this, id);
  if (Loading::depth() > limits_.object_stream_depth)
    return met_limit("objects need one another deeper than Limits::object_stream_depth")
        .in_object(id);
  Result<Object> object = Object();
  if (present) {
    object = read(id, entry);
    if (!object.ok() && is_damage(object.error()))
      object = search(id, entry, std::move(object).error());
  } else if (Result<Object> found = search_whole_file(id, Error(ErrorCode::malformed, ""));
             found.ok()) {
    object = *std::move(found);
  }
  if (!object.ok()) return std::move(object).error().in_object(id);
  const std::uint64_t bytes = weight_of(*object);
  return loaded_.keep(key_of(id), *std::move(object), bytes);
}

// Entries of the free list name the next free number, so an object there is no accident.
bool OpenedFile::is_wrongly_free(std::uint32_t number, const XrefEntry& entry) const {
  constexpr std::uint64_t kShortestHeader = 8;  // "%PDF-1.0"
  if (entry.where < kShortestHeader || entry.where >= source_->size()) return false;
  return find_object_near(*source_, number, entry.where, 0).has_value();
}

Result<Object> OpenedFile::read(ObjectId id, const XrefEntry& entry) const {
  return entry.kind == XrefEntry::Kind::in_stream ? read_packed(id.number, entry)
                                                  : read_in_file(id.number, entry.where);
}

Result<Object> OpenedFile::read_in_file(std::uint32_t number, std::uint64_t offset) const {
  const LengthLookup length_of = [this](ObjectId length) { return resolve(Object(length)); };
  LUMVET_TRY(IndirectObject object,
             read_object_at(source_, offset, length_of, limits_.nesting, *findings_));
  if (object.id.number != number)
    return Error(ErrorCode::malformed,
                 "the cross references lead to object " + std::to_string(object.id.number))
        .at_offset(offset);
  const bool says_how = encrypt_reference_.as_reference().number == number && number != 0;
  if (!security_ || says_how) return std::move(object.value);
  return security_->decrypted(object.id, object.value, attachments_.contains(number));
}

// Near the place first, since most wrong offsets are off by a few bytes; then everywhere.
Result<Object> OpenedFile::search(ObjectId id, const XrefEntry& entry, Error error) const {
  if (entry.kind == XrefEntry::Kind::in_file && !xref_->is_rebuilt())
    if (const auto near = find_object_near(*source_, id.number, entry.where, kNear);
        near && *near != entry.where) {
      Result<Object> object = read_in_file(id.number, *near);
      if (object.ok()) {
        findings_->add({"the cross references are off; the object was found at " +
                            std::to_string(*near) + " instead",
                        entry.where, id});
        return object;
      }
    }
  return search_whole_file(id, std::move(error));
}

Result<Object> OpenedFile::search_whole_file(ObjectId id, Error error) const {
  if (xref_->is_rebuilt() || WholeSearch::goes_on()) return error;
  const XrefEntry entry = whole_index()->find(id.number);
  if (entry.kind == XrefEntry::Kind::missing) return error;
  Result<Object> object = read(id, entry);
  if (!object.ok()) return error;
  findings_->add(
      {"the cross references do not lead to the object; it was found by looking "
       "through the whole file",
       entry.kind == XrefEntry::Kind::in_file ? std::optional(entry.where) : std::nullopt, id});
  return object;
}

std::shared_ptr<const XrefTable> OpenedFile::whole_index() const {
  return found_.get([this] {
    const WholeSearch search;
    const Result<Scan> scan = scan_file(*source_, limits_.objects);
    std::vector<XrefEntry> entries;
    if (scan.ok())
      entries = index_of(*scan, limits_.objects,
                         [this](const ScannedObject& object) { return packed_numbers(object); });
    return XrefTable::of(std::move(entries), {});
  });
}

std::vector<std::uint32_t> OpenedFile::packed_numbers(const ScannedObject& object) const {
  std::vector<std::uint32_t> numbers;
  const Result<Object> read = read_in_file(object.id.number, object.offset);
  if (!read.ok() || !read->is_stream()) return numbers;
  const auto pack = unpack(object.id.number, *read->as_stream());
  if (!pack.ok()) {
    findings_->add({pack.error().message(), object.offset, object.id});
    return numbers;
  }
  for (const auto& [number, place] : (*pack)->places) numbers.push_back(number);
  return numbers;
}

Result<Object> OpenedFile::read_packed(std::uint32_t number, const XrefEntry& entry) const {
  constexpr std::uint64_t kMostNumber = 0xFFFFFFFF;
  if (entry.where > kMostNumber)
    return Error(ErrorCode::malformed, "the number of an object stream is impossible");
  auto stream = static_cast<std::uint32_t>(entry.where);
  std::shared_ptr<const Unpacked> pack;
  std::size_t index = entry.detail;
  const auto is_it = [&](std::size_t i) { return pack->places[i].first == number; };
  // What is not in the stream itself may be in the ones that it extends (7.5.7).
  for (int i = 0; i < limits_.object_stream_depth; ++i) {
    LUMVET_TRY(pack, unpack(stream));
    if (index < pack->places.size() && is_it(index)) break;
    index = 0;
    while (index < pack->places.size() && !is_it(index)) ++index;
    if (index < pack->places.size()) break;
    stream = pack->extends;
    if (stream == 0) break;
  }
  if (index >= pack->places.size())
    return Error(ErrorCode::malformed, "object stream " + std::to_string(entry.where) +
                                           " does not hold what the cross references say");
  objects::Parser parser(pack->bytes.view(), pack->places[index].second,
                         objects::References::allowed, limits_.nesting);
  Result<Object> value = parser.value();
  if (!value.ok())  // its offset counts within the unpacked bytes, which helps nobody
    return Error(value.error().code(),
                 value.error().message() + ", inside object stream " + std::to_string(stream));
  return value;
}

Result<std::shared_ptr<const OpenedFile::Unpacked>> OpenedFile::unpack(std::uint32_t number) const {
  if (auto kept = unpacked_.find(number)) return *std::move(kept);
  const Object object = resolve(Object(ObjectId{number, 0}));
  const Stream* stream = object.as_stream();
  if (stream == nullptr)
    return Error(ErrorCode::malformed, "object stream " + std::to_string(number) + " is missing");
  LUMVET_TRY(auto pack, unpack(number, *stream));
  const std::uint64_t bytes = pack->bytes.size() + pack->places.size() * sizeof pack->places[0];
  return unpacked_.keep(number, std::move(pack), bytes);
}

Result<std::shared_ptr<const OpenedFile::Unpacked>> OpenedFile::unpack(std::uint32_t number,
                                                                       const Stream& stream) const {
  auto pack = std::make_shared<Unpacked>();
  Budget budget(limits_);
  LUMVET_TRY(pack->bytes, filters::decode_whole(stream, *this, budget, *findings_));
  const std::int64_t count = get(stream.dict, "N").as_integer();
  const std::int64_t first = get(stream.dict, "First").as_integer();
  pack->extends = stream.dict["Extends"].as_reference().number;
  const auto size = static_cast<std::int64_t>(pack->bytes.size());
  // Each object takes at least four bytes of header: "1 0 ".
  if (count < 0 || first < 0 || first > size || count > size)
    return Error(ErrorCode::malformed, "object stream " + std::to_string(number) +
                                           " states an impossible count of objects");
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
  return std::shared_ptr<const Unpacked>(std::move(pack));
}

}  // namespace lumvet::file

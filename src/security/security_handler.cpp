// SPDX-License-Identifier: Apache-2.0
#include "security/security_handler.h"
#include "base/findings_list.h"

#include <algorithm>

#include "crypto/cipher.h"
#include "crypto/digest.h"
#include "security/decrypted_source.h"
#include "security/new_lock.h"
#include "security/password.h"
#include "security/standard_key.h"

namespace lumvet::security {
namespace {

constexpr std::size_t kMostOldKey = 16;  // bytes
constexpr std::size_t kNewKeyBytes = 32;

Error unsupported(std::string what) { return Error(ErrorCode::unsupported, std::move(what)); }

std::uint32_t permission_bits(const Dict& encrypt) {
  return static_cast<std::uint32_t>(encrypt["P"].as_integer());
}

StandardParameters standard_parameters(const Dict& encrypt, std::string_view document_id,
                                       std::size_t key_bytes) {
  return {.revision = static_cast<int>(encrypt["R"].as_integer()),
          .key_bytes = key_bytes,
          .owner = std::string(encrypt["O"].as_string()),
          .user = std::string(encrypt["U"].as_string()),
          .owner_key = std::string(encrypt["OE"].as_string()),
          .user_key = std::string(encrypt["UE"].as_string()),
          .perms = std::string(encrypt["Perms"].as_string()),
          .bits = permission_bits(encrypt),
          .document_id = std::string(document_id),
          .encrypts_metadata = encrypt["EncryptMetadata"].as_bool(true)};
}

bool is_by_certificate(const Dict& encrypt) { return encrypt["Filter"].is_name("Adobe.PubSec"); }

// The type may be left out (table 44).
bool has_look_of_attachment(const Dict& dict) {
  if (dict["Type"].is_name("EmbeddedFile") || dict["Params"].is_dict()) return true;
  return dict["Type"].is_null() && dict["Subtype"].as_name().find('/') != std::string_view::npos;
}

// Removes the crypt filter, whose work is done, from a stream's chain.
void drop_crypt_filter(Dict& dict) {
  const Object filter = dict["Filter"];
  if (filter.is_name("Crypt")) {
    dict.remove("Filter");
    dict.remove("DecodeParms");
    return;
  }
  Array filters = filter.as_array();
  if (filters.empty() || !filters[0].is_name("Crypt")) return;
  filters.erase(filters.begin());
  dict.set("Filter", std::move(filters));
  Array parameters = dict["DecodeParms"].as_array();
  if (parameters.empty()) return;
  parameters.erase(parameters.begin());
  dict.set("DecodeParms", std::move(parameters));
}

// The crypt filter that a stream names for itself; nothing when it names none.
std::optional<std::string> own_crypt_filter(const Dict& dict) {
  const Object& filter = dict["Filter"];
  const Object& parameters = dict["DecodeParms"];
  Object own;
  if (filter.is_name("Crypt"))
    own = parameters;
  else if (!filter.as_array().empty() && filter.as_array()[0].is_name("Crypt"))
    own = parameters.as_array().empty() ? Object() : parameters.as_array()[0];
  else
    return std::nullopt;
  const Object& name = own.as_dict()["Name"];
  return name.is_name() ? std::string(name.as_name()) : "Identity";
}

}  // namespace

Result<SecurityHandler::Method> SecurityHandler::method_of(const Dict& filter) {
  const Object& method = filter["CFM"];
  if (method.is_name("V2")) return Method::rc4;
  if (method.is_name("AESV2")) return Method::aes;
  if (method.is_name("AESV3")) return Method::aes_256;
  if (method.is_name("None") || method.is_null()) return Method::identity;
  return unsupported("the document is encrypted with the cipher '" + std::string(method.as_name()) +
                     "', which is unknown");
}

Result<SecurityHandler::Method> SecurityHandler::method_named(std::string_view name) const {
  if (name.empty() || name == "Identity") return Method::identity;
  const auto found = filters_.find(name);
  if (found == filters_.end())
    return Error(ErrorCode::malformed,
                 "the encryption has no crypt filter '" + std::string(name) + "'");
  return found->second;
}

Status SecurityHandler::read_methods(const Dict& encrypt) {
  const std::int64_t version = encrypt["V"].as_integer();
  const std::int64_t bits = encrypt["Length"].as_integer(40);
  switch (version) {
    case 1:
      methods_.fill(Method::rc4);
      key_bytes_ = 5;
      return Done{};
    case 2:
      methods_.fill(Method::rc4);
      key_bytes_ = static_cast<std::size_t>(
          std::clamp<std::int64_t>(bits / 8, 5, static_cast<std::int64_t>(kMostOldKey)));
      return Done{};
    case 4:
    case 5: break;
    default:
      return unsupported("the document is encrypted in the way number " + std::to_string(version) +
                         ", which is not published");
  }
  key_bytes_ = version == 4 ? kMostOldKey : kNewKeyBytes;
  const Object named = encrypt["CF"];
  for (const auto& [name, filter] : named.as_dict()) {
    LUMVET_TRY(const Method method, method_of(filter.as_dict()));
    filters_.emplace(name, method);
    // Bits at this place, bytes by the letter of the standard; both are seen.
    const std::int64_t stated = filter.as_dict()["Length"].as_integer();
    if (method == Method::rc4 && stated >= 5)
      key_bytes_ = static_cast<std::size_t>(std::clamp<std::int64_t>(
          stated >= 40 ? stated / 8 : stated, 5, static_cast<std::int64_t>(kMostOldKey)));
  }
  LUMVET_TRY(methods_[static_cast<std::size_t>(Use::streams)],
             method_named(encrypt["StmF"].as_name()));
  LUMVET_TRY(methods_[static_cast<std::size_t>(Use::strings)],
             method_named(encrypt["StrF"].as_name()));
  const Object& attachments = encrypt["EFF"];
  LUMVET_TRY(
      methods_[static_cast<std::size_t>(Use::attachments)],
      method_named(attachments.is_name() ? attachments.as_name() : encrypt["StmF"].as_name()));
  return Done{};
}

void SecurityHandler::describe_ciphers() {
  const Method best = *std::max_element(methods_.begin(), methods_.end());
  encryption_.key_bits = static_cast<int>(key_bytes_ * 8);
  switch (best) {
    case Method::identity: encryption_.key_bits = 0; break;
    case Method::rc4: encryption_.cipher = "RC4"; break;
    case Method::aes:
    case Method::aes_256: encryption_.cipher = "AES"; break;
  }
  encryption_.attachments_only =
      opens_without_key() && method(Use::attachments) != Method::identity;
}

bool SecurityHandler::opens_without_key() const {
  return method(Use::streams) == Method::identity && method(Use::strings) == Method::identity;
}

// Of certificates the crypt filter of the streams may say it (table 27).
bool SecurityHandler::encrypts_metadata(const Dict& encrypt) {
  const Object& stated = encrypt["EncryptMetadata"];
  if (!stated.is_null() || !is_by_certificate(encrypt)) return stated.as_bool(true);
  const Object& filter = encrypt["CF"].as_dict()[encrypt["StmF"].as_name()];
  return filter.as_dict()["EncryptMetadata"].as_bool(true);
}

Result<Encryption> SecurityHandler::describe(const Dict& encrypt) {
  SecurityHandler handler;
  handler.encryption_.by_certificate = is_by_certificate(encrypt);
  if (!handler.encryption_.by_certificate) {
    if (!encrypt["Filter"].is_name("Standard"))
      return unsupported("the document is protected by '" +
                         std::string(encrypt["Filter"].as_name()) +
                         "', a security handler of its own; only the program it was made for "
                         "can open it");
    handler.encryption_.revision = static_cast<int>(encrypt["R"].as_integer());
  }
  LUMVET_RETURN_IF_ERROR(handler.read_methods(encrypt));
  handler.encryption_.encrypts_metadata = encrypts_metadata(encrypt);
  handler.encryption_.permissions =
      Permissions::from_bits(permission_bits(encrypt), handler.encryption_.revision);
  handler.describe_ciphers();
  return handler.encryption_;
}

Result<std::shared_ptr<const SecurityHandler>> SecurityHandler::unlock(
    const Dict& encrypt, std::string_view document_id, const Credentials& credentials,
    Findings& findings) {
  auto handler = std::make_shared<SecurityHandler>();
  LUMVET_TRY(handler->encryption_, describe(encrypt));
  LUMVET_RETURN_IF_ERROR(handler->read_methods(encrypt));
  const Status found =
      handler->encryption_.by_certificate
          ? handler->find_key_by_certificate(encrypt, credentials)
          : handler->find_key_by_password(encrypt, document_id, credentials, findings);
  // Of a document whose attachments alone are encrypted, everything else can be read.
  const bool locked = !found.ok() && found.error().code() == ErrorCode::password;
  if (!found.ok() && !(locked && handler->opens_without_key())) return found.error();
  if (handler->encryption_.access == Access::owner) handler->encryption_.permissions = {};
  handler->dictionary_ = encrypt;
  return std::shared_ptr<const SecurityHandler>(std::move(handler));
}

Result<std::shared_ptr<const SecurityHandler>> SecurityHandler::lock(
    const NewProtection& protection, std::string_view document_id) {
  LUMVET_TRY(NewLock lock, make_lock(protection, document_id));
  auto handler = std::make_shared<SecurityHandler>();
  LUMVET_TRY(handler->encryption_, describe(lock.dictionary));
  LUMVET_RETURN_IF_ERROR(handler->read_methods(lock.dictionary));
  handler->encryption_.access = Access::owner;
  handler->key_ = std::move(lock.key);
  handler->dictionary_ = std::move(lock.dictionary);
  return std::shared_ptr<const SecurityHandler>(std::move(handler));
}

Status SecurityHandler::find_key_by_password(const Dict& encrypt, std::string_view document_id,
                                             const Credentials& credentials, Findings& findings) {
  const StandardParameters parameters = standard_parameters(encrypt, document_id, key_bytes_);
  if (parameters.revision < 2 || parameters.revision > 6)
    return unsupported("the document is encrypted by revision " +
                       std::to_string(parameters.revision) +
                       " of the standard security handler, which is unknown");
  std::vector<std::string> forms = password_forms(credentials.password, parameters.revision);
  // A password that is not needed does no harm.
  if (!credentials.password.empty()) forms.emplace_back();
  for (const std::string& form : forms) {
    LUMVET_TRY(std::optional<FileKey> found, standard_key(parameters, form));
    if (!found) continue;
    key_ = std::move(found->key);
    encryption_.access = found->access;
    LUMVET_TRY(const bool agree, permissions_agree(parameters, key_));
    if (!agree)
      findings.add({"the permissions of the document were changed after it was encrypted", {}, {}});
    return Done{};
  }
  if (document_id.empty() && parameters.revision < 5)
    return Error(ErrorCode::password,
                 "the document is encrypted, and the identifier that its key is made of is lost "
                 "with the end of the file; no password will open it");
  return Error(ErrorCode::password, credentials.password.empty()
                                        ? "the document is encrypted and needs a password"
                                        : "the password is wrong; try another one");
}

Status SecurityHandler::find_key_by_certificate(const Dict& encrypt,
                                                const Credentials& credentials) {
  if (!credentials.key)
    return Error(ErrorCode::password,
                 "the document is encrypted for certain certificates and needs one of their keys");
  Object recipients = encrypt["Recipients"];
  for (const auto& [name, filter] : encrypt["CF"].as_dict())
    if (recipients.is_null() || name == encrypt["StmF"].as_name())
      if (filter.as_dict().contains("Recipients")) recipients = filter.as_dict()["Recipients"];
  Array envelopes = recipients.as_array();
  if (recipients.is_string()) envelopes = {recipients};
  Result<Bytes> opened = Error(ErrorCode::malformed, "the encryption names no recipients");
  for (const Object& envelope : envelopes) {
    opened = credentials.key->open_envelope(as_bytes(envelope.as_string()));
    if (opened.ok()) break;
  }
  if (!opened.ok()) return std::move(opened).error();
  constexpr std::size_t kSeed = 20;  // bytes, then four of permissions
  if (opened->size() < kSeed)
    return Error(ErrorCode::malformed, "a recipient's envelope holds too little");
  // Algorithm of 7.6.5.3: the seed and every envelope, hashed.
  constexpr std::array<std::uint8_t, 4> kClear = {0xFF, 0xFF, 0xFF, 0xFF};
  crypto::Digest digest(key_bytes_ == kNewKeyBytes ? crypto::DigestKind::sha256
                                                   : crypto::DigestKind::sha1);
  digest.update(ByteView(*opened).first(kSeed));
  for (const Object& envelope : envelopes) digest.update(as_bytes(envelope.as_string()));
  if (!encryption_.encrypts_metadata) digest.update(kClear);
  key_ = digest.finish();
  key_.resize(key_bytes_);
  encryption_.access = Access::user;
  if (opened->size() >= kSeed + 4) {
    std::uint32_t bits = 0;
    for (std::size_t i = 4; i-- > 0;) bits = bits << 8 | (*opened)[kSeed + i];
    constexpr std::uint32_t kOwner = 2;  // bit 2 of table 24: everything, as an owner
    encryption_.permissions = Permissions::from_bits(bits, 3);
    if ((bits & kOwner) != 0) encryption_.access = Access::owner;
  }
  return Done{};
}

// Algorithm 1.
Bytes SecurityHandler::object_key(ObjectId id, Method method) const {
  if (method == Method::aes_256) return key_;
  const std::array<std::uint8_t, 5> numbers = {
      static_cast<std::uint8_t>(id.number), static_cast<std::uint8_t>(id.number >> 8),
      static_cast<std::uint8_t>(id.number >> 16), static_cast<std::uint8_t>(id.generation),
      static_cast<std::uint8_t>(id.generation >> 8)};
  constexpr std::string_view kSalt = "sAlT";
  Bytes key =
      crypto::digest(crypto::DigestKind::md5,
                     {key_, numbers, as_bytes(method == Method::aes ? kSalt : std::string_view())});
  key.resize(std::min(kMostOldKey, key_.size() + numbers.size()));
  return key;
}

Result<Object> SecurityHandler::decrypted(ObjectId id, const Object& object,
                                          bool is_attachment) const {
  if (const Stream* stream = object.as_stream())
    return decrypted_stream(id, *stream, is_attachment);
  if (method(Use::strings) == Method::identity) return object;
  return decrypted_value(object, object_key(id, method(Use::strings)));
}

Object SecurityHandler::decrypted_value(const Object& object, ByteView key) const {
  if (object.is_string()) {
    const ByteView bytes = as_bytes(object.as_string());
    if (method(Use::strings) != Method::rc4)
      return Object::string(as_text(aes_decrypted(key, bytes)));
    const Result<Bytes> plain = crypto::rc4(key, bytes);
    return plain.ok() ? Object::string(as_text(*plain)) : object;
  }
  if (object.is_array()) {
    Array items;
    items.reserve(object.as_array().size());
    for (const Object& item : object.as_array()) items.push_back(decrypted_value(item, key));
    return items;
  }
  if (object.is_dict()) {
    const Dict& dict = object.as_dict();
    // A signature signs the file as it is, so its own bytes cannot be encrypted (7.6.2).
    const bool is_signature = dict.contains("ByteRange");
    std::vector<Dict::Entry> entries;
    entries.reserve(dict.size());
    for (const auto& [name, value] : dict)
      entries.emplace_back(
          name, is_signature && name == "Contents" ? value : decrypted_value(value, key));
    return Dict(std::move(entries));
  }
  return object;
}

Result<SecurityHandler::Method> SecurityHandler::method_for(const Dict& stream) const {
  if (stream["Type"].is_name("XRef")) return Method::identity;
  if (const auto own = own_crypt_filter(stream)) return method_named(*own);
  if (stream["Type"].is_name("Metadata") && !encryption_.encrypts_metadata) return Method::identity;
  return method(has_look_of_attachment(stream) ? Use::attachments : Use::streams);
}

Result<Object> SecurityHandler::decrypted_stream(ObjectId id, const Stream& stream,
                                                 bool is_attachment) const {
  Stream plain = stream;
  if (method(Use::strings) != Method::identity && !stream.dict["Type"].is_name("XRef"))
    plain.dict =
        decrypted_value(Object(stream.dict), object_key(id, method(Use::strings))).as_dict();
  if (is_attachment && !plain.dict.contains("Type"))
    plain.dict.set("Type", Object::name("EmbeddedFile"));
  LUMVET_TRY(const Method method, method_for(plain.dict));
  drop_crypt_filter(plain.dict);
  if (method == Method::identity) return Object(std::move(plain));
  if (key_.empty())
    return Error(ErrorCode::password, "this attachment is encrypted and needs a password");
  Bytes key = object_key(id, method);
  if (method == Method::rc4) {
    plain.source = rc4_source(stream.source, stream.offset, stream.length, std::move(key));
  } else {
    LUMVET_TRY(plain.source,
               aes_source(stream.source, stream.offset, stream.length, std::move(key)));
    plain.length = plain.source->size() - plain.offset;
  }
  return Object(std::move(plain));
}

Object SecurityHandler::encrypted_strings(ObjectId id, const Object& object) const {
  const Method used = method(Use::strings);
  const bool is_apart = object.as_dict()["Type"].is_name("XRef");
  if (used == Method::identity || is_apart) return object;
  return encrypted_value(object, object_key(id, used));
}

Object SecurityHandler::encrypted_value(const Object& object, ByteView key) const {
  if (object.is_string()) {
    const ByteView bytes = as_bytes(object.as_string());
    const Result<Bytes> hidden =
        method(Use::strings) == Method::rc4 ? crypto::rc4(key, bytes) : aes_encrypted(key, bytes);
    // Never in clear: what cannot be encrypted is not written at all.
    return hidden.ok() ? Object::string(as_text(*hidden)) : Object();
  }
  if (object.is_array()) {
    Array items;
    items.reserve(object.as_array().size());
    for (const Object& item : object.as_array()) items.push_back(encrypted_value(item, key));
    return items;
  }
  if (!object.is_dict()) return object;
  const Dict& dict = object.as_dict();
  const bool is_signature = dict.contains("ByteRange");
  std::vector<Dict::Entry> entries;
  entries.reserve(dict.size());
  for (const auto& [name, value] : dict)
    entries.emplace_back(name,
                         is_signature && name == "Contents" ? value : encrypted_value(value, key));
  return Dict(std::move(entries));
}

Result<ByteSlice> SecurityHandler::encrypted_stream(ObjectId id, const Dict& dict,
                                                    ByteSlice bytes) const {
  LUMVET_TRY(const Method method, method_for(dict));
  if (method == Method::identity) return bytes;
  const Bytes key = object_key(id, method);
  LUMVET_TRY(Bytes hidden, method == Method::rc4 ? crypto::rc4(key, bytes.view())
                                                 : aes_encrypted(key, bytes.view()));
  return ByteSlice(std::move(hidden));
}

}  // namespace lumvet::security

// SPDX-License-Identifier: Apache-2.0
#include "security/new_lock.h"

#include <array>

#include "crypto/cipher.h"
#include "crypto/digest.h"
#include "crypto/envelope.h"
#include "crypto/random.h"
#include "objects/text_string.h"
#include "security/password.h"
#include "security/standard_key.h"

namespace lumvet::security {
namespace {

using Cipher = NewProtection::Cipher;

constexpr std::size_t kSalt = 8;
constexpr std::size_t kNewKey = 32;
constexpr std::size_t kOldKey = 16;
constexpr std::array<std::uint8_t, crypto::kAesBlock> kNoVector{};

// As the revision hashes it.
Result<std::string> written(const std::string& password, int revision) {
  const std::string form = password_forms(password, revision).front();
  constexpr std::size_t kOldest = 32;  // bytes that revisions up to 4 look at
  const bool is_foreign = objects::utf8_to_text(password).starts_with("\xFE\xFF");
  if (revision < 5 && (is_foreign || form.size() > kOldest))
    return Error(ErrorCode::invalid_argument,
                 "the password has letters or a length that older ciphers cannot use; choose "
                 "AES-256, or another password");
  return form;
}

Bytes joined(std::initializer_list<ByteView> parts) {
  Bytes all;
  for (const ByteView part : parts) all.insert(all.end(), part.begin(), part.end());
  return all;
}

Object string_of(ByteView bytes) { return Object::string(as_text(bytes)); }

// /CF with one filter, by which everything is encrypted, or attachments alone.
void set_filters(Dict& dict, const NewProtection& protection, const Dict& more) {
  Dict filter = more;
  filter.set("Type", Object::name("CryptFilter"));
  filter.set("CFM", Object::name(protection.cipher == Cipher::aes_256 ? "AESV3" : "AESV2"));
  filter.set("AuthEvent", Object::name(protection.attachments_only ? "EFOpen" : "DocOpen"));
  filter.set("Length",
             static_cast<std::int64_t>(protection.cipher == Cipher::aes_256 ? kNewKey : kOldKey));
  const char* name = protection.recipients.empty() ? "StdCF" : "DefaultCryptFilter";
  dict.set("CF", Dict{{name, Object(std::move(filter))}});
  for (const char* use : {"StmF", "StrF"})
    dict.set(use, Object::name(protection.attachments_only ? "Identity" : name));
  dict.set("EFF", Object::name(name));
  if (protection.metadata_in_clear) dict.set("EncryptMetadata", false);
}

// Revision 6: algorithms 8, 9 and 10.
Result<NewLock> make_newest(const NewProtection& protection, const std::string& owner,
                            std::uint32_t bits) {
  constexpr int kRevision = 6;
  NewLock lock;
  lock.key = crypto::random_bytes(kNewKey);
  LUMVET_TRY(const std::string user_form, written(protection.user_password, kRevision));
  LUMVET_TRY(const std::string owner_form, written(owner, kRevision));
  Bytes user_entry;
  const auto add = [&](const std::string& password, const char* entry,
                       const char* wrapped) -> Status {
    const Bytes validation = crypto::random_bytes(kSalt);
    const Bytes key_salt = crypto::random_bytes(kSalt);
    LUMVET_TRY(const Bytes hash, hardened_hash(kRevision, password, validation, user_entry));
    LUMVET_TRY(const Bytes wrapping, hardened_hash(kRevision, password, key_salt, user_entry));
    LUMVET_TRY(const Bytes key, crypto::aes_cbc_encrypt(wrapping, kNoVector, lock.key));
    const Bytes all = joined({hash, validation, key_salt});
    lock.dictionary.set(entry, string_of(all));
    lock.dictionary.set(wrapped, string_of(key));
    if (user_entry.empty()) user_entry = all;
    return Done{};
  };
  LUMVET_RETURN_IF_ERROR(add(user_form, "U", "UE"));
  LUMVET_RETURN_IF_ERROR(add(owner_form, "O", "OE"));
  Bytes perms;
  for (int shift = 0; shift < 32; shift += 8)
    perms.push_back(static_cast<std::uint8_t>(bits >> shift));
  const bool hides_metadata = !protection.metadata_in_clear;
  perms.insert(perms.end(), {0xFF, 0xFF, 0xFF, 0xFF,
                             static_cast<std::uint8_t>(hides_metadata ? 'T' : 'F'), 'a', 'd', 'b'});
  const Bytes filling = crypto::random_bytes(4);
  perms.insert(perms.end(), filling.begin(), filling.end());
  LUMVET_TRY(const Bytes sealed, crypto::aes_ecb_encrypt(lock.key, perms));
  lock.dictionary.set("Perms", string_of(sealed));
  lock.dictionary.set("V", 5);
  lock.dictionary.set("R", kRevision);
  lock.dictionary.set("Length", 256);
  set_filters(lock.dictionary, protection, {});
  return lock;
}

// Revisions 3 and 4.
Result<NewLock> make_older(const NewProtection& protection, const std::string& owner,
                           std::uint32_t bits, std::string_view document_id) {
  const int revision = protection.cipher == Cipher::aes_128 ? 4 : 3;
  LUMVET_TRY(const std::string user_form, written(protection.user_password, revision));
  LUMVET_TRY(const std::string owner_form, written(owner, revision));
  StandardParameters parameters{.revision = revision,
                                .key_bytes = kOldKey,
                                .bits = bits,
                                .document_id = std::string(document_id),
                                .encrypts_metadata = !protection.metadata_in_clear};
  NewLock lock;
  LUMVET_TRY(const OldEntries entries, old_entries(parameters, user_form, owner_form));
  lock.key = entries.key;
  lock.dictionary.set("O", string_of(entries.owner));
  lock.dictionary.set("U", string_of(entries.user));
  lock.dictionary.set("V", revision == 4 ? 4 : 2);
  lock.dictionary.set("R", revision);
  lock.dictionary.set("Length", 128);
  if (revision == 4) set_filters(lock.dictionary, protection, {});
  return lock;
}

// 7.6.5.3: a seed that only the recipients can read, in envelopes of theirs.
Result<NewLock> make_for_recipients(const NewProtection& protection, std::uint32_t bits) {
  constexpr std::size_t kSeed = 20;
  const Bytes seed = crypto::random_bytes(kSeed);
  Bytes secret = seed;
  for (int shift = 0; shift < 32; shift += 8)
    secret.push_back(static_cast<std::uint8_t>(bits >> shift));
  NewLock lock;
  Array envelopes;
  const bool is_newest = protection.cipher == Cipher::aes_256;
  crypto::Digest digest(is_newest ? crypto::DigestKind::sha256 : crypto::DigestKind::sha1);
  digest.update(seed);
  for (const Bytes& certificate : protection.recipients) {
    LUMVET_TRY(const Bytes envelope, crypto::seal_envelope(certificate, secret));
    digest.update(envelope);
    envelopes.push_back(string_of(envelope));
  }
  constexpr std::array<std::uint8_t, 4> kClear = {0xFF, 0xFF, 0xFF, 0xFF};
  if (protection.metadata_in_clear) digest.update(kClear);
  lock.key = digest.finish();
  lock.key.resize(is_newest ? kNewKey : kOldKey);
  lock.dictionary.set("V", is_newest ? 5 : 4);
  lock.dictionary.set("Length", is_newest ? 256 : 128);
  lock.dictionary.set("SubFilter", Object::name("adbe.pkcs7.s5"));
  Dict more{{"Recipients", Object(std::move(envelopes))}};
  if (protection.metadata_in_clear) more.set("EncryptMetadata", false);
  set_filters(lock.dictionary, protection, more);
  return lock;
}

}  // namespace

Result<NewLock> make_lock(const NewProtection& protection, std::string_view document_id) {
  const bool is_for_recipients = !protection.recipients.empty();
  if (is_for_recipients && protection.cipher == Cipher::rc4_128)
    return Error(ErrorCode::invalid_argument,
                 "for certificates documents are encrypted by AES; choose AES-256 or AES-128");
  if (protection.cipher == Cipher::rc4_128 &&
      (protection.attachments_only || protection.metadata_in_clear))
    return Error(ErrorCode::invalid_argument,
                 "RC4 encrypts everything; choose AES to leave something in clear");
  if (protection.attachments_only && protection.user_password.empty() && !is_for_recipients)
    return Error(ErrorCode::invalid_argument,
                 "attachments alone are protected only by a password to open them");
  if (!is_for_recipients && protection.user_password.empty() && protection.owner_password.empty() &&
      protection.permissions == Permissions{})
    return Error(ErrorCode::invalid_argument,
                 "there is no password and nothing is refused, which protects from nothing");
  const std::uint32_t bits = protection.permissions.to_bits();
  // Nobody knows this one.
  std::string owner = protection.owner_password;
  if (owner.empty())
    for (const std::uint8_t byte : crypto::random_bytes(kOldKey))
      owner += static_cast<char>('a' + byte % 26);
  Result<NewLock> lock = is_for_recipients ? make_for_recipients(protection, bits)
                         : protection.cipher == Cipher::aes_256
                             ? make_newest(protection, owner, bits)
                             : make_older(protection, owner, bits, document_id);
  if (!lock.ok()) return lock;
  lock->dictionary.set("Filter", Object::name(is_for_recipients ? "Adobe.PubSec" : "Standard"));
  if (!is_for_recipients)
    lock->dictionary.set("P", static_cast<std::int64_t>(static_cast<std::int32_t>(bits)));
  return lock;
}

}  // namespace lumvet::security

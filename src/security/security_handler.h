// SPDX-License-Identifier: Apache-2.0
// What stands between an encrypted file's bytes and its reader (ISO 32000-2, 7.6): which cipher
// each string and stream has, and the key, once a password or a certificate gave it.
//
// Threads: immutable, share freely.
#pragma once

#include <array>
#include <map>
#include <memory>
#include <optional>

#include "base/findings_list.h"
#include "lumvet/crypto/certificate_key.h"
#include "lumvet/objects/object.h"
#include "lumvet/security/encryption.h"
#include "lumvet/security/new_protection.h"

namespace lumvet::security {

struct Credentials {
  std::string password;  // UTF-8; the empty one opens what only restricts permissions
  std::optional<CertificateKey> key;
};

class SecurityHandler {
 public:
  // `encrypt` is the encryption dictionary, references followed; `document_id` the first of /ID.
  // Errors: password when the credentials do not fit; unsupported for handlers and ciphers of
  // others; malformed.
  static Result<std::shared_ptr<const SecurityHandler>> unlock(const Dict& encrypt,
                                                               std::string_view document_id,
                                                               const Credentials& credentials,
                                                               Findings& findings);
  // What can be said without a password. Errors: unsupported, malformed.
  static Result<Encryption> describe(const Dict& encrypt);

  // A new lock, for a document that is written. Errors: as make_lock's.
  static Result<std::shared_ptr<const SecurityHandler>> lock(const NewProtection& protection,
                                                             std::string_view document_id);

  const Encryption& encryption() const { return encryption_; }
  // For /Encrypt; itself never encrypted.
  const Dict& dictionary() const { return dictionary_; }

  // All strings and the stream inside an object as they were before encryption. Streams are
  // decrypted when they are read. A stream that is known to be an attachment is marked as one.
  // Errors: unsupported for an unknown crypt filter.
  Result<Object> decrypted(ObjectId id, const Object& object, bool is_attachment = false) const;
  // Whether attachments have another cipher than other streams (table 20, EFF).
  bool tells_attachments_apart() const { return method(Use::attachments) != method(Use::streams); }

  // An object that is no stream, or a stream's dictionary, with its strings encrypted.
  Object encrypted_strings(ObjectId id, const Object& object) const;
  // The bytes of a stream with that dictionary. Errors: unsupported.
  Result<ByteSlice> encrypted_stream(ObjectId id, const Dict& dict, ByteSlice bytes) const;

 private:
  static bool encrypts_metadata(const Dict& encrypt);
  enum class Method : std::uint8_t { identity, rc4, aes, aes_256 };
  enum class Use : std::uint8_t { streams, strings, attachments };

  Status read_methods(const Dict& encrypt);
  static Result<Method> method_of(const Dict& filter);
  Result<Method> method_named(std::string_view name) const;
  Result<Method> method_for(const Dict& stream) const;
  Method method(Use use) const { return methods_[static_cast<std::size_t>(use)]; }
  Status find_key_by_password(const Dict& encrypt, std::string_view document_id,
                              const Credentials& credentials, Findings& findings);
  Status find_key_by_certificate(const Dict& encrypt, const Credentials& credentials);
  bool opens_without_key() const;
  void describe_ciphers();

  Object decrypted_value(const Object& object, ByteView key) const;
  Object encrypted_value(const Object& object, ByteView key) const;
  Result<Object> decrypted_stream(ObjectId id, const Stream& stream, bool is_attachment) const;
  Bytes object_key(ObjectId id, Method method) const;

  std::map<std::string, Method, std::less<>> filters_;  // of /CF
  std::array<Method, 3> methods_{};                     // by Use
  std::size_t key_bytes_ = 5;
  Bytes key_;
  Dict dictionary_;
  Encryption encryption_;
};

}  // namespace lumvet::security

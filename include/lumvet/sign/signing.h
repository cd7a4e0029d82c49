// SPDX-License-Identifier: Apache-2.0
// Documents signed (ISO 32000-2, 12.8; ETSI EN 319 142-1), with a mark on a page or without.
//
//   const auto key = lumvet::SigningKey::from_pkcs12(bytes, "passphrase").value();
//   lumvet::SignRequest request{.name = "Ida Verlan", .reason = "Inspected"};
//   request.mark = lumvet::SignatureMark{.page = 0, .area = {360, 700, 180, 64}};
//   lumvet::sign(document, key, request, "report-signed.pdf").value();
//
// A signature is appended: every byte of the document stays as it is, and signatures that it has
// stay whole. What is signed is read once and in parts, however large it is. A key that is
// elsewhere signs in two steps, minutes apart if need be:
//
//   auto edited = lumvet::EditableDocument::of(document);
//   const auto waiting = lumvet::PendingSignature::of(edited, {.chain = key.chain()},
//   request).value(); const auto signature = key.sign(waiting.to_sign(), waiting.scheme(),
//   request.digest).value(); waiting.finish(signature, "report-signed-2.pdf").value();
//
// Errors of all: password when the document's owner lets nobody sign it; unsupported, with the
// reason, when a certificate allows no further signature, or the file has to be saved whole before
// (lumvet::repair); invalid_argument for fields that are signed already or are none, and for areas
// off the page; io, need_more_data, limit; as what makes timestamps.
//
// Threads: free functions; PendingSignature is immutable. Since: 0.3
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "lumvet/document/form.h"
#include "lumvet/draw/drawing.h"
#include "lumvet/edit/editable_document.h"
#include "lumvet/sign/signing_key.h"

namespace lumvet {

// What is seen of a signature: a picture, what was asked for as text beside it, or both; or a
// drawing of one's own.
struct SignatureMark {
  int page = 0;          // from 0
  PageArea area = {};    // points from the page's top left corner, as it is shown
  bool has_text = true;  // who, when, why and where
  std::optional<Picture> picture = {};
  std::optional<Drawing> drawing = {};  // in place of both
};

// What the first signature of a document may allow to be changed later (12.8.2.2).
enum class Certification { none, no_changes, fill_in, annotate };

enum class SignatureForm {
  pades,  // ETSI.CAdES.detached, for baseline levels of EN 319 142-1
  pkcs7,  // adbe.pkcs7.detached, for older programs
};

// Answers a timestamp request (RFC 3161) with the response as it came. Errors: io, with what is to
// be done.
using TimestampSource = std::function<Result<Bytes>(ByteView request)>;

struct SignRequest {
  // Of an empty signature field, or of a new one; without it a new one with a free name.
  std::string field = {};
  // Of a new field; an empty one shows it in its own place. Invisible without.
  std::optional<SignatureMark> mark = {};
  std::string name = {};                  // UTF-8; without it the certificate's
  std::string reason = {};                // UTF-8
  std::string place = {};                 // UTF-8
  std::string contact = {};               // UTF-8
  std::optional<std::int64_t> time = {};  // seconds since 1970; without it that of now
  SignatureForm form = SignatureForm::pades;
  SignatureDigest digest = SignatureDigest::sha256;  // of Ed25519 sha512 in any case
  Certification certification = Certification::none;
  std::optional<FieldLock> lock = {};  // of fields that nobody may change afterwards
  // Proves that the signature was there at a time (level B-T).
  TimestampSource timestamps = {};
};

// Who will sign, where the key is elsewhere.
struct Signer {
  std::vector<Certificate> chain = {};         // the signer's first
  std::optional<SignatureScheme> scheme = {};  // without it as the key has it
};

struct SignReport {
  std::filesystem::path path = {};
  std::string field = {};
  std::uint64_t bytes = 0;             // of the file
  std::vector<Finding> findings = {};  // a certificate that has expired, or is for other purposes
};

class LUMVET_EXPORT PendingSignature {
 public:
  // The document with its changes, and all of the signature but what the key makes.
  static Result<PendingSignature> of(const EditableDocument& document, const Signer& signer,
                                     const SignRequest& request);

  // What the key signs, in DER: the attributes of the signature, with the document's digest among
  // them.
  ByteView to_sign() const;
  // The digest of that, where a service wants no more; Ed25519 wants all of it.
  Bytes digest() const;
  SignatureScheme scheme() const;
  const std::string& field() const;

  // Errors besides: invalid_argument for a signature that the signer's certificate does not
  // confirm, and where there is no room for it.
  Result<SignReport> finish(ByteView signature, const std::filesystem::path& path,
                            const SaveOptions& options = {}) const;
  Result<SignReport> finish(ByteView signature, ByteSink& sink) const;

 private:
  friend struct Inside<PendingSignature>;
  struct Impl;
  explicit PendingSignature(std::shared_ptr<const Impl> impl) : impl_(std::move(impl)) {}
  std::shared_ptr<const Impl> impl_;
};

// The document with its changes; `replace` and the times of `options` count.
LUMVET_EXPORT Result<SignReport> sign(const EditableDocument& document, const SigningKey& key,
                                      const SignRequest& request, const std::filesystem::path& path,
                                      const SaveOptions& options = {});
LUMVET_EXPORT Result<SignReport> sign(const EditableDocument& document, const SigningKey& key,
                                      const SignRequest& request, ByteSink& sink);
LUMVET_EXPORT Result<SignReport> sign(const Document& document, const SigningKey& key,
                                      const SignRequest& request, const std::filesystem::path& path,
                                      const SaveOptions& options = {});

}  // namespace lumvet

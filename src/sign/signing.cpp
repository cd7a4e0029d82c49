// SPDX-License-Identifier: Apache-2.0
#include "lumvet/sign/signing.h"

#include <algorithm>
#include <array>

#include "crypto/digest.h"
#include "document/text_entries.h"
#include "sign/appended_signature.h"
#include "sign/clock.h"
#include "sign/digest_names.h"
#include "sign/new_message.h"
#include "sign/placing.h"
#include "sign/seed_values.h"
#include "sign/signed_by.h"
#include "sign/timestamps.h"

namespace lumvet {
namespace {

using signing::AppendedSignature;
using signing::MessageParts;

constexpr std::size_t kSlack = 32;  // bytes, of the room for a signature
// What is so far from being a signature that whoever reads it is told.
std::vector<Finding> doubts_of(const Certificate& signer, std::int64_t time) {
  std::vector<Finding> doubts;
  const auto add = [&](std::string what) { doubts.push_back({std::move(what)}); };
  if (time > signer.valid_until())
    add("the certificate of " + signer.common_name() + " was valid until " +
        signing::day_of(signer.valid_until()));
  if (time < signer.valid_from())
    add("the certificate of " + signer.common_name() + " is not valid before " +
        signing::day_of(signer.valid_from()));
  if (!signer.may_sign())
    add("the certificate of " + signer.common_name() +
        " is for other purposes than signatures, as its key usage says");
  return doubts;
}

}  // namespace

struct PendingSignature::Impl {
  explicit Impl(AppendedSignature bytes) : file(std::move(bytes)) {}

  AppendedSignature file;
  int pages = 0;
  std::string field;
  MessageParts parts;
  Bytes attributes;
  TimestampSource timestamps;
  std::vector<Finding> findings;

  static Result<std::shared_ptr<const Impl>> prepared(const EditableDocument& document,
                                                      const Signer& signer,
                                                      const SignRequest& request,
                                                      std::size_t more_room);
  Result<Bytes> message(ByteView signature) const;
  Result<SignReport> save(ByteView message, const std::filesystem::path& path,
                          const SaveOptions& options) const;
  SignReport report() const { return {{}, field, file.size(), findings}; }
};

Result<std::shared_ptr<const PendingSignature::Impl>> PendingSignature::Impl::prepared(
    const EditableDocument& document, const Signer& signer, const SignRequest& given,
    std::size_t more_room) {
  if (signer.chain.empty())
    return Error(ErrorCode::invalid_argument, "there is no certificate of a signer");
  const Certificate& own = signer.chain.front();
  const std::int64_t time = given.time.value_or(signing::now_in_seconds());
  MessageParts parts;
  parts.chain = signer.chain;
  LUMVET_TRY(parts.scheme, signing::scheme_of(own));
  parts.scheme = signer.scheme.value_or(parts.scheme);
  SignRequest request = given;
  // The one digest that goes with it (RFC 8419, 3.1).
  if (parts.scheme == SignatureScheme::ed25519) request.digest = SignatureDigest::sha512;
  parts.digest = request.digest;
  if (request.form == SignatureForm::pkcs7) parts.signing_time = time;
  parts.document_digest = crypto::digest(signing::kind_of(request.digest), {});

  const std::size_t most = signing::most_signature_bytes(own);
  const std::size_t room =
      signing::message_of(parts, signing::signed_attributes(parts), Bytes(most)).size() + kSlack +
      more_room + (request.timestamps ? signing::kTimestampRoom : 0);
  const std::string name = request.name.empty() ? own.common_name() : request.name;
  Dict dict{{"Type", Object::name("Sig")},
            {"Filter", Object::name("Adobe.PPKLite")},
            {"SubFilter", Object::name(signing::sub_filter_of(request.form))},
            {"Name", document::text_object(name)},
            {"M", Object::string("D:" + signing::time_text(time, "%Y%m%d%H%M%SZ"))},
            {"ByteRange", AppendedSignature::byte_range()},
            {"Contents", AppendedSignature::contents(room)}};
  const std::array<std::pair<const char*, const std::string*>, 3> texts = {
      {{"Reason", &request.reason},
       {"Location", &request.place},
       {"ContactInfo", &request.contact}}};
  for (const auto& [key, text] : texts)
    if (!text->empty()) dict.set(key, document::text_object(*text));

  LUMVET_TRY(const Document now, document.now());
  EditableDocument copy = EditableDocument::of(now);
  LUMVET_TRY(
      const signing::Place place,
      signing::place_signature(
          copy, request, {std::move(dict), name, signing::time_text(time, "%Y-%m-%d %H:%M UTC")}));
  LUMVET_TRY(AppendedSignature file, AppendedSignature::of(copy, room));
  auto impl = std::make_shared<Impl>(std::move(file));
  impl->field = place.field;
  impl->pages = now.page_count();
  impl->timestamps = request.timestamps;
  impl->findings = doubts_of(own, time);
  LUMVET_TRY(parts.document_digest, impl->file.digest(parts.digest));
  impl->attributes = signing::signed_attributes(parts);
  impl->parts = std::move(parts);
  return std::shared_ptr<const Impl>(std::move(impl));
}

Result<Bytes> PendingSignature::Impl::message(ByteView signature) const {
  if (!signing::is_signed_by(parts.chain.front(), parts.scheme, parts.digest, attributes,
                             signature))
    return Error(ErrorCode::invalid_argument,
                 "the signature was not made with the key of the certificate of " +
                     parts.chain.front().common_name());
  Bytes timestamp;
  if (timestamps) {
    const Bytes digest = crypto::digest(signing::kind_of(parts.digest), {signature});
    LUMVET_TRY(timestamp, signing::timestamp_of(digest, parts.digest, timestamps));
  }
  return signing::message_of(parts, attributes, signature, timestamp);
}

Result<SignReport> PendingSignature::Impl::save(ByteView message, const std::filesystem::path& path,
                                                const SaveOptions& options) const {
  LUMVET_TRY(const SaveReport saved, file.save(message, pages, path, options));
  SignReport made = report();
  made.path = saved.path;
  return made;
}

Result<PendingSignature> PendingSignature::of(const EditableDocument& document,
                                              const Signer& signer, const SignRequest& request) {
  LUMVET_TRY(auto impl, Impl::prepared(document, signer, request, 0));
  return PendingSignature(std::move(impl));
}

ByteView PendingSignature::to_sign() const { return impl_->attributes; }

Bytes PendingSignature::digest() const {
  return crypto::digest(signing::kind_of(impl_->parts.digest), {impl_->attributes});
}

SignatureScheme PendingSignature::scheme() const { return impl_->parts.scheme; }

const std::string& PendingSignature::field() const { return impl_->field; }

Result<SignReport> PendingSignature::finish(ByteView signature, ByteSink& sink) const {
  LUMVET_TRY(const Bytes message, impl_->message(signature));
  LUMVET_RETURN_IF_ERROR(impl_->file.write(message, sink));
  return impl_->report();
}

Result<SignReport> PendingSignature::finish(ByteView signature, const std::filesystem::path& path,
                                            const SaveOptions& options) const {
  LUMVET_TRY(const Bytes message, impl_->message(signature));
  return impl_->save(message, path, options);
}

template <>
struct Inside<PendingSignature> {
  using Impl = PendingSignature::Impl;
};

namespace {

using Pending = Inside<PendingSignature>::Impl;

struct Signed {
  std::shared_ptr<const Pending> pending;
  Bytes message;
};

Result<Signed> signed_with(const EditableDocument& document, const SigningKey& key,
                           const SignRequest& request) {
  std::size_t more_room = 0;
  for (;;) {
    Signed made;
    LUMVET_TRY(made.pending,
               Pending::prepared(document, {key.chain(), key.scheme()}, request, more_room));
    const Pending& pending = *made.pending;
    LUMVET_TRY(const Bytes signature,
               key.sign(pending.attributes, pending.parts.scheme, pending.parts.digest));
    LUMVET_TRY(made.message, pending.message(signature));
    if (made.message.size() <= pending.file.room()) return made;
    // A timestamp that is larger than the room for it has it made anew.
    more_room += made.message.size() - pending.file.room();
  }
}

}  // namespace

Result<SignReport> sign(const EditableDocument& document, const SigningKey& key,
                        const SignRequest& request, const std::filesystem::path& path,
                        const SaveOptions& options) {
  LUMVET_TRY(const Signed made, signed_with(document, key, request));
  return made.pending->save(made.message, path, options);
}

Result<SignReport> sign(const EditableDocument& document, const SigningKey& key,
                        const SignRequest& request, ByteSink& sink) {
  LUMVET_TRY(const Signed made, signed_with(document, key, request));
  LUMVET_RETURN_IF_ERROR(made.pending->file.write(made.message, sink));
  return made.pending->report();
}

Result<SignReport> sign(const Document& document, const SigningKey& key, const SignRequest& request,
                        const std::filesystem::path& path, const SaveOptions& options) {
  return sign(EditableDocument::of(document), key, request, path, options);
}

}  // namespace lumvet

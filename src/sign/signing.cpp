// SPDX-License-Identifier: Apache-2.0
#include "lumvet/sign/signing.h"

#include <algorithm>
#include <array>
#include <chrono>
#include <ctime>

#include "base/attempt.h"
#include "crypto/digest.h"
#include "document/inside.h"
#include "document/text_entries.h"
#include "objects/serializer.h"
#include "save/full_writer.h"
#include "sign/certificate_inside.h"
#include "sign/digest_names.h"
#include "sign/new_message.h"
#include "sign/placing.h"
#include "sign/seed_values.h"
#include "sign/signed_by.h"
#include "sign/timestamps.h"

namespace lumvet {
namespace {

using signing::MessageParts;

constexpr std::uint64_t kPart = 1 << 20;           // bytes read at once
constexpr std::size_t kSlack = 32;                 // bytes, of the room for a signature
constexpr std::size_t kTimestampRoom = 12 * 1024;  // bytes; a larger one has the room made anew
constexpr std::int64_t kLargest = 9'999'999'999;   // what a place of a byte range may be
constexpr std::array<std::int64_t, 3> kPlaces = {kLargest, kLargest - 1, kLargest - 2};

std::int64_t now_in_seconds() {
  return std::chrono::duration_cast<std::chrono::seconds>(
             std::chrono::system_clock::now().time_since_epoch())
      .count();
}

std::string formatted(std::int64_t seconds, const char* format) {
  const auto time = static_cast<std::time_t>(seconds);
  std::tm parts{};
  gmtime_r(&time, &parts);
  std::array<char, 40> text{};
  return std::string(text.data(), std::strftime(text.data(), text.size(), format, &parts));
}

// What is so far from being a signature that whoever reads it is told.
std::vector<Finding> doubts_of(const Certificate& signer, std::int64_t time) {
  std::vector<Finding> doubts;
  const auto add = [&](std::string what) { doubts.push_back({std::move(what)}); };
  if (time > signer.valid_until())
    add("the certificate of " + signer.common_name() + " was valid until " +
        formatted(signer.valid_until(), "%Y-%m-%d"));
  if (time < signer.valid_from())
    add("the certificate of " + signer.common_name() + " is not valid before " +
        formatted(signer.valid_from(), "%Y-%m-%d"));
  if (!signer.may_sign())
    add("the certificate of " + signer.common_name() +
        " is for other purposes than signatures, as its key usage says");
  return doubts;
}

}  // namespace

struct PendingSignature::Impl {
  std::shared_ptr<const ByteSource> source;  // of the document as it was opened
  Bytes tail;                                // what is appended, with an empty gap
  std::size_t gap = 0;                       // its first hexadecimal digit, within the tail
  std::size_t room = 0;                      // bytes of a message
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
  Status find_gap(const std::string& placeholder);
  Status digest_document();
  std::uint64_t size() const { return source->size() + tail.size(); }
  // All but the gap, in order.
  template <typename Take>
  Status each_part(const Take& take) const;
  Result<Bytes> message(ByteView signature) const;
  Status write(ByteView message, ByteSink& sink) const;
  Result<SignReport> save(ByteView message, const std::filesystem::path& path,
                          const SaveOptions& options) const;
  SignReport report() const { return {{}, field, size(), findings}; }
};

Result<std::shared_ptr<const PendingSignature::Impl>> PendingSignature::Impl::prepared(
    const EditableDocument& document, const Signer& signer, const SignRequest& request,
    std::size_t more_room) {
  if (signer.chain.empty())
    return Error(ErrorCode::invalid_argument, "there is no certificate of a signer");
  auto impl = std::make_shared<Impl>();
  const Certificate& own = signer.chain.front();
  const std::int64_t time = request.time.value_or(now_in_seconds());
  impl->timestamps = request.timestamps;
  impl->findings = doubts_of(own, time);
  MessageParts& parts = impl->parts;
  parts.chain = signer.chain;
  parts.digest = request.digest;
  LUMVET_TRY(parts.scheme, signing::scheme_of(own));
  parts.scheme = signer.scheme.value_or(parts.scheme);
  if (request.form == SignatureForm::pkcs7) parts.signing_time = time;
  parts.document_digest = crypto::digest(signing::kind_of(request.digest), {});

  const std::size_t most = signing::most_signature_bytes(own);
  impl->room = signing::message_of(parts, signing::signed_attributes(parts), Bytes(most)).size() +
               kSlack + more_room + (request.timestamps ? kTimestampRoom : 0);
  // A beginning of its own, by which it is found again in what is appended.
  Bytes contents = crypto::digest(crypto::DigestKind::sha256, {as_bytes("room for a signature")});
  contents.resize(impl->room);
  Array range = {0};
  for (const std::int64_t place : kPlaces) range.push_back(place);
  const std::string name = request.name.empty() ? own.common_name() : request.name;
  Dict dict{{"Type", Object::name("Sig")},
            {"Filter", Object::name("Adobe.PPKLite")},
            {"SubFilter", Object::name(signing::sub_filter_of(request.form))},
            {"Name", document::text_object(name)},
            {"M", Object::string("D:" + formatted(time, "%Y%m%d%H%M%SZ"))},
            {"ByteRange", range},
            {"Contents", Object::string(as_text(contents))}};
  const std::array<std::pair<const char*, const std::string*>, 3> texts = {
      {{"Reason", &request.reason},
       {"Location", &request.place},
       {"ContactInfo", &request.contact}}};
  for (const auto& [key, text] : texts)
    if (!text->empty()) dict.set(key, document::text_object(*text));

  LUMVET_TRY(const Document now, document.now());
  EditableDocument copy = EditableDocument::of(now);
  LUMVET_TRY(const signing::Place place,
             signing::place_signature(
                 copy, request, {std::move(dict), name, formatted(time, "%Y-%m-%d %H:%M UTC")}));
  impl->field = place.field;
  impl->pages = now.page_count();
  impl->source = store_of(now).with(nullptr)->source();
  LUMVET_TRY(impl->tail, copy.appended());
  std::string placeholder;
  objects::serialize(Object::string(as_text(contents)), placeholder);
  LUMVET_RETURN_IF_ERROR(impl->find_gap(placeholder));
  LUMVET_RETURN_IF_ERROR(impl->digest_document());
  impl->attributes = signing::signed_attributes(parts);
  return std::shared_ptr<const Impl>(std::move(impl));
}

// Where the gap lies, and the byte range around it.
Status PendingSignature::Impl::find_gap(const std::string& placeholder) {
  const std::string_view text = as_text(tail);
  std::string range = "[0";
  for (const std::int64_t place : kPlaces) range += ' ' + std::to_string(place);
  range += ']';
  const std::size_t contents = text.find(placeholder);
  const std::size_t places = text.find(range);
  if (contents == std::string_view::npos || places == std::string_view::npos)
    return Error(ErrorCode::unsupported, "the signature cannot be written into this file");
  const std::uint64_t begin = source->size() + contents;
  const std::uint64_t end = begin + placeholder.size();
  if (size() > static_cast<std::uint64_t>(kLargest))
    return Error(ErrorCode::limit, "the file is too large to be signed");
  std::string filled = "[0 " + std::to_string(begin) + ' ' + std::to_string(end) + ' ' +
                       std::to_string(size() - end) + ']';
  filled.resize(range.size(), ' ');
  std::copy(filled.begin(), filled.end(), tail.begin() + static_cast<std::ptrdiff_t>(places));
  gap = contents + 1;
  std::fill_n(tail.begin() + static_cast<std::ptrdiff_t>(gap), room * 2, '0');
  return Done{};
}

template <typename Take>
Status PendingSignature::Impl::each_part(const Take& take) const {
  for (std::uint64_t at = 0; at < source->size(); at += kPart) {
    LUMVET_TRY(const ByteSlice part, source->slice(at, kPart));
    LUMVET_RETURN_IF_ERROR(take(part.view()));
  }
  LUMVET_RETURN_IF_ERROR(take(ByteView(tail).first(gap - 1)));
  return take(ByteView(tail).subspan(gap + room * 2 + 1));
}

Status PendingSignature::Impl::digest_document() {
  crypto::Digest digest(signing::kind_of(parts.digest));
  LUMVET_RETURN_IF_ERROR(each_part([&](ByteView part) -> Status {
    digest.update(part);
    return Done{};
  }));
  parts.document_digest = digest.finish();
  return Done{};
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

Status PendingSignature::Impl::write(ByteView message, ByteSink& sink) const {
  if (message.size() > room)
    return Error(ErrorCode::invalid_argument,
                 "the signature takes " + std::to_string(message.size()) +
                     " bytes, and there is room for " + std::to_string(room));
  std::string digits = '<' + signing::hex_of(message);
  digits.resize(1 + room * 2, '0');
  digits += '>';
  bool is_behind = false;
  LUMVET_RETURN_IF_ERROR(each_part([&](ByteView part) -> Status {
    // The part behind the gap is the last one, and begins where the tail goes on.
    if (part.data() == tail.data() + gap + room * 2 + 1) {
      is_behind = true;
      LUMVET_RETURN_IF_ERROR(sink.write(as_bytes(digits)));
    }
    return sink.write(part);
  }));
  return is_behind ? Status(Done{})
                   : Status(Error(ErrorCode::io, "the signature's place was not reached"));
}

Result<SignReport> PendingSignature::Impl::save(ByteView message, const std::filesystem::path& path,
                                                const SaveOptions& options) const {
  LUMVET_TRY(const SaveReport saved,
             saving::save_to_file(path, options, [&](ByteSink& sink) -> Result<SaveReport> {
               LUMVET_RETURN_IF_ERROR(write(message, sink));
               return SaveReport{.pages = pages, .bytes = size()};
             }));
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
  LUMVET_RETURN_IF_ERROR(impl_->write(message, sink));
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
               key.sign(pending.attributes, pending.parts.scheme, request.digest));
    LUMVET_TRY(made.message, pending.message(signature));
    if (made.message.size() <= pending.room) return made;
    // A timestamp that is larger than the room for it has it made anew.
    more_room += made.message.size() - pending.room;
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
  LUMVET_RETURN_IF_ERROR(made.pending->write(made.message, sink));
  return made.pending->report();
}

Result<SignReport> sign(const Document& document, const SigningKey& key, const SignRequest& request,
                        const std::filesystem::path& path, const SaveOptions& options) {
  return sign(EditableDocument::of(document), key, request, path, options);
}

}  // namespace lumvet

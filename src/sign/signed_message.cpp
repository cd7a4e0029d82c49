// SPDX-License-Identifier: Apache-2.0
#include "sign/signed_message.h"

#include <algorithm>

#include "crypto/library.h"
#include "sign/certificate_inside.h"
#include "sign/der.h"
#include "sign/digest_names.h"
#include "sign/signed_by.h"

namespace lumvet::signing {
namespace {

using crypto::ErrorScope;

Error damaged(const std::string& why) {
  return Error(ErrorCode::malformed, "the signature is damaged: " + why);
}

Own<ASN1_OBJECT> object_id(const char* dotted) { return Own<ASN1_OBJECT>(OBJ_txt2obj(dotted, 1)); }

// The single value of an attribute that is there once.
const ASN1_TYPE* single_value(CMS_SignerInfo* info, const char* dotted, bool is_signed) {
  const Own<ASN1_OBJECT> id = object_id(dotted);
  const int at = is_signed ? CMS_signed_get_attr_by_OBJ(info, id.get(), -1)
                           : CMS_unsigned_get_attr_by_OBJ(info, id.get(), -1);
  if (at < 0) return nullptr;
  X509_ATTRIBUTE* attribute =
      is_signed ? CMS_signed_get_attr(info, at) : CMS_unsigned_get_attr(info, at);
  return X509_ATTRIBUTE_count(attribute) == 1 ? X509_ATTRIBUTE_get0_type(attribute, 0) : nullptr;
}

bool has_attribute(CMS_SignerInfo* info, const char* dotted) {
  const Own<ASN1_OBJECT> id = object_id(dotted);
  return CMS_signed_get_attr_by_OBJ(info, id.get(), -1) >= 0;
}

ByteView bytes_of(const ASN1_STRING* string) {
  return {ASN1_STRING_get0_data(string), static_cast<std::size_t>(ASN1_STRING_length(string))};
}

ByteView sequence_in(const ASN1_TYPE* value) {
  return value != nullptr && value->type == V_ASN1_SEQUENCE ? bytes_of(value->value.sequence)
                                                            : ByteView();
}

// Parts of a message that nobody signs (RFC 5652, 5.1 and 5.3): they follow from the signer, and
// say nothing else.
struct Preamble {
  int version = 0;
  int signer_version = 0;
  bool has_others = false;   // what is no certificate: lists, answers of responders
  ByteView digests = {};     // what the set of them holds
  ByteView attributes = {};  // what is signed of the signer
};
std::optional<Preamble> preamble_of(ByteView message) {
  const auto content = der::take(message);
  if (!content) return std::nullopt;
  ByteView rest = content->content;
  der::take(rest);  // what kind of message it is
  const auto tagged = der::take(rest);
  if (!tagged) return std::nullopt;
  ByteView inner = tagged->content;
  const auto data = der::take(inner);
  if (!data) return std::nullopt;
  ByteView parts = data->content;
  const auto version = der::take(parts);
  const auto list = der::take(parts);
  if (!version || version->content.size() != 1 || !list || list->tag != der::kSet)
    return std::nullopt;
  auto signers = der::take(parts);
  bool has_others = false;
  for (; signers && signers->tag != der::kSet; signers = der::take(parts))
    has_others = has_others || signers->tag == der::context(1);
  if (!signers) return std::nullopt;
  ByteView infos = signers->content;
  const auto info = der::take(infos);
  if (!info) return std::nullopt;
  ByteView of_signer = info->content;
  const auto signer_version = der::take(of_signer);
  if (!signer_version || signer_version->content.size() != 1) return std::nullopt;
  der::take(of_signer);  // its name
  der::take(of_signer);  // its digest
  const auto attributes = der::take(of_signer);
  return Preamble{
      version->content[0], signer_version->content[0], has_others, list->content,
      attributes && attributes->tag == der::context(0) ? attributes->content : ByteView()};
}

// In the order that DER has, which is what a key signs (RFC 5652, 5.4).
Bytes set_of_parts(ByteView content) {
  std::vector<Bytes> parts;
  while (!content.empty()) {
    const ByteView before = content;
    if (!der::take(content)) break;
    const ByteView part = before.first(before.size() - content.size());
    parts.emplace_back(part.begin(), part.end());
  }
  return der::set_of(std::move(parts));
}

// The signer's digest alone.
bool lists_digest(ByteView algorithms, const X509_ALGOR* digest) {
  const auto only = der::take(algorithms);
  if (!only || !algorithms.empty()) return false;
  const ASN1_OBJECT* due = nullptr;
  X509_ALGOR_get0(&due, nullptr, nullptr, digest);
  const Bytes id = der_of(due, i2d_ASN1_OBJECT);
  // What follows the identifier are parameters, which digests have none of, or null.
  const ByteView stated = only->content;
  return as_text(stated).starts_with(as_text(id)) &&
         (stated.size() == id.size() || as_text(stated.subspan(id.size())) == as_text(der::null()));
}

// 1 where the signer is named by its issuer and number, 3 where by its key; messages that bring
// more along than certificates may have 5.
bool is_due_version(int version, bool is_named_by_key, bool has_others) {
  return version == (is_named_by_key ? 3 : 1) || (has_others && version == 5);
}

// Whether it is named by its issuer and number as they stand in it, to the byte, or by its key.
bool is_named_exactly(CMS_SignerInfo* info, const Certificate& signer) {
  ASN1_OCTET_STRING* key = nullptr;
  X509_NAME* issuer = nullptr;
  CMS_SignerInfo_get0_signer_id(info, &key, &issuer, nullptr);
  return issuer == nullptr || der_of(issuer, i2d_X509_NAME) ==
                                  der_of(X509_get_issuer_name(x509_of(signer)), i2d_X509_NAME);
}

constexpr const char* kContentType = "1.2.840.113549.1.9.3";
constexpr const char* kMessageDigest = "1.2.840.113549.1.9.4";
constexpr const char* kSigningTime = "1.2.840.113549.1.9.5";
constexpr const char* kSigningCertificate = "1.2.840.113549.1.9.16.2.12";
constexpr const char* kSigningCertificate2 = "1.2.840.113549.1.9.16.2.47";
constexpr const char* kAlgorithmProtection = "1.2.840.113549.1.9.52";
constexpr const char* kTimestamp = "1.2.840.113549.1.9.16.2.14";

}  // namespace

Result<Bytes> message_in(ByteView gap) {
  ByteView rest = gap;
  auto message = der::from_ber(rest);
  if (!message) return damaged("it is no message, or is cut off");
  if (!der::is_strict(*message)) return damaged("its parts are tagged as those of no message");
  if (std::any_of(rest.begin(), rest.end(), [](std::uint8_t byte) { return byte != 0; }))
    return damaged("something else than zeros fills the room behind it");
  return *std::move(message);
}

Result<SignedMessage> SignedMessage::read(ByteView gap, Content place) {
  const ErrorScope scope;
  LUMVET_TRY(const Bytes bytes, message_in(gap));
  SignedMessage read;
  CMS_ContentInfo* allocated = CMS_ContentInfo_new_ex(crypto::library(), nullptr);
  const unsigned char* at = bytes.data();
  if (d2i_CMS_ContentInfo(&allocated, &at, static_cast<long>(bytes.size())) == nullptr)
    return damaged("it is no message of RFC 5652");
  read.message_.reset(allocated);
  if (at != bytes.data() + bytes.size()) return damaged("its message ends early");
  if (OBJ_obj2nid(CMS_get0_type(read.message_.get())) != NID_pkcs7_signed)
    return damaged("its message is not of the kind of signatures");
  if (OBJ_obj2nid(CMS_get0_eContentType(read.message_.get())) != NID_pkcs7_data)
    return damaged("it is of something else than data");
  ASN1_OCTET_STRING** content = CMS_get0_content(read.message_.get());
  const bool is_inside = content != nullptr && *content != nullptr;
  if (is_inside != (place == Content::inside))
    return damaged(is_inside ? "it carries what it signs, instead of signing the document"
                             : "it does not carry what it signs, as its form says");
  STACK_OF(CMS_SignerInfo)* signers = CMS_get0_SignerInfos(read.message_.get());
  if (sk_CMS_SignerInfo_num(signers) != 1)
    return damaged("it has " + std::to_string(std::max(0, sk_CMS_SignerInfo_num(signers))) +
                   " signers, where one is due");
  read.info_ = sk_CMS_SignerInfo_value(signers, 0);

  STACK_OF(X509)* all = CMS_get1_certs(read.message_.get());
  for (int i = 0; i < sk_X509_num(all); ++i) {
    read.certificates_.push_back(certificate_of(sk_X509_value(all, i)));
    if (!read.signer_ && CMS_SignerInfo_cert_cmp(read.info_, sk_X509_value(all, i)) == 0 &&
        is_named_exactly(read.info_, read.certificates_.back()))
      read.signer_ = read.certificates_.back();
  }
  sk_X509_pop_free(all, X509_free);
  if (read.signer_) CMS_SignerInfo_set1_signer_cert(read.info_, x509_of(*read.signer_));

  X509_ALGOR* digest = nullptr;
  CMS_SignerInfo_get0_algs(read.info_, nullptr, nullptr, &digest, nullptr);
  const ASN1_OBJECT* id = nullptr;
  X509_ALGOR_get0(&id, nullptr, nullptr, digest);
  const auto preamble = preamble_of(bytes);
  ASN1_OCTET_STRING* key = nullptr;
  CMS_SignerInfo_get0_signer_id(read.info_, &key, nullptr, nullptr);
  if (!preamble || !lists_digest(preamble->digests, digest) ||
      !is_due_version(preamble->version, key != nullptr, preamble->has_others) ||
      !is_due_version(preamble->signer_version, key != nullptr, false))
    return damaged("what stands beside the signer does not fit the signer");
  read.attributes_ = set_of_parts(preamble->attributes);
  const char* name = OBJ_nid2sn(OBJ_obj2nid(id));
  read.digest_name_ = name == nullptr ? "" : name;
  if (EVP_get_digestbyname(read.digest_name_.c_str()) == nullptr)
    return Error(ErrorCode::unsupported, "the signature's digest is not known");
  return read;
}

std::optional<std::int64_t> SignedMessage::signing_time() const {
  const ASN1_TYPE* value = single_value(info_, kSigningTime, true);
  if (value == nullptr) return std::nullopt;
  const bool is_time = value->type == V_ASN1_UTCTIME || value->type == V_ASN1_GENERALIZEDTIME;
  return is_time ? seconds_of(value->value.asn1_string) : std::nullopt;
}

Bytes SignedMessage::timestamp() const {
  const ByteView token = sequence_in(single_value(info_, kTimestamp, false));
  return Bytes(token.begin(), token.end());
}

Bytes SignedMessage::signature() const {
  const ByteView bytes = bytes_of(CMS_SignerInfo_get0_signature(info_));
  return Bytes(bytes.begin(), bytes.end());
}

Bytes SignedMessage::content() const {
  ASN1_OCTET_STRING** content = CMS_get0_content(message_.get());
  if (content == nullptr || *content == nullptr) return {};
  const ByteView bytes = bytes_of(*content);
  return Bytes(bytes.begin(), bytes.end());
}

// The first certificate that the attribute names has to be the signer's (RFC 5035, 5.2; RFC 2634,
// 5.4): of a list of identifiers each begins with its digest, and the newer ones with the digest's
// kind in front where that is not SHA-256.
bool SignedMessage::names_signer(bool needs_certificate) const {
  const bool is_newer = has_attribute(info_, kSigningCertificate2);
  if (!is_newer && !has_attribute(info_, kSigningCertificate)) return !needs_certificate;
  ByteView attribute =
      sequence_in(single_value(info_, is_newer ? kSigningCertificate2 : kSigningCertificate, true));
  const auto outer = der::take(attribute);
  if (!outer) return false;
  ByteView inner = outer->content;
  const auto list = der::take(inner);
  if (!list) return false;
  ByteView first = list->content;
  const auto identifier = der::take(first);
  if (!identifier) return false;
  ByteView parts = identifier->content;
  auto digest = der::take(parts);
  std::string kind = is_newer ? "SHA256" : "SHA1";
  if (digest && digest->tag == der::kSequence) {
    ByteView algorithm = digest->content;
    const unsigned char* at = algorithm.data();
    const Own<ASN1_OBJECT> id(d2i_ASN1_OBJECT(nullptr, &at, static_cast<long>(algorithm.size())));
    const char* name = id == nullptr ? nullptr : OBJ_nid2sn(OBJ_obj2nid(id.get()));
    kind = name == nullptr ? "" : name;
    digest = der::take(parts);
  }
  if (!digest || digest->tag != der::kOctets) return false;
  const Bytes due = digest_by_name(kind, signer_->der());
  return !due.empty() &&
         std::equal(due.begin(), due.end(), digest->content.begin(), digest->content.end());
}

// RFC 6211: the algorithms of the message are those that were signed.
bool SignedMessage::protects_algorithms() const {
  if (!has_attribute(info_, kAlgorithmProtection)) return true;
  const ByteView stated = sequence_in(single_value(info_, kAlgorithmProtection, true));
  X509_ALGOR* digest = nullptr;
  X509_ALGOR* signature = nullptr;
  CMS_SignerInfo_get0_algs(info_, nullptr, nullptr, &digest, &signature);
  Bytes tagged = der_of(signature, i2d_X509_ALGOR);
  if (tagged.empty()) return false;
  tagged.front() = der::context(1);
  const Bytes due = der::sequence({der_of(digest, i2d_X509_ALGOR), tagged});
  return std::equal(due.begin(), due.end(), stated.begin(), stated.end());
}

// OpenSSL 3.0 knows no messages with Ed25519 (RFC 8419).
bool SignedMessage::is_signed_by_its_key() const {
  if (EVP_PKEY_is_a(X509_get0_pubkey(x509_of(*signer_)), "ED25519") != 1)
    return CMS_SignerInfo_verify(info_) == 1;
  X509_ALGOR* algorithm = nullptr;
  CMS_SignerInfo_get0_algs(info_, nullptr, nullptr, nullptr, &algorithm);
  const ASN1_OBJECT* id = nullptr;
  X509_ALGOR_get0(&id, nullptr, nullptr, algorithm);
  return OBJ_obj2nid(id) == NID_ED25519 && digest_name_ == "SHA512" &&
         is_signed_by(*signer_, SignatureScheme::ed25519, SignatureDigest::sha512, attributes_,
                      signature());
}

SignedMessage::State SignedMessage::check(ByteView due, bool needs_certificate) const {
  const ErrorScope scope;
  if (!signer_) return State::without_signer;
  if (CMS_signed_get_attr_count(info_) < 0) {
    // Without attributes the key signs the digest itself.
    EVP_PKEY* key = X509_get0_pubkey(x509_of(*signer_));
    const Own<EVP_PKEY_CTX> context(EVP_PKEY_CTX_new_from_pkey(crypto::library(), key, nullptr));
    const Bytes bytes = signature();
    const bool holds =
        !needs_certificate && EVP_PKEY_verify_init(context.get()) == 1 &&
        EVP_PKEY_CTX_set_signature_md(context.get(), EVP_get_digestbyname(digest_name_.c_str())) ==
            1 &&
        EVP_PKEY_verify(context.get(), bytes.data(), bytes.size(), due.data(), due.size()) == 1;
    return holds ? State::holds : State::other_document;
  }
  const ASN1_TYPE* type = single_value(info_, kContentType, true);
  const ASN1_TYPE* stated = single_value(info_, kMessageDigest, true);
  const bool has_both = type != nullptr && type->type == V_ASN1_OBJECT && stated != nullptr &&
                        stated->type == V_ASN1_OCTET_STRING &&
                        OBJ_obj2nid(type->value.object) == NID_pkcs7_data;
  if (!has_both) return State::forged;
  if (!is_signed_by_its_key()) return State::forged;
  if (!protects_algorithms()) return State::other_algorithm;
  if (!names_signer(needs_certificate)) return State::other_signer;
  const ByteView digest = bytes_of(stated->value.octet_string);
  return std::equal(digest.begin(), digest.end(), due.begin(), due.end()) ? State::holds
                                                                          : State::other_document;
}

}  // namespace lumvet::signing

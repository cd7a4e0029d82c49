// SPDX-License-Identifier: Apache-2.0
#include "sign/timestamps.h"

#include <algorithm>
#include <array>

#include "crypto/library.h"
#include "crypto/random.h"
#include "sign/certificate_inside.h"
#include "sign/digest_names.h"
#include "sign/openssl_sign.h"

namespace lumvet::signing {
namespace {

constexpr std::size_t kNonceBytes = 8;

Error refused(const std::string& why) {
  return Error(ErrorCode::malformed, "the timestamp authority " + why);
}

std::string name_of(const X509_ALGOR* algorithm) {
  const ASN1_OBJECT* id = nullptr;
  X509_ALGOR_get0(&id, nullptr, nullptr, algorithm);
  const char* name = OBJ_nid2sn(OBJ_obj2nid(id));
  return name == nullptr ? "" : name;
}

}  // namespace

Result<Bytes> timestamp_of(ByteView digest, SignatureDigest kind, const TimestampSource& source) {
  const crypto::ErrorScope scope;
  const Own<TS_REQ> request(TS_REQ_new());
  TS_REQ_set_version(request.get(), 1);
  TS_MSG_IMPRINT* imprint = TS_MSG_IMPRINT_new();
  X509_ALGOR* algorithm = X509_ALGOR_new();
  X509_ALGOR_set0(algorithm, OBJ_txt2obj(openssl_name_of(kind), 0), V_ASN1_NULL, nullptr);
  TS_MSG_IMPRINT_set_algo(imprint, algorithm);
  TS_MSG_IMPRINT_set_msg(imprint, const_cast<unsigned char*>(digest.data()),
                         static_cast<int>(digest.size()));
  TS_REQ_set_msg_imprint(request.get(), imprint);
  TS_MSG_IMPRINT_free(imprint);
  X509_ALGOR_free(algorithm);
  const Bytes random = crypto::random_bytes(kNonceBytes);
  const Own<BIGNUM> number(BN_bin2bn(random.data(), static_cast<int>(random.size()), nullptr));
  const Own<ASN1_INTEGER> nonce(BN_to_ASN1_INTEGER(number.get(), nullptr));
  TS_REQ_set_nonce(request.get(), nonce.get());
  TS_REQ_set_cert_req(request.get(), 1);
  LUMVET_TRY(const Bytes answer, source(der_of(request.get(), i2d_TS_REQ)));

  const unsigned char* at = answer.data();
  const Own<TS_RESP> response(d2i_TS_RESP(nullptr, &at, static_cast<long>(answer.size())));
  if (response == nullptr) return refused("answers with something else than a timestamp");
  const long state =
      ASN1_INTEGER_get(TS_STATUS_INFO_get0_status(TS_RESP_get_status_info(response.get())));
  constexpr long kGrantedWithChanges = 1;
  if (state < 0 || state > kGrantedWithChanges)
    return refused("refuses (state " + std::to_string(state) + " of RFC 3161)");
  TS_TST_INFO* info = TS_RESP_get_tst_info(response.get());
  PKCS7* token = TS_RESP_get_token(response.get());
  if (info == nullptr || token == nullptr) return refused("answers without a timestamp");
  const ASN1_OCTET_STRING* stamped = TS_MSG_IMPRINT_get_msg(TS_TST_INFO_get_msg_imprint(info));
  const ByteView digest_there(ASN1_STRING_get0_data(stamped),
                              static_cast<std::size_t>(ASN1_STRING_length(stamped)));
  if (!std::equal(digest.begin(), digest.end(), digest_there.begin(), digest_there.end()))
    return refused("has stamped something else than was asked for");
  const ASN1_INTEGER* nonce_there = TS_TST_INFO_get_nonce(info);
  if (nonce_there == nullptr || ASN1_INTEGER_cmp(nonce_there, nonce.get()) != 0)
    return refused("answers another question (its number is another one)");
  return der_of(token, i2d_PKCS7);
}

Result<JudgedTimestamp> judge_timestamp(ByteView token, const DigestOf& digest_of,
                                        ChainJudge& chains, std::int64_t time, bool is_proven) {
  const crypto::ErrorScope scope;
  JudgedTimestamp judged;
  const auto fails = [&](const char* sub_indication, const std::string& why) {
    judged.opinion = {Verdict::invalid, sub_indication, why};
    return judged;
  };
  PKCS7* allocated = PKCS7_new_ex(crypto::library(), nullptr);
  const unsigned char* at = token.data();
  if (d2i_PKCS7(&allocated, &at, static_cast<long>(token.size())) == nullptr)
    return fails("FORMAT_FAILURE", "the timestamp is damaged");
  const std::unique_ptr<PKCS7, decltype(&PKCS7_free)> message(allocated, PKCS7_free);
  const Own<TS_TST_INFO> info(PKCS7_to_TS_TST_INFO(message.get()));
  if (info == nullptr) return fails("FORMAT_FAILURE", "the timestamp is damaged");
  const auto stamped_at = seconds_of(TS_TST_INFO_get_time(info.get()));
  if (!stamped_at) return fails("FORMAT_FAILURE", "the timestamp has no time");
  judged.time = *stamped_at;

  TS_MSG_IMPRINT* imprint = TS_TST_INFO_get_msg_imprint(info.get());
  judged.digest = name_of(TS_MSG_IMPRINT_get_algo(imprint));
  LUMVET_TRY(const Bytes due, digest_of(judged.digest));
  const ASN1_OCTET_STRING* stated = TS_MSG_IMPRINT_get_msg(imprint);
  const ByteView stamped(ASN1_STRING_get0_data(stated),
                         static_cast<std::size_t>(ASN1_STRING_length(stated)));
  if (due.empty() || !std::equal(due.begin(), due.end(), stamped.begin(), stamped.end()))
    return fails("HASH_FAILURE", "the timestamp is of something else");

  // Whose it is, and whether its own signature holds; chains are judged as all others are.
  TS_VERIFY_CTX* context = TS_VERIFY_CTX_new();
  TS_VERIFY_CTX_set_flags(context, TS_VFY_VERSION);
  const int is_token = TS_RESP_verify_token(context, message.get());
  TS_VERIFY_CTX_free(context);
  STACK_OF(X509)* signers = PKCS7_get0_signers(message.get(), nullptr, 0);
  if (is_token != 1 || sk_X509_num(signers) != 1) {
    sk_X509_free(signers);
    return fails("FORMAT_FAILURE", "the timestamp names no authority");
  }
  const Certificate authority = certificate_of(sk_X509_value(signers, 0));
  sk_X509_free(signers);
  const crypto::Owned<BIO> content(PKCS7_dataInit(message.get(), nullptr));
  std::array<char, 4096> buffer{};
  while (content != nullptr && BIO_read(content.get(), buffer.data(), buffer.size()) > 0) {
  }
  PKCS7_SIGNER_INFO* signer = sk_PKCS7_SIGNER_INFO_value(PKCS7_get_signer_info(message.get()), 0);
  if (content == nullptr ||
      PKCS7_signatureVerify(content.get(), message.get(), signer, x509_of(authority)) != 1)
    return fails("SIG_CRYPTO_FAILURE", "the timestamp is forged");

  std::vector<Certificate> beside;
  STACK_OF(X509)* all = message->d.sign->cert;
  beside.reserve(static_cast<std::size_t>(std::max(0, sk_X509_num(all))));
  for (int i = 0; i < sk_X509_num(all); ++i)
    beside.push_back(certificate_of(sk_X509_value(all, i)));
  auto chain = chains.judge(authority, beside, Purpose::timestamps, time, is_proven);
  judged.chain = std::move(chain.chain);
  judged.opinion = std::move(chain.opinion);
  // Both of what was stamped and of what the authority signed.
  X509_ALGOR* signed_by = nullptr;
  PKCS7_SIGNER_INFO_get0_algs(signer, nullptr, &signed_by, nullptr);
  for (const std::string& digest : {judged.digest, name_of(signed_by)})
    if (const auto weak = weakness_of(digest, time, is_proven);
        weak && judged.opinion.verdict == Verdict::valid)
      judged.opinion = *weak;
  return judged;
}

}  // namespace lumvet::signing

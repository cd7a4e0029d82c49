// SPDX-License-Identifier: Apache-2.0
#include "lumvet/sign/trust.h"

#include <openssl/pem.h>

#include "sign/certificate_inside.h"
#include "sign/openssl_sign.h"

namespace lumvet {
namespace {

bool is_list(ByteView bytes) {
  const unsigned char* at = bytes.data();
  const signing::Own<X509_CRL> list(d2i_X509_CRL(nullptr, &at, static_cast<long>(bytes.size())));
  return list != nullptr && at == bytes.data() + bytes.size();
}

bool is_response(ByteView bytes) {
  const unsigned char* at = bytes.data();
  const signing::Own<OCSP_RESPONSE> response(
      d2i_OCSP_RESPONSE(nullptr, &at, static_cast<long>(bytes.size())));
  return response != nullptr && at == bytes.data() + bytes.size();
}

std::vector<Bytes> lists_in_pem(ByteView bytes) {
  std::vector<Bytes> found;
  for (signing::PemBlock& block : signing::pem_blocks(bytes))
    if (block.name == PEM_STRING_X509_CRL) found.push_back(std::move(block.der));
  return found;
}

}  // namespace

Status Trust::add(ByteView bytes) {
  const crypto::ErrorScope scope;
  const bool has_certificates =
      !signing::is_pem(bytes) || as_text(bytes).find("CERTIFICATE-----") != std::string_view::npos;
  if (!has_certificates) return add_revocations(bytes);
  LUMVET_TRY(std::vector<Certificate> found, read_certificates(bytes));
  anchors.insert(anchors.end(), found.begin(), found.end());
  if (signing::is_pem(bytes) && !lists_in_pem(bytes).empty()) return add_revocations(bytes);
  return Done{};
}

Status Trust::add_revocations(ByteView bytes) {
  const crypto::ErrorScope scope;
  std::vector<Bytes> lists;
  if (signing::is_pem(bytes)) {
    lists = lists_in_pem(bytes);
  } else if (is_response(bytes)) {
    responses.emplace_back(bytes.begin(), bytes.end());
    return Done{};
  } else {
    lists.emplace_back(bytes.begin(), bytes.end());
  }
  if (lists.empty()) return Error(ErrorCode::malformed, "there is no revocation list in it");
  for (Bytes& list : lists) {
    if (!is_list(list))
      return Error(ErrorCode::malformed,
                   "neither a revocation list nor the response of an OCSP responder");
    revocation_lists.push_back(std::move(list));
  }
  return Done{};
}

}  // namespace lumvet

// SPDX-License-Identifier: Apache-2.0
// What is known of certificates that were taken back: lists (RFC 5280, 5) and the answers of
// responders (RFC 6960). They count when the issuer signed them, whoever brought them.
//
// Threads: const methods may run concurrently.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "lumvet/sign/certificate.h"
#include "sign/openssl_sign.h"

namespace lumvet::signing {

struct Revocation {
  bool is_known = false;                  // whether it was taken back
  std::optional<std::int64_t> when = {};  // seconds since 1970, where it was
  std::vector<std::size_t> lists = {};    // that tell of it, in the order in which they came
  std::vector<std::size_t> responses = {};
};

class Revocations {
 public:
  // What is neither is passed over.
  void add(const std::vector<Bytes>& lists, const std::vector<Bytes>& responses);
  void add_list(ByteView der);
  void add_response(ByteView der);
  // What those tell that were still good at a time, in seconds since 1970.
  Revocation of(const Certificate& certificate, const Certificate& issuer, std::int64_t time) const;

 private:
  std::vector<Own<X509_CRL>> lists_;  // null for what is none
  std::vector<Own<OCSP_BASICRESP>> responses_;
};

// Where the issuer of a certificate tells of it.
struct RevocationPlaces {
  std::vector<std::string> lists = {};       // addresses
  std::vector<std::string> responders = {};  // addresses
  bool empty() const { return lists.empty() && responders.empty(); }
};
RevocationPlaces revocation_places(const Certificate& certificate);
// A question for a responder.
Bytes status_request(const Certificate& certificate, const Certificate& issuer);

}  // namespace lumvet::signing

// SPDX-License-Identifier: Apache-2.0
// Somebody with a key and a certificate, made up on the spot: people who sign, authorities that
// issue certificates, take them back, and stamp times. For tests and demonstrations; nobody trusts
// them.
//
//   const auto root = standins::Identity::root({.name = "Ostrel Valley root"});
//   const auto chief = root.issue({.name = "Ida Verlan"});
//   const Bytes file = chief.pkcs12("ostrel");
//
// Threads: immutable, share freely.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "lumvet/base/bytes.h"

namespace standins {

using lumvet::Bytes;
using lumvet::ByteView;

enum class KeyKind { p256, p384, p521, ed25519, rsa_2048, rsa_3072, rsa_1024 };

struct CertificateRequest {
  std::string name = {};
  KeyKind key = KeyKind::p256;
  std::int64_t from = 1'735'689'600;   // seconds since 1970: 2025-01-01
  std::int64_t until = 2'051'222'400;  // 2035-01-01
  bool is_authority = false;           // of an issued one; roots are
  int path_length = -1;                // authorities below it; -1 for any number
  std::string usage = {};              // in OpenSSL's words; what fits what it is without
  std::string extended_usage = {};     // "critical,timeStamping"
  std::string name_constraints = {};   // "permitted;DNS:ostrel.example"
  std::string alternative_name = {};   // "DNS:office.ostrel.example"
  std::string revocation_list = {};    // where its issuer publishes one: a URL
  std::string responder = {};          // its issuer's OCSP responder: a URL
  std::string digest = "SHA256";       // by which its issuer signs it
};

struct RevokedCertificate {
  Bytes certificate = {};  // DER
  std::int64_t when = 0;   // seconds since 1970
};

struct StampRequest {
  std::int64_t when = 0;  // seconds since 1970
  bool refuses = false;
  bool changes_nonce = false;
  bool changes_digest = false;
  std::string digest = "SHA256";  // by which the answer is signed
};

class Identity {
 public:
  static Identity root(const CertificateRequest& request);
  Identity issue(const CertificateRequest& request) const;

  Bytes certificate() const;      // DER
  std::string pem() const;        // its certificate
  std::string chain_pem() const;  // with those of its issuers
  std::string key_pem() const;    // the private key, not locked
  // With the certificates of its issuers, but without the root's.
  Bytes pkcs12(const std::string& passphrase) const;
  // What it took back. DER.
  Bytes revocation_list(const std::vector<RevokedCertificate>& revoked, std::int64_t from,
                        std::int64_t until) const;
  // The answer to a timestamp request (RFC 3161), made with a certificate for timestamps.
  Bytes timestamp(ByteView request, const StampRequest& how) const;
  // The answer of its OCSP responder (RFC 6960) about a certificate that it issued.
  Bytes status_of(ByteView certificate, bool is_revoked, std::int64_t when) const;

 private:
  struct Impl;
  explicit Identity(std::shared_ptr<const Impl> impl) : impl_(std::move(impl)) {}
  std::shared_ptr<const Impl> impl_;
};

}  // namespace standins

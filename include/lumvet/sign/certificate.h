// SPDX-License-Identifier: Apache-2.0
// A certificate (RFC 5280): whom it names, who issued it, and for which time.
//
//   for (const lumvet::Certificate& each : lumvet::read_certificates(bytes).value())
//     std::cout << each.subject() << ", until " << each.valid_until() << '\n';
//
// Threads: immutable, share freely. Since: 0.3
#pragma once

#include <cstdint>
#include <memory>
#include <string>
#include <vector>

#include "lumvet/base/bytes.h"
#include "lumvet/base/export.h"
#include "lumvet/base/inside.h"
#include "lumvet/base/result.h"

namespace lumvet {

class LUMVET_EXPORT Certificate {
 public:
  // From its DER bytes. Errors: malformed.
  static Result<Certificate> from_der(ByteView bytes);

  Bytes der() const;
  std::string subject() const;      // "CN=Ida Verlan, O=Ostrel Valley bridge office"; UTF-8
  std::string issuer() const;       // in the same way
  std::string common_name() const;  // of the subject; its whole name where it has none
  std::string serial() const;       // hexadecimal
  std::int64_t valid_from() const;  // seconds since 1970
  std::int64_t valid_until() const;
  bool is_self_issued() const;  // names itself as its issuer
  // Whether its key usage, where it states one, allows signatures (4.2.1.3).
  bool may_sign() const;
  // SHA-256 of its bytes, in hexadecimal: what it is known by.
  std::string fingerprint() const;

  bool operator==(const Certificate& other) const;

 private:
  friend struct Inside<Certificate>;
  struct Impl;
  explicit Certificate(std::shared_ptr<const Impl> impl) : impl_(std::move(impl)) {}
  std::shared_ptr<const Impl> impl_;
};

// All that a file holds: one in DER, or any number in PEM, beside which other things may stand.
// Errors: malformed when there is none, or one is damaged.
LUMVET_EXPORT Result<std::vector<Certificate>> read_certificates(ByteView bytes);

}  // namespace lumvet

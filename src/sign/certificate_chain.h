// SPDX-License-Identifier: Apache-2.0
// Whether a certificate is to be believed at a time: the chain to an anchor (RFC 5280, 6), and
// whether anybody took a part of it back.
//
// Threads: one thread at a time.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "lumvet/sign/trust.h"
#include "lumvet/sign/verification.h"
#include "sign/openssl_sign.h"
#include "sign/revocations.h"

namespace lumvet::signing {

// What one finds, and why: EN 319 102-1 calls it `sub_indication`.
struct Opinion {
  Verdict verdict = Verdict::valid;
  std::string sub_indication = {};
  std::string reason = {};  // for people
};

enum class Purpose { signatures, timestamps };

class ChainJudge {
 public:
  // What a document brings along helps to find chains, and proves nothing by itself.
  ChainJudge(const Trust& trust, std::vector<Certificate> others, const std::vector<Bytes>& lists,
             const std::vector<Bytes>& responses);

  struct Judged {
    std::vector<Certificate> chain = {};  // the certificate first, as far as it was found
    Opinion opinion = {};
  };
  // At seconds since 1970; `is_proven` when it is known that the signature was there then. Chains
  // are built once, however often they are asked for.
  Judged judge(const Certificate& certificate, const std::vector<Certificate>& beside,
               Purpose purpose, std::int64_t time, bool is_proven);
  int chains_built() const { return chains_built_; }

 private:
  struct Key {
    std::string fingerprint;
    Purpose purpose;
    std::int64_t time;
    bool is_proven;
    auto operator<=>(const Key&) const = default;
  };
  Judged judge_anew(const Certificate& certificate, const std::vector<Certificate>& beside,
                    Purpose purpose, std::int64_t time, bool is_proven);
  std::optional<Opinion> revocation_of(const Certificate& certificate, const Certificate& issuer,
                                       std::int64_t time, bool is_proven) const;
  bool is_anchor(const Certificate& certificate) const;

  Own<X509_STORE> store_;
  std::vector<Certificate> anchors_;
  std::vector<Certificate> others_;
  Revocations revocations_;
  std::map<Key, Judged> known_;
  int chains_built_ = 0;
};

// A digest that anybody could have forged at a time, and what to say of it; nothing for a good one.
std::optional<Opinion> weakness_of(const std::string& digest, std::int64_t time, bool is_proven);
// The same of a key.
std::optional<Opinion> weakness_of(const Certificate& certificate, std::int64_t time,
                                   bool is_proven);

}  // namespace lumvet::signing

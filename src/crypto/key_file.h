// SPDX-License-Identifier: Apache-2.0
// PKCS#12 files (RFC 7292): a private key with its certificate, and those of others.
//
// Threads: free functions.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "crypto/openssl_objects.h"
#include "lumvet/base/bytes.h"
#include "lumvet/base/result.h"

namespace lumvet::crypto {

struct KeyFile {
  Owned<EVP_PKEY> key;      // null where there is none
  Owned<X509> certificate;  // of the key; null where there is none
  std::vector<Owned<X509>> others;
};

// Errors: password when the passphrase is wrong; malformed when it is no such file, or damaged.
Result<KeyFile> read_key_file(ByteView bytes, std::string_view passphrase);

// "CN=Ida Verlan, O=Ostrel Valley bridge office", in UTF-8.
std::string name_for_people(const X509_NAME* name);

}  // namespace lumvet::crypto

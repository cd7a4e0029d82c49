// SPDX-License-Identifier: Apache-2.0
// How a document that is written shall be protected (ISO 32000-2, 7.6).
//
//   lumvet::save(report, "locked.pdf",
//                {.protection = lumvet::NewProtection{.user_password = "ostrel",
//                                                     .permissions = {.copy = false}}});
//
// Threads: values. Since: 0.2
#pragma once

#include <string>
#include <vector>

#include "lumvet/base/bytes.h"
#include "lumvet/security/encryption.h"

namespace lumvet {

struct NewProtection {
  std::string user_password = {};   // UTF-8; without one everybody can open it
  std::string owner_password = {};  // UTF-8; without one nobody is let do everything
  Permissions permissions = {};
  enum class Cipher {
    aes_256,  // revision 6; viewers since about 2012
    aes_128,  // revision 4; viewers since about 2005
    rc4_128,  // revision 3; older ones still; protects against nobody who means it
  };
  Cipher cipher = Cipher::aes_256;
  bool metadata_in_clear = false;  // XMP stays readable, for search engines
  bool attachments_only = false;   // everything else can be read without a password
  // Certificates, as DER or PEM: who has the key to one of them opens it, and no password does.
  std::vector<Bytes> recipients = {};
};

}  // namespace lumvet

// SPDX-License-Identifier: Apache-2.0
// How a document is protected and what its reader may do (ISO 32000-2, 7.6).
//
// Threads: values. Since: 0.2
#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include "lumvet/base/export.h"

namespace lumvet {

// What the document's owner allows (table 22). A wish of the owner that an application honors;
// nothing in the file enforces it.
struct LUMVET_EXPORT Permissions {
  bool print = true;
  bool print_sharply = true;  // at full resolution
  bool copy = true;           // text and images out of the pages
  bool change = true;         // the content of pages
  bool annotate = true;       // and fill in forms
  bool fill_forms = true;
  bool assemble = true;  // insert, turn and drop pages, make outlines

  // From the 32 bits of /P; revision 2 of the standard handler knows the first four only.
  static Permissions from_bits(std::uint32_t bits, int revision);
  // For revisions 3 and on.
  std::uint32_t to_bits() const;
  // Each thing that is allowed or refused, in words: "printing", "copying text and images".
  std::vector<std::string> allowed() const;
  std::vector<std::string> refused() const;
  bool operator==(const Permissions&) const = default;
};

enum class Access {
  locked,  // neither password nor key has been given
  user,    // what Permissions says
  owner,   // everything
};

struct Encryption {
  bool by_certificate = false;    // otherwise by password
  int revision = 0;               // of the standard handler, 2 to 6; 0 for certificates
  std::string cipher = {};        // "AES", "RC4"; empty when nothing of the kind is encrypted
  int key_bits = 0;               // 40 to 256
  bool encrypts_metadata = true;  // whether XMP metadata is unreadable without the password
  bool attachments_only = false;
  Access access = Access::locked;
  Permissions permissions = {};  // for whoever opened it; all of them for the owner
};

}  // namespace lumvet

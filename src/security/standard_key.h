// SPDX-License-Identifier: Apache-2.0
// From a password to the key of a file: the standard security handler (ISO 32000-2, 7.6.4).
#pragma once

#include <optional>

#include "lumvet/base/result.h"
#include "lumvet/objects/object.h"
#include "lumvet/security/encryption.h"

namespace lumvet::security {

// The entries of an encryption dictionary that the key depends on, references followed.
struct StandardParameters {
  int revision = 0;
  std::size_t key_bytes = 5;
  std::string owner = {};        // /O
  std::string user = {};         // /U
  std::string owner_key = {};    // /OE
  std::string user_key = {};     // /UE
  std::string perms = {};        // /Perms
  std::uint32_t bits = 0;        // /P
  std::string document_id = {};  // the first of /ID
  bool encrypts_metadata = true;
};

struct FileKey {
  Bytes key;
  Access access = Access::user;
};

// The key that one form of a password gives; nothing when it fits neither as the owner's nor as
// the user's. Errors: unsupported (a cipher the machine lacks), malformed.
Result<std::optional<FileKey>> standard_key(const StandardParameters& parameters,
                                            std::string_view password);

// /O and /U of revisions 3 and 4, and the key, from forms of the passwords (algorithms 3 and 5);
// of the parameters everything else counts. Errors: unsupported.
struct OldEntries {
  Bytes owner;
  Bytes user;
  Bytes key;
};
Result<OldEntries> old_entries(const StandardParameters& parameters, std::string_view user_password,
                               std::string_view owner_password);

// Whether /Perms says the same as /P and /EncryptMetadata (algorithm 13); true below revision 5.
Result<bool> permissions_agree(const StandardParameters& parameters, ByteView key);

// The hash of revision 6 (algorithm 2.B); of revision 5 it is the first step alone.
Result<Bytes> hardened_hash(int revision, std::string_view password, ByteView salt,
                            ByteView user_entry);

}  // namespace lumvet::security

// SPDX-License-Identifier: Apache-2.0
#include "security/standard_key.h"

#include <algorithm>
#include <array>

#include "crypto/cipher.h"
#include "crypto/digest.h"

namespace lumvet::security {
namespace {

using crypto::DigestKind;

// Algorithm 2, step a.
constexpr std::string_view kPadding(
    "\x28\xBF\x4E\x5E\x4E\x75\x8A\x41\x64\x00\x4E\x56\xFF\xFA\x01\x08"
    "\x2E\x2E\x00\xB6\xD0\x68\x3E\x80\x2F\x0C\xA9\xFE\x64\x53\x69\x7A",
    32);
constexpr std::size_t kPadded = 32;
constexpr int kRehashes = 50;

std::string padded(std::string_view password) {
  std::string text(password.substr(0, kPadded));
  text += kPadding.substr(0, kPadded - text.size());
  return text;
}

std::array<std::uint8_t, 4> little_endian(std::uint32_t value) {
  return {static_cast<std::uint8_t>(value), static_cast<std::uint8_t>(value >> 8),
          static_cast<std::uint8_t>(value >> 16), static_cast<std::uint8_t>(value >> 24)};
}

Bytes cut(Bytes bytes, std::size_t size) {
  bytes.resize(std::min(bytes.size(), size));
  return bytes;
}

// Algorithm 2.
Bytes old_file_key(const StandardParameters& p, std::string_view password) {
  const std::string text = padded(password);
  const auto bits = little_endian(p.bits);
  constexpr std::array<std::uint8_t, 4> kClear = {0xFF, 0xFF, 0xFF, 0xFF};
  const bool marks_clear = p.revision >= 4 && !p.encrypts_metadata;
  Bytes hash =
      crypto::digest(DigestKind::md5,
                     {as_bytes(text), as_bytes(p.owner).first(std::min(p.owner.size(), kPadded)),
                      bits, as_bytes(p.document_id), ByteView(kClear).first(marks_clear ? 4 : 0)});
  if (p.revision >= 3)
    for (int i = 0; i < kRehashes; ++i)
      hash = crypto::digest(DigestKind::md5, {ByteView(hash).first(p.key_bytes)});
  return cut(std::move(hash), p.key_bytes);
}

// RC4 again and again, with the key changed a little each time; algorithms 3 and 5.
Result<Bytes> rc4_rounds(ByteView key, Bytes data, bool backwards) {
  constexpr int kRounds = 20;
  for (int i = 0; i < kRounds; ++i) {
    Bytes changed(key.begin(), key.end());
    for (std::uint8_t& byte : changed)
      byte ^= static_cast<std::uint8_t>(backwards ? kRounds - 1 - i : i);
    LUMVET_TRY(data, crypto::rc4(changed, data));
  }
  return data;
}

// Algorithm 6: whether the key is the one that the user's password gives.
Result<bool> fits_user(const StandardParameters& p, ByteView key) {
  constexpr std::size_t kCompared = 16;  // what follows is arbitrary from revision 3 on
  if (p.user.size() < kCompared) return Error(ErrorCode::malformed, "the /U entry is too short");
  if (p.revision == 2) {
    LUMVET_TRY(const Bytes expected, crypto::rc4(key, as_bytes(kPadding)));
    return as_text(expected) == std::string_view(p.user).substr(0, kPadded);
  }
  Bytes hash = crypto::digest(DigestKind::md5, {as_bytes(kPadding), as_bytes(p.document_id)});
  LUMVET_TRY(const Bytes expected, rc4_rounds(key, std::move(hash), false));
  return as_text(expected) == std::string_view(p.user).substr(0, kCompared);
}

// Of algorithms 3 and 7.
Bytes old_owner_key(const StandardParameters& p, std::string_view owner_password) {
  Bytes hash = crypto::digest(DigestKind::md5, {as_bytes(padded(owner_password))});
  if (p.revision >= 3)
    for (int i = 0; i < kRehashes; ++i) hash = crypto::digest(DigestKind::md5, {hash});
  return cut(std::move(hash), p.key_bytes);
}

// Algorithm 7: the user's password, out of /O by means of the owner's.
Result<std::string> user_password(const StandardParameters& p, std::string_view owner_password) {
  const Bytes key = old_owner_key(p, owner_password);
  const ByteView entry = as_bytes(p.owner).first(std::min(p.owner.size(), kPadded));
  Result<Bytes> plain = p.revision == 2 ? crypto::rc4(key, entry)
                                        : rc4_rounds(key, Bytes(entry.begin(), entry.end()), true);
  if (!plain.ok()) return std::move(plain).error();
  return std::string(as_text(*plain));
}

Result<std::optional<FileKey>> old_key(const StandardParameters& p, std::string_view password) {
  LUMVET_TRY(const std::string derived, user_password(p, password));
  Bytes key = old_file_key(p, derived);
  LUMVET_TRY(const bool is_owner, fits_user(p, key));
  if (is_owner) return std::optional(FileKey{std::move(key), Access::owner});
  key = old_file_key(p, password);
  LUMVET_TRY(const bool is_user, fits_user(p, key));
  if (is_user) return std::optional(FileKey{std::move(key), Access::user});
  return std::optional<FileKey>();
}

// Algorithm 2.A.
Result<std::optional<FileKey>> new_key(const StandardParameters& p, std::string_view password) {
  constexpr std::size_t kHash = 32;
  constexpr std::size_t kSalt = 8;
  constexpr std::size_t kEntry = kHash + 2 * kSalt;
  if (p.user.size() < kEntry || p.owner.size() < kEntry || p.user_key.size() < kHash ||
      p.owner_key.size() < kHash)
    return Error(ErrorCode::malformed, "the password entries of the encryption are too short");
  struct Way {
    ByteView entry;
    ByteView user_entry;
    ByteView wrapped;
    Access access;
  };
  const ByteView user = as_bytes(p.user).first(kEntry);
  const std::array<Way, 2> ways = {{{as_bytes(p.owner), user, as_bytes(p.owner_key), Access::owner},
                                    {user, ByteView(), as_bytes(p.user_key), Access::user}}};
  for (const Way& way : ways) {
    LUMVET_TRY(const Bytes hash, hardened_hash(p.revision, password,
                                               way.entry.subspan(kHash, kSalt), way.user_entry));
    if (!std::equal(hash.begin(), hash.end(), way.entry.begin())) continue;
    LUMVET_TRY(const Bytes wrapping,
               hardened_hash(p.revision, password, way.entry.subspan(kHash + kSalt, kSalt),
                             way.user_entry));
    constexpr std::array<std::uint8_t, crypto::kAesBlock> kNoVector{};
    LUMVET_TRY(Bytes key, crypto::aes_cbc_decrypt(wrapping, kNoVector, way.wrapped.first(kHash)));
    return std::optional(FileKey{std::move(key), way.access});
  }
  return std::optional<FileKey>();
}

}  // namespace

Result<Bytes> hardened_hash(int revision, std::string_view password, ByteView salt,
                            ByteView user_entry) {
  constexpr std::size_t kResult = 32;
  constexpr std::size_t kCopies = 64;
  constexpr int kLeastRounds = 64;
  Bytes hash = crypto::digest(DigestKind::sha256, {as_bytes(password), salt, user_entry});
  if (revision < 6) return hash;
  for (int round = 1;; ++round) {
    Bytes text;
    for (std::size_t i = 0; i < kCopies; ++i) {
      text.insert(text.end(), password.begin(), password.end());
      text.insert(text.end(), hash.begin(), hash.end());
      text.insert(text.end(), user_entry.begin(), user_entry.end());
    }
    LUMVET_TRY(const Bytes mixed, crypto::aes_cbc_encrypt(ByteView(hash).first(16),
                                                          ByteView(hash).subspan(16, 16), text));
    // The first 16 bytes as a number, modulo 3: 256 is 1 modulo 3, so the digits' sum will do.
    int sum = 0;
    for (std::size_t i = 0; i < 16; ++i) sum += mixed[i];
    constexpr std::array<DigestKind, 3> kKinds = {DigestKind::sha256, DigestKind::sha384,
                                                  DigestKind::sha512};
    hash = crypto::digest(kKinds[static_cast<std::size_t>(sum % 3)], {mixed});
    if (round >= kLeastRounds && mixed.back() <= round - 32) break;
  }
  return cut(std::move(hash), kResult);
}

Result<OldEntries> old_entries(const StandardParameters& parameters, std::string_view user_password,
                               std::string_view owner_password) {
  StandardParameters p = parameters;
  OldEntries entries;
  const std::string text = padded(user_password);
  const Bytes key = old_owner_key(p, owner_password);
  LUMVET_TRY(entries.owner, rc4_rounds(key, Bytes(text.begin(), text.end()), false));
  p.owner = as_text(entries.owner);
  entries.key = old_file_key(p, user_password);
  Bytes hash = crypto::digest(DigestKind::md5, {as_bytes(kPadding), as_bytes(p.document_id)});
  LUMVET_TRY(entries.user, rc4_rounds(entries.key, std::move(hash), false));
  entries.user.resize(kPadded);  // what follows is arbitrary
  return entries;
}

Result<std::optional<FileKey>> standard_key(const StandardParameters& parameters,
                                            std::string_view password) {
  return parameters.revision >= 5 ? new_key(parameters, password) : old_key(parameters, password);
}

Result<bool> permissions_agree(const StandardParameters& p, ByteView key) {
  if (p.revision < 5) return true;
  if (p.perms.size() < crypto::kAesBlock) return false;
  LUMVET_TRY(const Bytes plain,
             crypto::aes_ecb_decrypt(key, as_bytes(p.perms).first(crypto::kAesBlock)));
  const auto bits = little_endian(p.bits);
  return std::equal(bits.begin(), bits.end(), plain.begin()) &&
         plain[8] == (p.encrypts_metadata ? 'T' : 'F') && plain[9] == 'a' && plain[10] == 'd' &&
         plain[11] == 'b';
}

}  // namespace lumvet::security

// SPDX-License-Identifier: Apache-2.0
#include "security/decrypted_source.h"

#include <algorithm>

#include "crypto/cipher.h"
#include "crypto/random.h"

namespace lumvet::security {
namespace {

using crypto::kAesBlock;

// The bytes that padding adds at the end of a last block (RFC 8018, 6.1.1). Writers that pad
// wrongly lose nothing.
std::size_t padding_of(ByteView plain) {
  if (plain.empty()) return 0;
  const std::uint8_t count = plain.back();
  if (count == 0 || count > kAesBlock || count > plain.size()) return 0;
  const ByteView padding = plain.last(count);
  return std::all_of(padding.begin(), padding.end(), [&](std::uint8_t b) { return b == count; })
             ? count
             : 0;
}

class DecryptedSource : public ByteSource {
 public:
  DecryptedSource(std::shared_ptr<const ByteSource> encrypted, std::uint64_t offset,
                  std::uint64_t length, Bytes key)
      : encrypted_(std::move(encrypted)), offset_(offset), length_(length), key_(std::move(key)) {}

  std::uint64_t size() const override { return offset_ + plain_length(); }
  std::string name() const override { return encrypted_->name(); }

  Status read(std::uint64_t offset, std::span<std::uint8_t> into) const override {
    if (offset < offset_ || offset > size() || into.size() > size() - offset)
      return Error(ErrorCode::malformed, "bytes outside of an encrypted stream are needed")
          .at_offset(offset);
    LUMVET_TRY(const Bytes plain, decrypt(offset - offset_, into.size()));
    if (plain.size() != into.size())
      return Error(ErrorCode::malformed, "an encrypted stream is cut off").at_offset(offset);
    std::copy(plain.begin(), plain.end(), into.begin());
    return Done{};
  }

 protected:
  virtual std::uint64_t plain_length() const = 0;
  virtual Result<Bytes> decrypt(std::uint64_t from, std::uint64_t count) const = 0;

  std::shared_ptr<const ByteSource> encrypted_;
  std::uint64_t offset_;
  std::uint64_t length_;  // encrypted
  Bytes key_;
};

class Rc4Source final : public DecryptedSource {
 public:
  using DecryptedSource::DecryptedSource;

 protected:
  std::uint64_t plain_length() const override { return length_; }

  // RC4 can only begin at the beginning.
  Result<Bytes> decrypt(std::uint64_t from, std::uint64_t count) const override {
    LUMVET_TRY(const ByteSlice bytes, encrypted_->slice(offset_, from + count));
    LUMVET_TRY(Bytes plain, crypto::rc4(key_, bytes.view()));
    plain.erase(plain.begin(), plain.begin() + static_cast<std::ptrdiff_t>(
                                                   std::min<std::uint64_t>(from, plain.size())));
    return plain;
  }
};

class AesSource final : public DecryptedSource {
 public:
  using DecryptedSource::DecryptedSource;

  Status measure() {
    const std::uint64_t blocks = length_ / kAesBlock;
    if (blocks < 2) return Done{};  // a vector alone: nothing was encrypted
    LUMVET_TRY(const Bytes last, blocks_from(blocks - 2, 1));
    plain_length_ = (blocks - 1) * kAesBlock - padding_of(last);
    return Done{};
  }

 protected:
  std::uint64_t plain_length() const override { return plain_length_; }

  Result<Bytes> decrypt(std::uint64_t from, std::uint64_t count) const override {
    if (count == 0) return Bytes();
    const std::uint64_t first = from / kAesBlock;
    const std::uint64_t last = (from + count - 1) / kAesBlock;
    LUMVET_TRY(Bytes plain, blocks_from(first, last - first + 1));
    const auto skip = static_cast<std::ptrdiff_t>(from - first * kAesBlock);
    plain.erase(plain.begin(), plain.begin() + std::min(skip, std::ssize(plain)));
    plain.resize(std::min<std::uint64_t>(plain.size(), count));
    return plain;
  }

 private:
  // Plain blocks; the encrypted block in front of the first is its vector.
  Result<Bytes> blocks_from(std::uint64_t first, std::uint64_t count) const {
    LUMVET_TRY(const ByteSlice bytes,
               encrypted_->slice(offset_ + first * kAesBlock, (count + 1) * kAesBlock));
    if (bytes.size() < 2 * kAesBlock) return Bytes();
    return crypto::aes_cbc_decrypt(key_, bytes.view().first(kAesBlock),
                                   bytes.view().subspan(kAesBlock));
  }

  std::uint64_t plain_length_ = 0;
};

}  // namespace

std::shared_ptr<const ByteSource> rc4_source(std::shared_ptr<const ByteSource> encrypted,
                                             std::uint64_t offset, std::uint64_t length,
                                             Bytes key) {
  return std::make_shared<Rc4Source>(std::move(encrypted), offset, length, std::move(key));
}

Result<std::shared_ptr<const ByteSource>> aes_source(std::shared_ptr<const ByteSource> encrypted,
                                                     std::uint64_t offset, std::uint64_t length,
                                                     Bytes key) {
  auto source = std::make_shared<AesSource>(std::move(encrypted), offset, length, std::move(key));
  LUMVET_RETURN_IF_ERROR(source->measure());
  return std::shared_ptr<const ByteSource>(std::move(source));
}

Bytes aes_decrypted(ByteView key, ByteView bytes) {
  if (bytes.size() < 2 * kAesBlock) return {};
  Result<Bytes> plain =
      crypto::aes_cbc_decrypt(key, bytes.first(kAesBlock), bytes.subspan(kAesBlock));
  if (!plain.ok()) return {};
  plain->resize(plain->size() - padding_of(*plain));
  return *std::move(plain);
}

Result<Bytes> aes_encrypted(ByteView key, ByteView bytes) {
  return crypto::aes_cbc_sealed(key, crypto::random_bytes(crypto::kAesBlock), bytes);
}

}  // namespace lumvet::security

// SPDX-License-Identifier: Apache-2.0
// Objects as they stand in a file, with their new numbers: "7 0 obj … endobj".
//
// Threads: const methods may run concurrently, if the map of references lets them.
#pragma once

#include <array>
#include <functional>
#include <string>
#include <string_view>
#include <vector>

#include "filters/deflate.h"
#include "objects/resolver.h"
#include "objects/serializer.h"
#include "security/security_handler.h"

namespace lumvet::saving {

constexpr std::size_t kObjectsPerStream = 150;  // packed together

// In three pieces, so that bytes which are not changed are not copied.
struct EncodedObject {
  std::string head;
  ByteSlice body;  // of a stream
  std::string_view tail = {};

  std::uint64_t size() const { return head.size() + body.size() + tail.size(); }
  // Of its bytes and their number, for the identifier of the file.
  std::array<std::uint8_t, 16> fingerprint() const;
};

class ObjectEncoder {
 public:
  // `security` encrypts; null when nothing is to be.
  ObjectEncoder(objects::ReferenceMap renumbered, const security::SecurityHandler* security)
      : renumbered_(std::move(renumbered)), security_(security) {}

  // Packs streams anew from now on; the references in their dictionaries are looked up in
  // `objects`.
  void recompress(const objects::Resolver& objects) { recompressed_in_ = &objects; }

  // Streams without a filter are deflated when that makes them smaller, but for metadata, which
  // anybody shall find in the file. Errors: io, need_more_data, limit, as reading a stream.
  Result<EncodedObject> encode(ObjectId id, const Object& object) const;
  // An object stream (7.5.7) of numbered texts.
  struct Packed {
    std::uint32_t number;
    std::string text;
  };
  Result<EncodedObject> encode_packed(ObjectId id, const std::vector<Packed>& packed) const;
  // A stream that is there already, as it is but encrypted.
  Result<EncodedObject> encode_stream(ObjectId id, Dict dict, ByteSlice bytes) const;

  // The object alone, as it is written into an object stream.
  std::string text_of(const Object& object) const;

 private:
  filters::Effort effort() const {
    return recompressed_in_ != nullptr ? filters::Effort::most : filters::Effort::usual;
  }

  objects::ReferenceMap renumbered_;
  const security::SecurityHandler* security_;
  const objects::Resolver* recompressed_in_ = nullptr;
};

}  // namespace lumvet::saving

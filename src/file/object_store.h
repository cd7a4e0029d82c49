// SPDX-License-Identifier: Apache-2.0
// Objects by number: the immutable base that an opened file is. Parsed when first asked for, kept
// from then on.
//
// Threads: const methods may run concurrently.
#pragma once

#include <shared_mutex>
#include <unordered_map>

#include "file/xref.h"
#include "objects/resolver.h"

namespace lumvet::file {

class ObjectStore final : public objects::Resolver {
 public:
  // Reads the cross references only. Errors: as read_cross_references; password when the file is
  // encrypted.
  static Result<std::shared_ptr<const ObjectStore>> open(std::shared_ptr<const ByteSource> source,
                                                         const Limits& limits);

  // Null for numbers that are free or missing (7.3.10). Errors: malformed, limit, io,
  // need_more_data, in the object's name.
  Result<Object> load(ObjectId id) const;
  // The same, with damage as a finding and null in its place.
  Object resolve(const Object& object) const override;

  const XrefTable& cross_references() const { return xref_; }
  const ByteSource& source() const { return *source_; }
  const Limits& limits() const { return limits_; }
  Findings& findings() const { return findings_; }

 private:
  // An object stream, unpacked, with the place of each object in it (7.5.7).
  struct Unpacked {
    ByteSlice bytes;
    std::vector<std::pair<std::uint32_t, std::size_t>> places;  // number and offset
  };

  ObjectStore(std::shared_ptr<const ByteSource> source, const Limits& limits)
      : source_(std::move(source)), limits_(limits) {}

  Result<Object> read(ObjectId id, const XrefEntry& entry) const;
  Result<Object> read_packed(ObjectId id, const XrefEntry& entry) const;
  Result<std::shared_ptr<const Unpacked>> unpack(std::uint32_t number) const;

  std::shared_ptr<const ByteSource> source_;
  Limits limits_;
  XrefTable xref_;
  mutable Findings findings_;
  mutable std::shared_mutex mutex_;
  mutable std::unordered_map<std::uint32_t, Object> loaded_;
  mutable std::unordered_map<std::uint32_t, std::shared_ptr<const Unpacked>> unpacked_;
};

}  // namespace lumvet::file

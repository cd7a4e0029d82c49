// SPDX-License-Identifier: Apache-2.0
// A look at every byte of a file for the objects in it, for when its cross references are of no
// use. Bytes inside streams are passed over.
#pragma once

#include <optional>
#include <vector>

#include "lumvet/io/byte_source.h"
#include "lumvet/objects/object.h"

namespace lumvet::file {

struct ScannedObject {
  enum class Kind : std::uint8_t { plain, object_stream, cross_references, encryption };
  ObjectId id;
  std::uint64_t offset = 0;
  Kind kind = Kind::plain;
};

struct Scan {
  std::vector<ScannedObject> objects;   // as they follow in the file
  std::vector<std::uint64_t> trailers;  // where the word "trailer" ends
};

// Objects with numbers from `most_objects` on are left out. Errors: io, need_more_data.
Result<Scan> scan_file(const ByteSource& source, std::uint64_t most_objects);

// The place of "N G obj" with this number that is nearest to `offset`, at most `within` bytes away.
std::optional<std::uint64_t> find_object_near(const ByteSource& source, std::uint32_t number,
                                              std::uint64_t offset, std::uint64_t within);

// Where the next "N G obj" or "endobj" begins, or the end of the bytes.
std::size_t next_boundary(ByteView bytes, std::size_t from);

}  // namespace lumvet::file

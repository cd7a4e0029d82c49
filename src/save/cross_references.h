// SPDX-License-Identifier: Apache-2.0
// Cross references as they are written, in tables (ISO 32000-2, 7.5.4) and in streams (7.5.8).
//
// Threads: free functions.
#pragma once

#include <cstdint>
#include <functional>
#include <span>
#include <string>
#include <vector>

#include "lumvet/base/result.h"
#include "lumvet/objects/object.h"

namespace lumvet::saving {

// Where an object is.
// Small, since all objects' are kept until the end of a file is written.
struct Place {
  enum class Kind : std::uint64_t { free, in_file, in_stream };  // free: never used again

  Place() : Place(Kind::free, 0, 0) {}
  Place(Kind what, std::uint64_t at, std::uint64_t place)
      : kind(what), where(at & 0x3FFF'FFFF'FFFF), index(place & 0xFFFF) {}

  Kind kind : 2;
  std::uint64_t where : 46;  // offset, or the number of the object stream
  std::uint64_t index : 16;  // in the object stream; of what is in the file the generation
};
static_assert(sizeof(Place) == 8);

// Objects whose numbers follow one another.
struct Section {
  std::uint32_t first = 0;
  std::span<const Place> places;
};

// Bytes that places need.
std::size_t width_of(std::uint64_t greatest_offset);

// From "xref" up to the trailer. Errors: limit, for an offset of more than ten digits.
Result<std::string> table_of(std::span<const Section> sections);

struct RowForm {
  std::size_t place_bytes = 4;
  std::size_t index_bytes = 1;
  // Each row as the difference to the one above (PNG's "up", predictor 12), deflated.
  bool is_packed = false;
};
// The rows of a cross-reference stream, whose dictionary gets the entries that tell of them.
Bytes stream_of(std::span<const Section> sections, const RowForm& form, Dict& dict);

// All of a file's cross references, of the objects from 0 on, to its last byte. They begin at
// `start`. Calls trailer(size) with how many numbers there are. Errors: as table_of's.
Result<std::string> ending_of(std::vector<Place> places, std::uint64_t start, bool is_compact,
                              const std::function<Dict(std::size_t size)>& trailer);

// "7 0 obj … endobj" of a stream whose dictionary is written already.
std::string stream_object(std::uint32_t number, std::string_view dict, ByteView rows);

// The last lines of a file, which say where its cross references begin.
std::string end_of_file(std::uint64_t start);

}  // namespace lumvet::saving

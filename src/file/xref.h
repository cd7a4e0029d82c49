// SPDX-License-Identifier: Apache-2.0
// Cross references: where each object lies (ISO 32000-2, 7.5.4 to 7.5.8).
#pragma once

#include <vector>

#include "lumvet/base/findings.h"
#include "lumvet/base/limits.h"
#include "lumvet/io/byte_source.h"
#include "lumvet/objects/object.h"

namespace lumvet::file {

struct XrefEntry {
  enum class Kind : std::uint8_t { missing, free, in_file, in_stream };
  std::uint64_t where = 0;   // the offset in the file, or the number of the object stream
  std::uint32_t detail = 0;  // the generation, or the index within the object stream
  Kind kind = Kind::missing;
};

struct XrefTable {
  std::vector<XrefEntry> entries;   // by object number
  Dict trailer;                     // of the newest section
  std::string version;              // "1.7", from the header
  std::uint64_t header_offset = 0;  // bytes in front of "%PDF-"
  int sections = 0;                 // tables and streams read; more than one: updated after saving
  bool uses_streams = false;
};

// Reads every section from the newest back. Errors: malformed when this is no PDF document, is
// empty or cut off, or its cross references cannot be read; io, need_more_data, limit.
Result<XrefTable> read_cross_references(const ByteSource& source, const Limits& limits,
                                        Findings& findings);

}  // namespace lumvet::file

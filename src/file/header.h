// SPDX-License-Identifier: Apache-2.0
// Where reading begins: the header (ISO 32000-2, 7.5.2) and the end of the file (7.5.5).
#pragma once

#include <string>

#include "lumvet/io/byte_source.h"

namespace lumvet::file {

struct Header {
  std::uint64_t offset = 0;  // bytes in front of "%PDF-"
  std::string version;       // "1.7"; empty where it says none
  // What is odd about it and does no harm; empty mostly.
  std::string oddity = {};
};

// Where it is not at the beginning it is looked for, and what has cross references or objects needs
// none. Errors: malformed when the file is empty or no PDF document, with what it seems to be; io.
Result<Header> find_header(const ByteSource& source);

// The place that the last "startxref" names. Errors: malformed when there is none; io.
Result<std::uint64_t> find_last_section(const ByteSource& source);

}  // namespace lumvet::file

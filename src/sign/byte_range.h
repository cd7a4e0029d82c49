// SPDX-License-Identifier: Apache-2.0
// Which bytes of a file a signature signs (ISO 32000-2, 12.8.1): all of one state of it, but for
// the string that holds the signature.
//
// Threads: free functions.
#pragma once

#include <functional>

#include "lumvet/document/document.h"

namespace lumvet::signing {

struct ByteRange {
  std::uint64_t before = 0;  // bytes in front of the gap
  std::uint64_t behind = 0;  // where it goes on
  std::uint64_t end = 0;     // one behind the last byte
};

// The range of a signature whose dictionary is an object of the document. Errors: malformed, with
// what is wrong, when it is not exactly the file but for that object's string; io, need_more_data.
Result<ByteRange> byte_range_of(const Document& document, ObjectId signature, const Dict& dict);

// The bytes of the range, in parts. Errors: as reading's and take's.
Status each_part(const Document& document, const ByteRange& range,
                 const std::function<Status(ByteView)>& take);

}  // namespace lumvet::signing

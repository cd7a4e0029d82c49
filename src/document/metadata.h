// SPDX-License-Identifier: Apache-2.0
// XMP metadata read and held against the information dictionary.
#pragma once

#include "document/core.h"
#include "lumvet/document/metadata.h"

namespace lumvet::document {

DocumentInfo read_info(const Core& core);
// Of an information dictionary, or of what has the same entries.
DocumentInfo info_of(const file::ObjectStore& store, const Dict& info);
Metadata read_metadata(const Core& core);

// What an XMP packet says. Errors: malformed when it is no XML.
struct XmpProperties {
  DocumentInfo info;
  std::string conformance;
};
Result<XmpProperties> parse_xmp(ByteView packet);

}  // namespace lumvet::document

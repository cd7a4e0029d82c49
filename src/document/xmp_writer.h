// SPDX-License-Identifier: Apache-2.0
// Properties set in XMP (ISO 16684-1), and everything else in it left as it is.
//
// Threads: free functions.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "lumvet/base/bytes.h"
#include "lumvet/base/result.h"

namespace lumvet::document {

struct XmpProperty {
  enum class Kind {
    text,
    alternatives,  // of languages, of which one is written
    list,
  };
  std::string_view space;
  std::string_view prefix;  // where none stands for the space yet
  std::string_view name;
  Kind kind = Kind::text;
};

// By their words: "title", "author", "subject", "keywords", "creator"; nullptr for others.
const XmpProperty* xmp_property(std::string_view words);

struct XmpChange {
  const XmpProperty* property;
  std::string value;  // UTF-8; empty to take it away
};

// A packet with the changes; made anew of nothing. Errors: malformed for what is no XMP.
Result<Bytes> changed_xmp(ByteView packet, const std::vector<XmpChange>& changes);

}  // namespace lumvet::document

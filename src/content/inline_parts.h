// SPDX-License-Identifier: Apache-2.0
// The dictionary and the bytes of an image within a content stream (ISO 32000-2, 8.9.7).
//
// Threads: free functions.
#pragma once

#include "lumvet/base/limits.h"
#include "objects/parser.h"
#include "objects/resolver.h"

namespace lumvet::content {

struct InlineParts {
  bool is_there = false;
  bool needs_more = false;  // than the window has; read again when there is more
  Dict dict = {};           // with the keys as they are written, short or long
  ByteView data = {};       // encoded; within the parser's bytes
};

// Behind "BI". The parser stands behind "EI" then, where the image is there.
InlineParts read_inline_parts(objects::Parser& parser, const Dict& resources,
                              const objects::Resolver& resolver, const Limits& limits,
                              bool is_last_window);

}  // namespace lumvet::content

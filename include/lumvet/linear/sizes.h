// SPDX-License-Identifier: Apache-2.0
// What the bytes of a document's file are spent on.
//
//   const lumvet::Sizes sizes = lumvet::sizes_of(report).value();
//   std::cout << sizes.images << " of " << sizes.all() << " bytes are images";
//
// Threads: free functions; documents may be shared. Since: 0.2
#pragma once

#include "lumvet/document/document.h"

namespace lumvet {

// In bytes of the file, as they are in it: compressed, encrypted. Objects that are packed together
// (7.5.7) have their part of what the pack takes.
struct Sizes {
  std::uint64_t fonts = 0;        // with their widths and the ways to their characters
  std::uint64_t images = 0;       // with their masks, colors and palettes
  std::uint64_t content = 0;      // of pages, forms and patterns, and what they name
  std::uint64_t bookkeeping = 0;  // pages, outline, names, tags, cross references, hint tables
  std::uint64_t attachments = 0;  // and other embedded files
  std::uint64_t other = 0;        // annotations, fields, properties, everything else
  std::uint64_t unused = 0;       // what nothing leads to: old states, rubbish

  std::uint64_t all() const {
    return fonts + images + content + bookkeeping + attachments + other + unused;
  }
};

// Reads every object.
LUMVET_EXPORT Result<Sizes> sizes_of(const Document& document);

}  // namespace lumvet

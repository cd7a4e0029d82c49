// SPDX-License-Identifier: Apache-2.0
// Which fonts of a document cannot be read as text.
//
//   for (const lumvet::FontReading& font : lumvet::font_readings(document).value())
//     if (font.unknown > 0) std::cout << font.name << '\n';
//
// Threads: free functions. Since: 0.2
#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include "lumvet/text/page_words.h"

namespace lumvet {

struct FontReading {
  std::string name = {};         // as FontUse's
  std::uint64_t characters = 0;  // that pages show in it
  // Of those, the ones of which nothing tells what they are: no /ToUnicode, no name of the
  // encoding, no character or name in the embedded program (ISO 32000-2, 9.10.2).
  std::uint64_t unknown = 0;
};

// Sorted by name; fonts of one name together, those that no page shows anything in are not there.
// Reads all pages. Errors: as read_pages'.
LUMVET_EXPORT Result<std::vector<FontReading>> font_readings(const Document& document,
                                                             const ReadOptions& options = {});

}  // namespace lumvet

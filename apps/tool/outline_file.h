// SPDX-License-Identifier: Apache-2.0
// Outlines in files that people write.
#pragma once

#include <filesystem>
#include <vector>

#include <lumvet/document/outline.h>

namespace tool {

// In text, each line a page and a title, indented by two blanks or a tab for each level, and "-"
// for a page where it leads nowhere:
//
//   1 Summary
//   3 Bridges
//     3 Tannery steps
//
// or in JSON, [{"title": "Summary", "page": 1, "open": true, "bold": true, "italic": true,
// "color": "C03028", "uri": "https://…", "entries": […]}].
// Errors: io; invalid_argument with the line, or the entry, and for a file
// without any.
lumvet::Result<std::vector<lumvet::OutlineEntry>> read_outline_file(const std::string& path);

}  // namespace tool

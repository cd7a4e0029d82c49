// SPDX-License-Identifier: Apache-2.0
// Values of fields as JSON and as tables.
//
//   const auto rows = lumvet::read_value_table("no,grade\r\n17,3\r\n18,2\r\n").value();
//   for (const auto& row : rows) {
//     auto form = lumvet::EditableDocument::of(opened);
//     lumvet::fill_fields(form, row, {.skips_unfit = true}).value();
//   }
//
// In JSON they are an object: `{"bridge": "Merrow Ford", "dry": true, "tools": ["rope", "lamp"],
// "gap": {"width": 4.5}}` is of the fields bridge, dry, tools and gap.width. Tables have the names
// of the fields in their first line, and a document's values in each further one (RFC 4180).
// Threads: free functions. Since: 0.2
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "lumvet/forms/filling.h"

namespace lumvet {

LUMVET_EXPORT std::string values_as_json(const std::vector<FieldValue>& values);
// A head and one line; what has several is written with line ends between.
LUMVET_EXPORT std::string values_as_table(const std::vector<FieldValue>& values);
// Errors: malformed, with line and column.
LUMVET_EXPORT Result<std::vector<FieldValue>> read_values(std::string_view json);
// The same of an array of such objects, each of a document.
LUMVET_EXPORT Result<std::vector<std::vector<FieldValue>>> read_value_rows(std::string_view json);
// For each line below the head. Errors: malformed, with the line, for one that has more or fewer
// cells than the head; invalid_argument for a table without a head or lines.
LUMVET_EXPORT Result<std::vector<std::vector<FieldValue>>> read_value_table(std::string_view table);

}  // namespace lumvet

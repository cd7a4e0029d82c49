// SPDX-License-Identifier: Apache-2.0
// Values of fields and marks in the files that programs exchange: JSON, tables, XFDF, FDF.
#pragma once

#include <string>
#include <vector>

#include <lumvet/document/document.h>
#include <lumvet/forms/filling.h>

namespace tool {

// What a file holds by the end of its name; "-" is JSON from standard input. Of a table, and of an
// array in JSON, each row. Errors: io; malformed, with the place; invalid_argument for other names.
lumvet::Result<std::vector<std::vector<lumvet::FieldValue>>> values_from_file(
    const std::string& path, const lumvet::Document& document);
// What belongs in a file of that name. Errors: invalid_argument for other names.
lumvet::Result<std::string> values_for_file(const std::string& path,
                                            const lumvet::Document& document,
                                            const lumvet::Form& form);

}  // namespace tool

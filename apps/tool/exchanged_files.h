// SPDX-License-Identifier: Apache-2.0
// Values of fields and marks in the files that programs exchange: JSON, tables, XFDF, FDF.
#pragma once

#include <string>
#include <vector>

#include <lumvet/document/document.h>
#include <lumvet/exchange/exchange.h>

namespace tool {

// What a file holds by the end of its name; "-" is JSON from standard input. Of a table, and of an
// array in JSON, each row. Errors: io; malformed, with the place; invalid_argument for other names.
lumvet::Result<std::vector<std::vector<lumvet::FieldValue>>> values_from_file(
    const std::string& path, const lumvet::Document& document);
// What belongs in a file of that name. Errors: invalid_argument for other names.
lumvet::Result<std::string> values_for_file(const std::string& path,
                                            const lumvet::Document& document,
                                            const lumvet::Form& form);

// The marks of a file for a document, which is JSON where its name does not say otherwise; what did
// not fit is in the findings. Errors: as values_from_file's.
lumvet::Result<lumvet::Exchange> marks_from_file(const std::string& path,
                                                 const lumvet::Document& document);
// Of these kinds with the answers to them, or all for none.
lumvet::Result<std::string> marks_for_file(const std::string& path,
                                           const lumvet::Document& document,
                                           const std::vector<lumvet::Annotation::Kind>& kinds);

}  // namespace tool

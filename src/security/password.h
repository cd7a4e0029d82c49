// SPDX-License-Identifier: Apache-2.0
// A password as a person types it to the bytes that a security handler hashes.
#pragma once

#include <string>
#include <string_view>
#include <vector>

namespace lumvet::security {

// The forms to try, the standard's own first: PDFDocEncoding up to revision 4 (ISO 32000-2,
// 7.6.4.3.2), SASLprep as UTF-8 from 5 on (7.6.4.3.3), then the bytes as they are, which is what
// careless writers hash.
std::vector<std::string> password_forms(std::string_view utf8, int revision);

}  // namespace lumvet::security

// SPDX-License-Identifier: Apache-2.0
// The look of a mark within XFDF (ISO 19444-1): the values of its form as XML, and that in base64.
//
//   <DICT KEY="AP"><STREAM KEY="N"><ARRAY KEY="BBox"><FIXED VAL="0"/>…</ARRAY>…
//   <DATA MODE="RAW" ENCODING="HEX">789C…</DATA></STREAM></DICT>
//
// Threads: free functions.
#pragma once

#include <optional>
#include <string>

#include "lumvet/objects/object.h"

namespace lumvet::exchange {

// Of a form that stands alone. Errors: as reading its streams.
Result<std::string> look_as_xml(const Object& form);
// A form that stands alone; nothing for what is none.
std::optional<Object> look_from_xml(std::string_view base64);

}  // namespace lumvet::exchange

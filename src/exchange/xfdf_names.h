// SPDX-License-Identifier: Apache-2.0
// What XFDF calls things (ISO 19444-1).
#pragma once

#include <array>
#include <string_view>
#include <utility>

#include "lumvet/document/annotation.h"

namespace lumvet::exchange {

inline constexpr std::array<std::pair<std::string_view, Annotation::Kind>, 18> kXfdfKinds = {
    {{"text", Annotation::Kind::text},
     {"link", Annotation::Kind::link},
     {"freetext", Annotation::Kind::free_text},
     {"line", Annotation::Kind::line},
     {"square", Annotation::Kind::square},
     {"circle", Annotation::Kind::circle},
     {"polygon", Annotation::Kind::polygon},
     {"polyline", Annotation::Kind::polyline},
     {"highlight", Annotation::Kind::highlight},
     {"underline", Annotation::Kind::underline},
     {"squiggly", Annotation::Kind::squiggly},
     {"strikeout", Annotation::Kind::strike_out},
     {"caret", Annotation::Kind::caret},
     {"stamp", Annotation::Kind::stamp},
     {"ink", Annotation::Kind::ink},
     {"fileattachment", Annotation::Kind::file_attachment},
     {"redact", Annotation::Kind::redact},
     {"watermark", Annotation::Kind::watermark}}};

// By their bits, from the first on.
inline constexpr std::array<std::string_view, 10> kXfdfFlags = {
    "invisible", "hidden",   "print",  "nozoom",       "norotate",
    "noview",    "readonly", "locked", "togglenoview", "lockedcontents"};

inline constexpr std::array<std::pair<std::string_view, std::string_view>, 5> kXfdfBorders = {
    {{"solid", "S"}, {"dash", "D"}, {"bevelled", "B"}, {"inset", "I"}, {"underline", "U"}}};

inline constexpr std::array<std::string_view, 3> kXfdfSides = {"left", "centered", "right"};

}  // namespace lumvet::exchange

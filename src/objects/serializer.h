// SPDX-License-Identifier: Apache-2.0
// Objects to bytes (ISO 32000-2, 7.3): the shortest form that reads back as the same value.
#pragma once

#include <functional>
#include <string>

#include "lumvet/objects/object.h"

namespace lumvet::objects {

// What to write in place of a reference: another one, or null.
using ReferenceMap = std::function<Object(ObjectId)>;

// Appends everything but the bytes of streams, of which only the dictionary is written. Entries of
// dictionaries whose reference maps to null are left out.
void serialize(const Object& object, std::string& out, const ReferenceMap& map = nullptr);
void serialize(const Dict& dict, std::string& out, const ReferenceMap& map = nullptr);

// Two hexadecimal digits for each byte.
void append_hex(std::string_view bytes, std::string& out);

// Shortest decimal without an exponent; what is not finite is written as 0.
void serialize_number(double value, std::string& out);

}  // namespace lumvet::objects

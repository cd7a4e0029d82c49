// SPDX-License-Identifier: Apache-2.0
// The files that options name, as those of passwords, certificates and outlines.
#pragma once

#include <string>

#include <lumvet/base/result.h>

namespace tool {

// All bytes of a file, or of standard input for "-". Each is read once, however often and for
// however many documents it is asked for, since a pipe cannot be read again. Errors: io, in words
// that call it `what`, as "password file".
lumvet::Result<std::string> given_file(const std::string& path, const std::string& what);

}  // namespace tool

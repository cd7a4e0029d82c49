// SPDX-License-Identifier: Apache-2.0
// The steps of an arrangement as they are written on the command line: "rotate 3 right".
#pragma once

#include <string>

#include "arranged_pages.h"
#include "secrets.h"

namespace tool {

// What can be written, for the help.
extern const char* const kArrangeSteps;

// Does one step. Errors: invalid_argument with how it is written; as opening a document's.
lumvet::Status do_step(const std::string& step, const Secrets& secrets, ArrangedPages& arrangement);

}  // namespace tool

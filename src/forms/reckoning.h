// SPDX-License-Identifier: Apache-2.0
// Fields whose values follow from those of others (ISO 32000-2, 12.6.3, table 199).
//
// Threads: free functions.
#pragma once

#include <vector>

#include "lumvet/base/findings.h"
#include "lumvet/document/form.h"

namespace lumvet::forms {

// Sets the values that follow, in the form's order, and gives the places of the fields that have
// another value now. What is left to scripts, or reckoned from what is no field, is told.
std::vector<std::size_t> reckon(Form& form, std::vector<Finding>& findings);

}  // namespace lumvet::forms

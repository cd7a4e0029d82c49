// SPDX-License-Identifier: Apache-2.0
// New fields as the dictionaries of a form (ISO 32000-2, 12.7.4 and 12.5.6.19).
//
// Threads: free functions.
#pragma once

#include <vector>

#include "file/ledger.h"
#include "lumvet/document/document.h"
#include "lumvet/forms/fields.h"

namespace lumvet::forms {

// Whether it can be one. Errors: invalid_argument, with the reason.
Status check(const NewField& field);
// Without places and values.
Dict field_dict(const NewField& field, const std::string& own_name);
// Without its rectangle.
Dict widget_dict(const NewField& field, ObjectId page);
Object script_action(const std::string& script);
// Gives new fields, which stand in the form, their values and looks. Errors: invalid_argument for
// values that they do not take.
Status fill_new(const Document& document, file::Ledger& ledger, const Form& form,
                const std::vector<ObjectId>& ids, const std::vector<NewField>& fields);

}  // namespace lumvet::forms

// SPDX-License-Identifier: Apache-2.0
// The fields of a form filled in, reset and checked (ISO 32000-2, 12.7), with appearances that
// every viewer shows.
//
//   auto form = lumvet::EditableDocument::of(opened);
//   lumvet::fill_fields(form, {{"bridge", {"Merrow Ford"}}, {"grade", {"3"}}, {"dry", {"on"}}})
//       .value();
//   form.save("inspection-12.pdf").value();
//
// Values are UTF-8. A text keeps what its format makes of it (`kept_value`); of a list they are
// what is exported or shown; a box takes "on", "off", or the name of its state; radio buttons take
// what is chosen. Fields that are reckoned from others follow, in the order that the form states;
// fields with scripts of their own keep their values, and the report says so. Where the form asks
// for new appearances, all are made, and it asks no more. A form that is described as XML as well
// (XFA) loses that description, which would show the old values.
//
// Errors of all changes: invalid_argument, with the field and what it takes; password when the
// document's owner lets nobody fill it in; unsupported when a certificate allows no such change
// (12.8.2.2), for what is read-only, for what a signature locks (12.8.2.4), and for what is no
// value to be kept: of push buttons, signatures and passwords; io, need_more_data, limit. Threads:
// as EditableDocument's; the rest are free functions. Since: 0.2
#pragma once

#include <string>
#include <vector>

#include "lumvet/document/form.h"
#include "lumvet/edit/editable_document.h"

namespace lumvet {

struct FieldValue {
  std::string name = {};                 // full
  std::vector<std::string> values = {};  // several of a list; none empties it
  bool operator==(const FieldValue&) const = default;
};

struct FillOptions {
  // What does not fit is left out and told, and the rest is filled in.
  bool skips_unfit = false;
  bool fills_read_only = false;
  bool reckons = true;  // fields that follow from others
};

struct FillReport {
  int filled = 0;    // fields that were named and filled in
  int reckoned = 0;  // others that followed
  // What was left out, what stays as it was, what is required and empty.
  std::vector<Finding> findings = {};
};

// One step.
LUMVET_EXPORT Result<FillReport> fill_fields(EditableDocument& document,
                                             const std::vector<FieldValue>& values,
                                             const FillOptions& options = {});
// Fields with what the form says they begin with, or empty; all that hold values when none is
// named.
LUMVET_EXPORT Result<FillReport> reset_fields(EditableDocument& document,
                                              const std::vector<std::string>& names = {});

// What a field would keep of a value. Errors: invalid_argument, with what it takes; unsupported for
// one that keeps none.
LUMVET_EXPORT Result<std::vector<std::string>> checked_values(
    const FormField& field, const std::vector<std::string>& values);
// What a field holds, as it is exported: of boxes "Off" or what they stand for.
LUMVET_EXPORT std::vector<std::string> exported_values(const FormField& field);
// The values of all fields that hold some and are to be exported.
LUMVET_EXPORT std::vector<FieldValue> values_of(const Form& form);

}  // namespace lumvet

// SPDX-License-Identifier: Apache-2.0
// The tree of fields of a form, as it is changed in a ledger (ISO 32000-2, 12.7.3 and 12.7.4).
//
// Threads: one thread at a time.
#pragma once

#include <map>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "annotate/marks_of_page.h"
#include "edit/editable_document_impl.h"
#include "lumvet/document/form.h"

namespace lumvet::forms {

// "gap.width" in "gap" and "width"; the first is empty for one that stands in no group.
struct FieldPath {
  std::string group;
  std::string own;
};
FieldPath path_of(const std::string& name);

class FormTree {
 public:
  using Impl = Inside<EditableDocument>::Impl;
  FormTree(Impl& impl, const Document& document, file::Ledger& ledger)
      : impl_(impl), document_(document), ledger_(ledger), catalog_(impl.catalog(ledger)) {}
  // The form as it was before the step. Errors: as Document::form's.
  Status open();
  const Form& form() const { return form_; }

  // All of that name; errors: invalid_argument, with the nearest, when there is none.
  Result<std::vector<const FormField*>> named(const std::string& name) const;
  // Errors: invalid_argument for what is no name, and for one that is taken.
  Status check_free(const std::string& name) const;
  // The group of that name, which is made if need be; nothing for the form itself. Errors:
  // invalid_argument when it is a field.
  Result<std::optional<ObjectId>> group(const std::string& name);
  // Behind all others of a group, or of the form.
  void put_in(ObjectId field, std::optional<ObjectId> group);
  void take_out(ObjectId field);
  // Into the order in which fields are reckoned.
  void reckon_last(ObjectId field);

  // Errors: invalid_argument for a page that is not there.
  Result<annotate::MarksOfPage*> page(int index);
  Result<ObjectId> page_id(int index);
  // Writes what was changed; what is changed afterwards is written by the next.
  void finish();

 private:
  Dict form_dict() const;
  // The fields of a group, or of the form, as they are changed.
  Array& kids_of(std::optional<ObjectId> group);
  void write_kids();

  Impl& impl_;
  const Document& document_;
  file::Ledger& ledger_;
  Dict catalog_;
  Form form_;
  std::set<std::string> names_;
  std::map<std::string, ObjectId> new_names_;
  std::map<std::optional<ObjectId>, Array> kids_;
  std::map<int, ObjectId> page_ids_;
  std::map<int, annotate::MarksOfPage> pages_;
};

}  // namespace lumvet::forms

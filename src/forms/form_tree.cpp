// SPDX-License-Identifier: Apache-2.0
#include "forms/form_tree.h"

#include <algorithm>

#include "edit/field_removal.h"
#include "edit/form_dict.h"
#include "edit/view_entries.h"
#include "lumvet/base/nearest_word.h"
#include "objects/text_string.h"

namespace lumvet::forms {

FieldPath path_of(const std::string& name) {
  const std::size_t dot = name.rfind('.');
  if (dot == std::string::npos) return {"", name};
  return {name.substr(0, dot), name.substr(dot + 1)};
}

Status FormTree::open() {
  LUMVET_TRY(form_, document_.form());
  for (const FormField& field : form_.fields) names_.insert(field.name);
  return Done{};
}

Result<std::vector<const FormField*>> FormTree::named(const std::string& name) const {
  std::vector<const FormField*> found;
  std::vector<std::string> names;
  for (const FormField& field : form_.fields) {
    names.push_back(field.name);
    if (field.name == name && field.id != ObjectId()) found.push_back(&field);
  }
  if (!found.empty()) return found;
  const auto near = nearest_word(name, names);
  return Error(ErrorCode::invalid_argument,
               "there is no field '" + name + "'" + (near ? "; did you mean " + *near + "?" : ""));
}

Status FormTree::check_free(const std::string& name) const {
  const auto wrong = [&](const std::string& why) {
    return Error(ErrorCode::invalid_argument, "'" + name + "' " + why);
  };
  if (name.empty() || name.front() == '.' || name.back() == '.' ||
      name.find("..") != std::string::npos)
    return wrong("is no name of a field");
  const bool is_taken = new_names_.contains(name) || names_.contains(name);
  return is_taken ? Status(wrong("is a field already")) : Status(Done{});
}

Result<std::optional<ObjectId>> FormTree::group(const std::string& name) {
  if (name.empty()) return std::optional<ObjectId>();
  if (const auto made = new_names_.find(name); made != new_names_.end())
    return std::optional(made->second);
  for (const FormField& field : form_.fields) {
    if (field.name != name) continue;
    if (!field.is_terminal || field.kind == FormField::Kind::group) return std::optional(field.id);
    return Error(ErrorCode::invalid_argument, "'" + name + "' is a field, and no group of fields");
  }
  const FieldPath path = path_of(name);
  LUMVET_TRY(const auto above, group(path.group));
  const ObjectId id =
      ledger_.add(Dict{{"T", Object::string(objects::utf8_to_text(path.own))}, {"Kids", Array()}});
  put_in(id, above);
  new_names_.emplace(name, id);
  return std::optional(id);
}

Array& FormTree::kids_of(std::optional<ObjectId> group) {
  const auto known = kids_.find(group);
  if (known != kids_.end()) return known->second;
  const Dict above = group ? ledger_.resolve(Object(*group)).as_dict() : form_dict();
  return kids_.emplace(group, ledger_.get(above, group ? "Kids" : "Fields").as_array())
      .first->second;
}

void FormTree::write_kids() {
  for (auto& [group, kids] : kids_) {
    Dict above = group ? ledger_.resolve(Object(*group)).as_dict() : form_dict();
    above.set(group ? "Kids" : "Fields", std::move(kids));
    if (group)
      ledger_.set(*group, std::move(above));
    else
      editing::set_form_dict(ledger_, catalog_, std::move(above));
  }
  kids_.clear();
}

void FormTree::put_in(ObjectId field, std::optional<ObjectId> group) {
  Dict dict = ledger_.resolve(Object(field)).as_dict();
  dict.set("Parent", group ? Object(*group) : Object());
  ledger_.set(field, std::move(dict));
  kids_of(group).push_back(field);
}

void FormTree::take_out(ObjectId field) {
  write_kids();
  const Dict dict = ledger_.resolve(Object(field)).as_dict();
  editing::take_from_form(ledger_, catalog_, field, dict["Parent"],
                          core_of(document_).store().limits().nesting);
}

void FormTree::reckon_last(ObjectId field) {
  Dict dict = form_dict();
  Array order = ledger_.get(dict, "CO").as_array();
  order.push_back(field);
  dict.set("CO", std::move(order));
  editing::set_form_dict(ledger_, catalog_, std::move(dict));
}

Result<ObjectId> FormTree::page_id(int index) {
  if (index < 0 || index >= document_.page_count())
    return editing::no_such_page(index, document_.page_count());
  if (const auto known = page_ids_.find(index); known != page_ids_.end()) return known->second;
  LUMVET_TRY(const auto ids, editing::ids_of_pages(document_, ledger_, catalog_, {index}));
  page_ids_.emplace(index, ids[0]);
  return ids[0];
}

Result<annotate::MarksOfPage*> FormTree::page(int index) {
  LUMVET_TRY(const ObjectId id, page_id(index));
  return &pages_.try_emplace(index, ledger_, id).first->second;
}

void FormTree::finish() {
  write_kids();
  for (auto& [index, page] : pages_) page.finish();
  pages_.clear();
  impl_.put_catalog(ledger_, catalog_);
}

// With what every form begins with.
Dict FormTree::form_dict() const {
  Dict dict = editing::form_dict(ledger_, catalog_);
  if (!dict.contains("Fields")) dict.set("Fields", Array());
  if (!dict.contains("DA")) dict.set("DA", Object::string("/Helv 0 Tf 0 g"));
  if (!dict.contains("DR"))
    dict.set("DR", Dict{{"Font", Dict{{"Helv", Dict{{"Type", Object::name("Font")},
                                                    {"Subtype", Object::name("Type1")},
                                                    {"BaseFont", Object::name("Helvetica")}}}}}});
  return dict;
}

}  // namespace lumvet::forms

// SPDX-License-Identifier: Apache-2.0
// The form of a new document (ISO 32000-2, 12.7), from the fields of several: those whose widgets
// stand on pages that are taken along, with the groups that they are in. Or such fields beside
// those of a form that there is.
//
// Threads: one thread at a time.
#pragma once

#include <deque>
#include <map>
#include <set>
#include <string>
#include <vector>

#include "assemble/source_copier.h"
#include "file/ledger.h"

namespace lumvet::assemble {

class FormBuilder {
 public:
  struct Widget {
    Object source;  // as the page names it
    ObjectId copy;
  };

  // With `joins` fields of one name become one, if they are of one kind; otherwise the later gets
  // another name.
  FormBuilder(file::Ledger& target, bool joins) : target_(target), joins_(joins) {}
  // Upon a form of the ledger, as its catalog names it; null for none. Its fields stay as they are,
  // and others of their names get other names.
  FormBuilder(file::Ledger& target, const Object& form);

  // The fields of widgets of one source, whose copies are in the ledger; what comes later of the
  // same source belongs to the same fields.
  void add(SourceCopier& copier, const std::vector<Widget>& widgets);
  // For the catalog. Null without fields; the form that there is when nothing comes to it.
  Object finish();

  int renamed() const { return renamed_; }
  int joined() const { return joined_; }

 private:
  struct Field {
    Dict own;          // without name, parent and kids
    std::string name;  // of its own, as it stands
    std::vector<Field*> kids;
    std::vector<ObjectId> widgets;
  };
  using NewNames = std::map<std::string, std::string>;

  // What one source brings.
  struct Part {
    SourceCopier* copier;
    Dict form;
    NewNames fonts;
    std::map<ObjectId, Field*> fields;
    std::vector<Field*> roots;
  };

  Field* field_of(Part& part, const Object& reference, int depth);
  Field* make_field(Part& part, const Dict& dict);
  Part& part_of(SourceCopier& copier);
  void take_roots(Part& part);
  void take_own_resources();
  NewNames take_resources(SourceCopier& copier, const Dict& form);
  void use_names(const NewNames& fonts, Dict& dict) const;
  void take_root(Field* root);
  void join(Field& into, Field& from);
  bool are_alike(const Field& a, const Field& b) const;
  bool are_equal(const Object& a, const Object& b, int depth = 0) const;
  ObjectId write(const Field& field, const Object& parent);

  file::Ledger& target_;
  bool joins_;
  Object stated_;                // the form that there is
  Dict own_;                     // of it
  std::set<std::string> taken_;  // names of its fields
  std::deque<Part> parts_;
  std::deque<Field> fields_;
  std::vector<Field*> roots_;
  std::map<std::string, std::map<std::string, Object>> resources_;  // by category and name
  Object appearance_;  // /DA of the first form, which those of others are compared with
  Object alignment_;
  bool needs_appearances_ = false;
  int renamed_ = 0;
  int joined_ = 0;
};

}  // namespace lumvet::assemble

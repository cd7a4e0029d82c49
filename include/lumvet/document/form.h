// SPDX-License-Identifier: Apache-2.0
// The interactive form of a document (ISO 32000-2, 12.7), as it stands in the file.
//
//   for (const lumvet::FormField& field : document.form().value().fields)
//     if (field.is_terminal) std::cout << field.name << ": " << field.value() << '\n';
//
// Threads: values. Since: 0.2
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "lumvet/base/export.h"
#include "lumvet/document/action.h"
#include "lumvet/geometry/matrix.h"
#include "lumvet/objects/object.h"

namespace lumvet {

// The place of a field on a page (12.5.6.19).
struct FieldWidget {
  ObjectId id = {};
  std::optional<int> page = {};  // from 0
  Rect rect = {};                // points of the page's space
  std::string state = {};        // of a box or a button: "Off", "Yes"
  std::string on_state = {};     // the one it has when it is on
};

struct FieldOption {
  std::string exported = {};  // UTF-8
  std::string shown = {};     // UTF-8
  bool operator==(const FieldOption&) const = default;
};

// Fields that nobody may change after a signature (12.8.2.4).
struct FieldLock {
  enum class Which { all, these, all_but_these };
  Which which = Which::all;
  std::vector<std::string> names = {};  // full, and of all fields below them

  LUMVET_EXPORT bool holds(const std::string& name) const;
};

struct FormField {
  enum class Kind {
    group,  // of fields, without a type of its own
    push_button,
    check_box,
    radio_buttons,
    text,
    list_box,
    combo_box,
    signature,
  };
  enum class Alignment { left, centered, right };

  ObjectId id = {};
  std::string name = {};   // with those of its parents: "inspection.bridge"; UTF-8
  std::string label = {};  // for people, in place of the name
  std::string export_name = {};
  int parent = -1;           // its place in Form::fields
  int depth = 0;             // 0 for the outermost
  bool is_terminal = false;  // no fields below it
  Kind kind = Kind::group;
  std::int64_t flags = 0;  // all of them, as tables 227, 229, 231 and 233 number them

  std::vector<std::string> values = {};  // UTF-8; several of a list; empty when there is none
  std::vector<std::string> default_values = {};
  std::vector<FieldOption> options = {};     // of lists; what radio buttons export
  std::optional<std::int64_t> longest = {};  // characters of a text
  Alignment alignment = Alignment::left;
  std::string default_appearance = {};  // operators that set font and color (12.7.4.3)
  Object signature = {};                // the signature dictionary of a field that is signed
  // The signed field whose signature ends when this one is changed; empty without.
  std::string locked_by = {};
  std::vector<FieldWidget> widgets = {};
  std::vector<Trigger> triggers = {};

  std::string value() const { return values.empty() ? std::string() : values.front(); }
  bool is_read_only() const { return has_flag(1); }
  bool is_required() const { return has_flag(2); }
  bool is_exported() const { return !has_flag(3); }
  bool is_multiline() const { return kind == Kind::text && has_flag(13); }
  bool is_password() const { return kind == Kind::text && has_flag(14); }
  bool has_cells() const { return kind == Kind::text && has_flag(25); }  // one for each character
  bool takes_several() const { return kind == Kind::list_box && has_flag(22); }
  bool is_editable() const { return kind == Kind::combo_box && has_flag(19); }

 private:
  bool has_flag(int bit) const { return (flags >> (bit - 1) & 1) != 0; }
};

struct Form {
  std::vector<FormField> fields = {};       // each before those below it
  std::vector<int> calculation_order = {};  // places in `fields`
  std::string default_appearance = {};
  bool needs_appearances = false;  // a viewer is asked to draw the fields anew
  bool has_signatures = false;
  bool append_only = false;  // a signature would be broken by any other way of saving
  bool has_xfa = false;      // also described as XML, which is left unread
};

}  // namespace lumvet

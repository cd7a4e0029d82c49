// SPDX-License-Identifier: Apache-2.0
// Fields of forms made, moved, renamed, ordered and taken away (ISO 32000-2, 12.7).
//
//   auto form = lumvet::EditableDocument::of(opened);
//   lumvet::NewField gap{.name = "gap.width", .kind = lumvet::FormField::Kind::text};
//   gap.places = {{.page = 0, .area = {190, 120, 80, 20}}};
//   gap.format = lumvet::FieldFormat{.decimals = 1, .currency = " mm"};
//   lumvet::add_field(form, gap).value();
//   form.save("sheet-2.pdf").value();
//
// Places are in points from the top left corner of the page as it is shown, and what stands in them
// is upright there. Each change is one step. Errors of all: invalid_argument, with the field, for
// names that there are not, or are already; password when the document's owner does not let it be
// changed; unsupported when a certificate allows no such change, and for fields that a signature
// locks (12.8.2.4); io, need_more_data, limit.
//
// Threads: as EditableDocument's. Since: 0.2
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "lumvet/document/field_format.h"
#include "lumvet/document/page.h"
#include "lumvet/draw/color.h"
#include "lumvet/edit/editable_document.h"

namespace lumvet {

struct WidgetPlace {
  int page = 0;  // from 0
  PageArea area = {};
  std::string state = {};  // of a radio button, or one box of several: what it stands for
};

struct NewField {
  std::string name = {};  // "gap.width" stands in the group "gap", which is made if need be
  FormField::Kind kind = FormField::Kind::text;
  std::vector<WidgetPlace> places = {};
  std::string label = {};  // for people, in place of the name
  std::vector<std::string> values = {};
  std::vector<std::string> default_values = {};
  std::vector<FieldOption> options = {};  // of lists
  std::optional<int> longest = {};        // characters of a text
  FormField::Alignment alignment = FormField::Alignment::left;
  bool is_read_only = false;
  bool is_required = false;
  bool is_multiline = false;
  bool is_password = false;
  bool has_cells = false;      // one for each character; with `longest`
  bool takes_several = false;  // of a list
  bool is_editable = false;    // a combo box that takes other texts as well
  std::string caption = {};    // of a push button
  double size = 0;             // points; 0 for as large as there is room
  Color color = {};            // of what stands in it
  std::optional<Color> background = {};
  std::optional<Color> border = Color::gray(0.5);
  double border_width = 0.75;  // points
  std::optional<FieldFormat> format = {};
  std::optional<FieldRange> range = {};
  std::optional<FieldReckoning> reckoning = {};  // after all that are there
};

// Gives the field's object.
LUMVET_EXPORT Result<ObjectId> add_field(EditableDocument& document, const NewField& field);
// Many in one step, in order.
LUMVET_EXPORT Result<std::vector<ObjectId>> add_fields(EditableDocument& document,
                                                       const std::vector<NewField>& fields);
// One of the places of a field, counted from 0, elsewhere, on its page or another.
LUMVET_EXPORT Status move_field(EditableDocument& document, const std::string& name,
                                std::size_t place, int page, const PageArea& area);
// Of a field or a group; into another group when the new name says so. Sums follow.
LUMVET_EXPORT Status rename_field(EditableDocument& document, const std::string& name,
                                  const std::string& new_name);
// Fields, and groups with all in them.
LUMVET_EXPORT Status remove_fields(EditableDocument& document,
                                   const std::vector<std::string>& names);
// The order in which a key leads from field to field of a page; those that are not named follow in
// the order that they had.
LUMVET_EXPORT Status set_tab_order(EditableDocument& document, int page,
                                   const std::vector<std::string>& names);

}  // namespace lumvet

// SPDX-License-Identifier: Apache-2.0
#include "lumvet/forms/fields.h"

#include <algorithm>
#include <array>

#include "assemble/equal_objects.h"
#include "document/form.h"
#include "document/geometry_objects.h"
#include "document/inside.h"
#include "edit/structure_removal.h"
#include "forms/field_writer.h"
#include "forms/form_tree.h"
#include "forms/locked_fields.h"
#include "forms/new_field.h"
#include "lumvet/annotate/annotations.h"
#include "lumvet/forms/filling.h"
#include "objects/text_string.h"

namespace lumvet {
namespace {

using forms::FieldPath;
using forms::FormTree;

// A change of a form's tree as one step.
template <typename Change>
Status form_step(EditableDocument& document, const Change& change) {
  auto& impl = Inside<EditableDocument>::impl(document);
  return impl.step([&](const Document& now, file::Ledger& ledger) -> Result<std::string> {
    LUMVET_RETURN_IF_ERROR(impl.may_be_annotated());
    FormTree tree(impl, now, ledger);
    LUMVET_RETURN_IF_ERROR(tree.open());
    LUMVET_TRY(std::string what, change(now, ledger, tree));
    tree.finish();
    assemble::join_equal_objects(ledger, impl.file->first_beyond());
    return what;
  });
}

// The form as it is in the ledger.
Form form_in(const Document& document, const file::Ledger& ledger) {
  const document::Core core(core_of(document), ledger.store());
  return document::read_form(core);
}

// Where widgets stand on a page, and how they are turned to be upright there.
Result<Dict> placed(const Document& document, Dict widget, int index, const PageArea& area) {
  LUMVET_TRY(const Page page, document.page(index));
  if (!(area.width > 0) || !(area.height > 0))
    return Error(ErrorCode::invalid_argument, "the place of a field has an extent");
  widget.set("Rect", document::array_of(page_rect(page, area)));
  const Object stated = store_of(document).get(widget, "MK");
  Dict look = stated.as_dict();
  look.set("R", page.rotation() == 0 ? Object() : Object(std::int64_t{page.rotation()}));
  widget.set("MK", look.is_empty() ? Object() : Object(std::move(look)));
  return widget;
}

// The new name in calls that reckon from fields of the old one, or of that group.
std::optional<FieldReckoning> renamed(const FormField& field, const std::string& name,
                                      const std::string& new_name) {
  auto reckoning = reckoning_of(field);
  if (!reckoning) return std::nullopt;
  const std::string group = name + ".";
  bool is_meant = false;
  for (std::string& from : reckoning->fields) {
    if (from != name && !from.starts_with(group)) continue;
    from.replace(0, name.size(), new_name);
    is_meant = true;
  }
  return is_meant ? reckoning : std::nullopt;
}

// What a field has from the groups above it, as its own.
void keep_inherited(const file::Ledger& ledger, Dict& field, int nesting) {
  Object above = field["Parent"];
  for (int level = 0; above.is_reference() && level < nesting; ++level) {
    const Object object = ledger.resolve(above);
    for (const char* key : {"FT", "Ff", "V", "DV", "DA", "Q", "MaxLen", "Opt"})
      if (!field.contains(key) && object.as_dict().contains(key))
        field.set(key, object.as_dict()[key]);
    above = object.as_dict()["Parent"];
  }
}

// The field of a name with all that stand below it.
std::vector<const FormField*> with_fields_below(const Form& form, const FormField& field) {
  std::vector<const FormField*> all;
  for (const FormField& other : form.fields)
    if (&other == &field || other.name.starts_with(field.name + ".")) all.push_back(&other);
  return all;
}

}  // namespace

Result<ObjectId> add_field(EditableDocument& document, const NewField& field) {
  LUMVET_TRY(const std::vector<ObjectId> ids, add_fields(document, {field}));
  return ids[0];
}

Result<std::vector<ObjectId>> add_fields(EditableDocument& document,
                                         const std::vector<NewField>& fields) {
  if (fields.empty()) return Error(ErrorCode::invalid_argument, "there is no field to add");
  std::vector<ObjectId> ids;
  LUMVET_RETURN_IF_ERROR(form_step(
      document,
      [&](const Document& now, file::Ledger& ledger, FormTree& tree) -> Result<std::string> {
        std::set<std::string> names;
        for (const NewField& field : fields) {
          LUMVET_RETURN_IF_ERROR(tree.check_free(field.name));
          if (!names.insert(field.name).second)
            return Error(ErrorCode::invalid_argument, "'" + field.name + "' is named twice");
          LUMVET_RETURN_IF_ERROR(forms::check(field));
          const FieldPath path = forms::path_of(field.name);
          LUMVET_TRY(const auto group, tree.group(path.group));
          const bool is_joined = field.places.size() == 1;
          Dict dict = forms::field_dict(field, path.own);
          const ObjectId id = ledger.reserve();
          Array kids;
          for (const WidgetPlace& place : field.places) {
            LUMVET_TRY(annotate::MarksOfPage * page, tree.page(place.page));
            LUMVET_TRY(const ObjectId page_id, tree.page_id(place.page));
            LUMVET_TRY(Dict widget,
                       placed(now, forms::widget_dict(field, page_id), place.page, place.area));
            ObjectId at = id;
            if (is_joined) {
              for (const auto& [key, value] : widget) dict.set(key, value);
            } else {
              widget.set("Parent", id);
              at = ledger.add(std::move(widget));
              kids.push_back(at);
            }
            page->list().push_back(at);
          }
          if (!kids.empty()) dict.set("Kids", std::move(kids));
          ledger.set(id, std::move(dict));
          tree.put_in(id, group);
          if (field.reckoning) tree.reckon_last(id);
          ids.push_back(id);
        }
        tree.finish();
        LUMVET_RETURN_IF_ERROR(forms::fill_new(now, ledger, form_in(now, ledger), ids, fields));
        return "added " + std::to_string(fields.size()) +
               (fields.size() == 1 ? " field" : " fields");
      }));
  return ids;
}

Status move_field(EditableDocument& document, const std::string& name, std::size_t place, int page,
                  const PageArea& area) {
  return form_step(
      document,
      [&](const Document& now, file::Ledger& ledger, FormTree& tree) -> Result<std::string> {
        LUMVET_TRY(const auto found, tree.named(name));
        const FormField& field = *found[0];
        if (place >= field.widgets.size() || field.widgets[place].id == ObjectId())
          return Error(ErrorCode::invalid_argument,
                       "field '" + name + "' has " + std::to_string(field.widgets.size()) +
                           (field.widgets.size() == 1 ? " place" : " places"));
        const FieldWidget& widget = field.widgets[place];
        LUMVET_TRY(const ObjectId page_id, tree.page_id(page));
        LUMVET_TRY(Dict dict, placed(now, ledger.resolve(Object(widget.id)).as_dict(), page, area));
        dict.set("P", page_id);
        // Boxes are drawn for the size that they have.
        dict.set("AP", Object());
        ledger.set(widget.id, std::move(dict));
        if (widget.page && *widget.page != page) {
          LUMVET_TRY(annotate::MarksOfPage * before, tree.page(*widget.page));
          std::erase(before->list(), Object(widget.id));
        }
        LUMVET_TRY(annotate::MarksOfPage * after, tree.page(page));
        if (std::find(after->list().begin(), after->list().end(), Object(widget.id)) ==
            after->list().end())
          after->list().push_back(widget.id);
        tree.finish();
        forms::FieldWriter writer(now, ledger);
        LUMVET_RETURN_IF_ERROR(writer.draw(field));
        LUMVET_RETURN_IF_ERROR(writer.finish());
        return "moved field " + name;
      });
}

Status rename_field(EditableDocument& document, const std::string& name,
                    const std::string& new_name) {
  return form_step(
      document,
      [&](const Document& now, file::Ledger& ledger, FormTree& tree) -> Result<std::string> {
        LUMVET_TRY(const auto found, tree.named(name));
        LUMVET_RETURN_IF_ERROR(tree.check_free(new_name));
        if (new_name.starts_with(name + "."))
          return Error(ErrorCode::invalid_argument, "'" + name + "' cannot stand within itself");
        const FieldPath path = forms::path_of(new_name);
        const bool is_moved = path.group != forms::path_of(name).group;
        for (const FormField* field : found)
          for (const FormField* each : with_fields_below(tree.form(), *field))
            LUMVET_RETURN_IF_ERROR(forms::check_lock(*each));
        for (const FormField* field : found) {
          Dict dict = ledger.resolve(Object(field->id)).as_dict();
          if (is_moved) keep_inherited(ledger, dict, store_of(now).limits().nesting);
          dict.set("T", Object::string(objects::utf8_to_text(path.own)));
          ledger.set(field->id, std::move(dict));
          if (!is_moved) continue;
          LUMVET_TRY(const auto group, tree.group(path.group));
          tree.take_out(field->id);
          tree.put_in(field->id, group);
        }
        for (const FormField& other : tree.form().fields)
          if (const auto reckoning = renamed(other, name, new_name)) {
            Dict dict = ledger.resolve(Object(other.id)).as_dict();
            Dict events = ledger.get(dict, "AA").as_dict();
            events.set("C", forms::script_action(script_of(*reckoning)));
            dict.set("AA", std::move(events));
            ledger.set(other.id, std::move(dict));
          }
        return "renamed field " + name + " to " + new_name;
      });
}

Status remove_fields(EditableDocument& document, const std::vector<std::string>& names) {
  return form_step(
      document,
      [&](const Document& now, file::Ledger& ledger, FormTree& tree) -> Result<std::string> {
        if (names.empty()) return Error(ErrorCode::invalid_argument, "no field is named");
        std::set<ObjectId> objects;  // of fields and their places
        for (const std::string& name : names) {
          LUMVET_TRY(const auto found, tree.named(name));
          for (const FormField* field : found) {
            tree.take_out(field->id);
            for (const FormField* gone : with_fields_below(tree.form(), *field)) {
              LUMVET_RETURN_IF_ERROR(forms::check_lock(*gone));
              for (const FieldWidget& widget : gone->widgets) {
                if (widget.page) {
                  LUMVET_TRY(annotate::MarksOfPage * page, tree.page(*widget.page));
                  std::erase(page->list(), Object(widget.id));
                }
                if (widget.id != ObjectId()) objects.insert(widget.id);
              }
              if (gone->id != ObjectId()) objects.insert(gone->id);
            }
          }
        }
        editing::StructureRemoval(core_of(now), ledger, core_of(now).catalog())
            .remove_annotations(objects);
        return "removed " + std::to_string(names.size()) +
               (names.size() == 1 ? " field" : " fields");
      });
}

Status set_tab_order(EditableDocument& document, int page, const std::vector<std::string>& names) {
  return form_step(
      document, [&](const Document&, file::Ledger& ledger, FormTree& tree) -> Result<std::string> {
        LUMVET_TRY(annotate::MarksOfPage * marks, tree.page(page));
        Array& list = marks->list();
        std::vector<std::size_t> slots;
        for (std::size_t i = 0; i < list.size(); ++i)
          if (ledger.get(ledger.resolve(list[i]).as_dict(), "Subtype").is_name("Widget"))
            slots.push_back(i);
        Array ordered;
        const auto add = [&](const Object& widget) {
          if (std::find(ordered.begin(), ordered.end(), widget) == ordered.end())
            ordered.push_back(widget);
        };
        for (const std::string& name : names) {
          LUMVET_TRY(const auto found, tree.named(name));
          const std::size_t before = ordered.size();
          for (const FormField* field : found)
            for (const FieldWidget& widget : field->widgets)
              if (widget.page == page && widget.id != ObjectId()) add(Object(widget.id));
          if (ordered.size() == before)
            return Error(ErrorCode::invalid_argument,
                         "field '" + name + "' is not on page " + std::to_string(page + 1));
        }
        for (const std::size_t slot : slots) add(list[slot]);
        for (std::size_t i = 0; i < slots.size() && i < ordered.size(); ++i)
          list[slots[i]] = ordered[i];
        LUMVET_TRY(const ObjectId id, tree.page_id(page));
        tree.finish();
        Dict dict = ledger.resolve(Object(id)).as_dict();
        dict.set("Tabs", Object::name("W"));
        ledger.set(id, std::move(dict));
        return "ordered the fields of page " + std::to_string(page + 1);
      });
}

}  // namespace lumvet

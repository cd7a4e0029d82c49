// SPDX-License-Identifier: Apache-2.0
#include "sign/later_changes.h"

#include <algorithm>
#include <map>

#include "sign/field_words.h"
#include "sign/same_objects.h"

namespace lumvet::signing {
namespace {

using Kind = LaterChange::Kind;
using Allowed = LaterChange::Allowed;

constexpr double kLargestNote = 64;  // points; a larger one covers what it lies on

// Marks that nobody takes for a part of the page.
bool is_plain_mark(const Annotation& mark) {
  using Mark = Annotation::Kind;
  switch (mark.kind) {
    case Mark::text: return mark.rect.width() <= kLargestNote && mark.rect.height() <= kLargestNote;
    case Mark::highlight:
    case Mark::underline:
    case Mark::squiggly:
    case Mark::strike_out:
    case Mark::ink:
    case Mark::popup: return true;
    default: return false;
  }
}

class Comparison {
 public:
  Comparison(const Document& before, const Document& now, const ChangeRules& rules)
      : before_(before), now_(now), rules_(rules), objects_(before, now) {}

  Result<std::vector<LaterChange>> run() {
    LUMVET_RETURN_IF_ERROR(compare_fields());
    LUMVET_RETURN_IF_ERROR(compare_pages());
    LUMVET_RETURN_IF_ERROR(compare_catalog());
    LUMVET_RETURN_IF_ERROR(compare_trailer());
    return std::move(changes_);
  }

 private:
  void add(Kind kind, Allowed allowed, std::string what, std::optional<int> page = {}) {
    changes_.push_back({kind, allowed, page, std::move(what)});
  }

  bool forbids_marks() const {
    return rules_.certification == Certification::no_changes ||
           rules_.certification == Certification::fill_in;
  }
  // What a certificate never allows, and other signatures leave to whoever reads it.
  Allowed unless_certified() const {
    return rules_.certification == Certification::none ? Allowed::doubtful : Allowed::no;
  }

  Allowed filling(const std::string& name) const {
    if (rules_.certification == Certification::no_changes) return Allowed::no;
    const bool is_bound = std::any_of(rules_.locks.begin(), rules_.locks.end(),
                                      [&](const FieldLock& lock) { return lock.holds(name); });
    return is_bound ? Allowed::no : Allowed::yes;
  }

  // Fields, by their names and objects, since names may be there twice.
  using FieldKey = std::pair<std::string, ObjectId>;
  Status compare_fields() {
    LUMVET_TRY(const Form before, before_.form());
    LUMVET_TRY(const Form now, now_.form());
    std::map<FieldKey, const FormField*> old;
    std::set<FieldKey> current;
    for (const FormField& field : before.fields) {
      old.emplace(FieldKey(field.name, field.id), &field);
      for (const FieldWidget& widget : field.widgets) widgets_.insert(widget.id);
    }
    for (const FormField& field : now.fields) {
      for (const FieldWidget& widget : field.widgets) widgets_.insert(widget.id);
      const FieldKey key(field.name, field.id);
      current.insert(key);
      const auto found = old.find(key);
      if (found == old.end()) {
        // What stands in a new group is told by itself.
        if (field.kind != FormField::Kind::group) add_new(field);
      } else {
        LUMVET_RETURN_IF_ERROR(compare_field(*found->second, field));
      }
    }
    for (const auto& [key, field] : old)
      if (!current.contains(key))
        add(Kind::field, Allowed::no, "field " + field->name + " was taken away");
    if (before.needs_appearances != now.needs_appearances)
      add(Kind::other, unless_certified(), "fields are to be drawn anew by whoever shows them");
    return Done{};
  }

  Allowed signing(const FormField& field, bool is_new) const {
    const bool is_timestamp = is_document_timestamp(field);
    if (rules_.certification == Certification::no_changes)
      return is_timestamp ? Allowed::yes : Allowed::no;
    if (filling(field.name) == Allowed::no && !is_timestamp && !is_new) return Allowed::no;
    const bool is_seen =
        std::any_of(field.widgets.begin(), field.widgets.end(), [](const FieldWidget& widget) {
          return widget.rect.width() > 0 && widget.rect.height() > 0;
        });
    // Its look is whatever its maker wants, where nobody who certified the document had left room.
    const bool is_strange = is_new && is_seen && rules_.certification != Certification::none;
    return is_strange ? Allowed::doubtful : Allowed::yes;
  }

  bool is_document_timestamp(const FormField& field) const {
    const auto signature = now_.resolve(field.signature);
    return signature.ok() && signature->as_dict()["SubFilter"].is_name("ETSI.RFC3161");
  }

  void add_new(const FormField& field) {
    if (field.kind != FormField::Kind::signature) {
      add(Kind::field, unless_certified(), "field " + field.name + " was added", page_of(field));
      return;
    }
    const bool is_signed = !field.signature.is_null();
    add(Kind::signature, signing(field, true),
        is_signed ? (is_document_timestamp(field) ? "a timestamp of the whole was added"
                                                  : "signed again in field " + field.name)
                  : "the signature field " + field.name + " was added",
        page_of(field));
  }

  static std::optional<int> page_of(const FormField& field) {
    return field.widgets.empty() ? std::nullopt : field.widgets.front().page;
  }

  Status compare_field(const FormField& old, const FormField& field) {
    if (old.kind != field.kind) {
      add(Kind::field, Allowed::no, "field " + field.name + " is of another kind", page_of(field));
      return Done{};
    }
    // Where it stands, and all that nobody changes who fills it in or signs it.
    LUMVET_TRY(const bool is_set_up_so, same_set_up(old, field));
    if (!is_set_up_so)
      add(Kind::field, unless_certified(), "field " + field.name + " is set up otherwise",
          page_of(field));
    if (field.kind == FormField::Kind::group) return Done{};
    if (field.kind == FormField::Kind::signature) return compare_signature(old, field);
    const bool is_filled = old.values != field.values;
    if (is_filled) {
      add(Kind::field, filling(field.name), "field " + field.name + " was filled in",
          page_of(field));
      LUMVET_TRY(const auto misleading, misleading_look(now_, field));
      if (misleading)
        add(Kind::field, Allowed::doubtful, "field " + field.name + " " + *misleading,
            page_of(field));
    }
    LUMVET_TRY(const bool is_same_look, same_looks(old, field));
    if (!is_same_look && !is_filled)
      add(Kind::field, unless_certified(),
          "field " + field.name + " shows something else, with the value that it had",
          page_of(field));
    return Done{};
  }

  Status compare_signature(const FormField& old, const FormField& field) {
    LUMVET_TRY(const bool is_same, objects_.same(old.signature, field.signature));
    if (old.signature.is_null() && !field.signature.is_null()) {
      add(Kind::signature, signing(field, false), "signed in field " + field.name, page_of(field));
      return Done{};
    }
    if (!is_same) {
      add(Kind::signature, Allowed::no, "the signature of field " + field.name + " is another one",
          page_of(field));
      return Done{};
    }
    LUMVET_TRY(const bool is_same_look, same_looks(old, field));
    if (!is_same_look)
      add(Kind::signature, Allowed::no, "the mark of signature " + field.name + " is another one",
          page_of(field));
    return Done{};
  }

  // Kids, parents and pages are held against each other by themselves.
  Result<bool> same_but(ObjectId old_id, ObjectId id, std::set<std::string_view> without) {
    without.insert({"V", "I", "RV", "M", "Kids", "Parent", "P"});
    LUMVET_TRY(const Object old, before_.object(old_id));
    LUMVET_TRY(const Object now, now_.object(id));
    return objects_.same(old.as_dict(), now.as_dict(), without);
  }

  Result<bool> same_widgets(const FormField& old, const FormField& field,
                            const std::set<std::string_view>& without) {
    if (old.widgets.size() != field.widgets.size()) return false;
    for (std::size_t i = 0; i < old.widgets.size(); ++i) {
      LUMVET_TRY(const bool is_same, same_but(old.widgets[i].id, field.widgets[i].id, without));
      if (!is_same) return false;
    }
    return true;
  }

  Result<bool> same_set_up(const FormField& old, const FormField& field) {
    LUMVET_TRY(const bool is_same, same_but(old.id, field.id, {"AP", "AS"}));
    if (!is_same) return false;
    return same_widgets(old, field, {"AP", "AS"});
  }

  Result<bool> same_looks(const FormField& old, const FormField& field) {
    return same_widgets(old, field, {"TU", "DV"});
  }

  Status compare_pages() {
    if (before_.page_count() != now_.page_count())
      add(Kind::page, Allowed::no,
          "there were " + std::to_string(before_.page_count()) + " pages, and are " +
              std::to_string(now_.page_count()));
    const int count = std::min(before_.page_count(), now_.page_count());
    for (int i = 0; i < count; ++i) {
      LUMVET_TRY(const Page old, before_.page(i));
      LUMVET_TRY(const Page page, now_.page(i));
      LUMVET_TRY(const bool is_same,
                 objects_.same(old.dict(), page.dict(),
                               {"Annots", "Parent", "Tabs", "LastModified", "PieceInfo"}));
      if (!is_same || !has_same_boxes(old, page))
        add(Kind::page, Allowed::no, "page " + std::to_string(i + 1) + " shows something else", i);
      LUMVET_RETURN_IF_ERROR(compare_marks(old, page, i));
    }
    return Done{};
  }

  // Which they may have from above.
  static bool has_same_boxes(const Page& old, const Page& page) {
    const auto is_equal = [](const Rect& a, const Rect& b) {
      return a.left == b.left && a.bottom == b.bottom && a.right == b.right && a.top == b.top;
    };
    return is_equal(old.media_box(), page.media_box()) &&
           is_equal(old.crop_box(), page.crop_box()) && old.rotation() == page.rotation() &&
           old.user_unit() == page.user_unit();
  }

  Status compare_marks(const Page& old, const Page& page, int index) {
    LUMVET_TRY(const bool is_same, objects_.same(old.dict()["Annots"], page.dict()["Annots"]));
    if (is_same) return Done{};
    LUMVET_TRY(const std::vector<Annotation> before, old.annotations());
    LUMVET_TRY(const std::vector<Annotation> now, page.annotations());
    const auto find = [](const std::vector<Annotation>& list, ObjectId id) {
      return std::find_if(list.begin(), list.end(),
                          [&](const Annotation& mark) { return mark.id == id; });
    };
    const std::string on_page = " on page " + std::to_string(index + 1);
    for (const Annotation& mark : now) {
      if (widgets_.contains(mark.id) && mark.id != ObjectId()) continue;
      const auto found = find(before, mark.id);
      const bool is_new = found == before.end() || mark.id == ObjectId();
      if (!is_new) {
        LUMVET_TRY(const Object was, before_.object(mark.id));
        LUMVET_TRY(const Object is, now_.object(mark.id));
        LUMVET_TRY(const bool is_unchanged,
                   objects_.same(was.as_dict(), is.as_dict(), {"Popup", "P", "M"}));
        if (is_unchanged) continue;
      }
      const Allowed allowed = forbids_marks()                 ? Allowed::no
                              : is_new && is_plain_mark(mark) ? Allowed::yes
                                                              : Allowed::doubtful;
      add(Kind::annotation, allowed,
          "a mark (" + mark.type + ")" + on_page + (is_new ? " was added" : " was changed"), index);
    }
    for (const Annotation& mark : before) {
      const bool is_direct = mark.id == ObjectId();
      if (!is_direct && (widgets_.contains(mark.id) || find(now, mark.id) != now.end())) continue;
      add(Kind::annotation, forbids_marks() ? Allowed::no : Allowed::doubtful,
          "a mark (" + mark.type + ")" + on_page + " was taken away", index);
    }
    return Done{};
  }

  Status compare_catalog() {
    const Dict& before = before_.catalog();
    const Dict& now = now_.catalog();
    std::set<std::string> keys;
    for (const Dict* dict : {&before, &now})
      for (const auto& [key, value] : *dict) keys.insert(std::string(key));
    // What was held against each other already, or changes nothing that is seen.
    for (const char* known : {"Pages", "AcroForm", "Version", "Extensions", "Type"})
      keys.erase(known);
    for (const std::string& key : keys) {
      LUMVET_TRY(const bool is_same, objects_.same(before[key], now[key]));
      if (is_same) continue;
      if (key == "DSS")
        add(Kind::material, Allowed::yes, "material that proves signatures was added");
      else if (key == "Metadata")
        add(Kind::properties, properties(), "the document's properties are others");
      else if (key == "StructTreeRoot" && !changes_.empty())
        continue;  // follows from fields and marks
      else if (key == "Outlines" || key == "PageLabels" || key == "Dests" ||
               key == "ViewerPreferences")
        add(Kind::other, unless_certified(), "the catalog's /" + key + " is another one");
      else
        add(Kind::other, Allowed::no, "the catalog's /" + key + " is another one");
    }
    return compare_form_entries();
  }

  // The same objects in the same order, whatever became of these: fields are held against each
  // other one by one.
  Result<bool> is_same_list(const Object& before, const Object& now) {
    LUMVET_TRY(const Object old_list, before_.resolve(before));
    LUMVET_TRY(const Object list, now_.resolve(now));
    const Array& old_items = old_list.as_array();
    const Array& items = list.as_array();
    if (old_list.is_array() != list.is_array() || old_items.size() != items.size()) return false;
    for (std::size_t i = 0; i < items.size(); ++i)
      if (!items[i].is_reference() || !old_items[i].is_reference() ||
          items[i].as_reference() != old_items[i].as_reference())
        return false;
    return true;
  }

  // What all fields are drawn with may get more, and what there was stays what it was.
  Status compare_form_entries() {
    LUMVET_TRY(const Object before, before_.resolve(before_.catalog()["AcroForm"]));
    LUMVET_TRY(const Object now, now_.resolve(now_.catalog()["AcroForm"]));
    LUMVET_TRY(const bool is_same,
               objects_.same(before.as_dict(), now.as_dict(),
                             {"Fields", "CO", "SigFlags", "NeedAppearances", "DR", "DA"}));
    LUMVET_TRY(const bool is_same_order, is_same_list(before.as_dict()["CO"], now.as_dict()["CO"]));
    if ((!is_same || !is_same_order) && before.is_dict())
      add(Kind::other, unless_certified(), "the form is set up otherwise");
    LUMVET_TRY(const Object resources, before_.resolve(before.as_dict()["DR"]));
    LUMVET_TRY(const Object now_resources, now_.resolve(now.as_dict()["DR"]));
    for (const auto& [kind, value] : resources.as_dict()) {
      LUMVET_TRY(const Object old, before_.resolve(value));
      LUMVET_TRY(const Object current, now_.resolve(now_resources.as_dict()[kind]));
      for (const auto& [name, resource] : old.as_dict()) {
        LUMVET_TRY(const bool is_kept, objects_.same(resource, current.as_dict()[name]));
        if (!is_kept)
          add(Kind::other, Allowed::no,
              "what fields are drawn with (" + std::string(name) + ") is another one");
      }
    }
    return Done{};
  }

  Status compare_trailer() {
    LUMVET_TRY(const bool is_same_info,
               objects_.same(before_.trailer()["Info"], now_.trailer()["Info"]));
    if (!is_same_info) add(Kind::properties, properties(), "the document's properties are others");
    LUMVET_TRY(const bool is_same_lock,
               objects_.same(before_.trailer()["Encrypt"], now_.trailer()["Encrypt"]));
    if (!is_same_lock) add(Kind::other, Allowed::no, "the document is protected otherwise");
    return Done{};
  }

  Allowed properties() const {
    return rules_.certification == Certification::no_changes ? Allowed::no : Allowed::yes;
  }

  const Document& before_;
  const Document& now_;
  const ChangeRules& rules_;
  SameObjects objects_;
  std::set<ObjectId> widgets_;
  std::vector<LaterChange> changes_;
};

}  // namespace

Result<std::vector<LaterChange>> later_changes(const Document& as_signed, const Document& now,
                                               const ChangeRules& rules) {
  return Comparison(as_signed, now, rules).run();
}

}  // namespace lumvet::signing

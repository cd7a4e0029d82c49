// SPDX-License-Identifier: Apache-2.0
#include "sign/placing.h"

#include <algorithm>

#include "appearance/drawn_form.h"
#include "document/appearance.h"
#include "document/geometry_objects.h"
#include "document/inside.h"
#include "document/text_entries.h"
#include "edit/form_dict.h"
#include "forms/form_tree.h"
#include "lumvet/annotate/annotations.h"
#include "sign/seed_values.h"

namespace lumvet::signing {
namespace {

using Impl = Inside<EditableDocument>::Impl;
using document::text_object;

constexpr std::int64_t kPrint = 4;  // table 167
constexpr std::int64_t kLocked = 128;
constexpr std::int64_t kSignaturesExist = 1;  // table 225
constexpr std::int64_t kAppendOnly = 2;

const FormField* find_signed(const Form& form) {
  for (const FormField& field : form.fields)
    if (field.kind == FormField::Kind::signature && !field.signature.is_null()) return &field;
  return nullptr;
}

// The parameters of a transformation, which are those of a lock (tables 236 and 259).
Dict lock_dict(const FieldLock& lock) {
  Dict dict;
  switch (lock.which) {
    case FieldLock::Which::all: dict.set("Action", Object::name("All")); break;
    case FieldLock::Which::these: dict.set("Action", Object::name("Include")); break;
    case FieldLock::Which::all_but_these: dict.set("Action", Object::name("Exclude")); break;
  }
  if (lock.which == FieldLock::Which::all) return dict;
  Array names;
  names.reserve(lock.names.size());
  for (const std::string& name : lock.names) names.push_back(text_object(name));
  dict.set("Fields", std::move(names));
  return dict;
}

Dict reference(const char* method, Dict parameters) {
  return Dict{{"Type", Object::name("SigRef")},
              {"TransformMethod", Object::name(method)},
              {"TransformParams", std::move(parameters)}};
}

class Placing {
 public:
  Placing(Impl& impl, const Document& document, file::Ledger& ledger, const SignRequest& request,
          NewSignature& signature)
      : document_(document),
        ledger_(ledger),
        request_(request),
        signature_(signature),
        impl_(impl),
        tree_(impl, document, ledger) {}

  Result<Place> run() {
    LUMVET_RETURN_IF_ERROR(tree_.open());
    LUMVET_TRY(const FormField* existing, find());
    LUMVET_RETURN_IF_ERROR(check_rights(existing));
    Place place;
    if (existing != nullptr) {
      place = {existing->name, existing->id};
      LUMVET_RETURN_IF_ERROR(draw_existing(*existing));
    } else {
      LUMVET_TRY(place, add_field());
    }
    tree_.finish();
    LUMVET_RETURN_IF_ERROR(put_signature(place));
    return place;
  }

 private:
  // The field that is to be signed; null for one that has to be made.
  Result<const FormField*> find() const {
    if (request_.field.empty()) return nullptr;
    for (const FormField& field : tree_.form().fields) {
      if (field.name != request_.field) continue;
      const auto wrong = [&](const char* why) {
        return Error(ErrorCode::invalid_argument, "field '" + field.name + "' " + why);
      };
      if (field.kind != FormField::Kind::signature) return wrong("is no signature field");
      if (!field.signature.is_null()) return wrong("is signed already; name another, or none");
      if (field.id == ObjectId()) return wrong("is no object of its own, and cannot be signed");
      return &field;
    }
    return nullptr;
  }

  // Certified documents that may be filled in take signatures where they have room for them, and
  // invisible ones; new marks on their pages are marks like others.
  Status check_rights(const FormField* existing) const {
    if (signature_.is_timestamp) return Done{};
    LUMVET_RETURN_IF_ERROR(existing == nullptr && request_.mark ? impl_.may_be_annotated()
                                                                : impl_.may_be_filled_in());
    const FormField* before = find_signed(tree_.form());
    if (request_.certification != Certification::none && before != nullptr)
      return Error(ErrorCode::unsupported,
                   "only the first signature can certify a document, and '" + before->name +
                       "' is signed already");
    return Done{};
  }

  Result<Place> add_field() {
    const std::string name = request_.field.empty() ? free_name() : request_.field;
    LUMVET_RETURN_IF_ERROR(tree_.check_free(name));
    const forms::FieldPath path = forms::path_of(name);
    LUMVET_TRY(const auto group, tree_.group(path.group));
    const int index = request_.mark ? request_.mark->page : 0;
    LUMVET_TRY(const ObjectId page_id, tree_.page_id(index));
    Dict dict{{"Type", Object::name("Annot")},
              {"Subtype", Object::name("Widget")},
              {"FT", Object::name("Sig")},
              {"T", text_object(path.own)},
              {"P", page_id},
              {"F", kPrint | kLocked},
              {"Rect", document::array_of({0, 0, 0, 0})}};
    if (request_.mark) {
      LUMVET_TRY(const Page page, document_.page(index));
      const PageArea& area = request_.mark->area;
      const bool is_on_page = area.width > 0 && area.height > 0 && area.left >= 0 &&
                              area.top >= 0 && area.left + area.width <= page.width() + 1e-6 &&
                              area.top + area.height <= page.height() + 1e-6;
      if (!is_on_page)
        return Error(ErrorCode::invalid_argument, "the signature's area does not lie on page " +
                                                      std::to_string(index + 1) + ", which is " +
                                                      points(page.width()) + " by " +
                                                      points(page.height()) + " points");
      const Rect rect = page_rect(page, area);
      dict.set("Rect", document::array_of(rect));
      LUMVET_RETURN_IF_ERROR(draw(dict, page, area.width, area.height));
    }
    const ObjectId id = ledger_.add(std::move(dict));
    LUMVET_TRY(annotate::MarksOfPage * marks, tree_.page(index));
    marks->list().push_back(id);
    tree_.put_in(id, group);
    return Place{name, id};
  }

  Status draw_existing(const FormField& field) {
    if (field.widgets.empty()) return Done{};
    const FieldWidget& widget = field.widgets.front();
    if (!request_.mark || !widget.page || widget.rect.width() <= 0 || widget.rect.height() <= 0)
      return Done{};
    LUMVET_TRY(const Page page, document_.page(*widget.page));
    const PageArea area = shown_area(page, widget.rect);
    Dict dict = ledger_.resolve(Object(widget.id)).as_dict();
    LUMVET_RETURN_IF_ERROR(draw(dict, page, area.width, area.height));
    ledger_.set(widget.id, std::move(dict));
    return Done{};
  }

  Status draw(Dict& widget, const Page& page, double width, double height) {
    std::vector<std::string> lines = {signature_.signer};
    for (const std::string& line : {request_.reason, request_.place, signature_.when})
      if (!line.empty()) lines.push_back(line);
    LUMVET_TRY(const Drawing drawing, drawing_of(*request_.mark, width, height, lines));
    LUMVET_TRY(const ObjectId form, appearance::drawn_form(core_of(document_), ledger_, drawing));
    if (page.rotation() != 0) {
      Stream stream = *ledger_.resolve(Object(form)).as_stream();
      // Upright on the page as it is shown.
      stream.dict.set("Matrix", document::array_of(document::turned_left(page.rotation(), 0, 0)));
      ledger_.set(form, std::move(stream));
    }
    widget.set("AP", Dict{{"N", form}});
    return Done{};
  }

  std::string free_name() const {
    for (int number = 1;; ++number) {
      std::string name =
          (signature_.is_timestamp ? "timestamp-" : "signature-") + std::to_string(number);
      const auto& fields = tree_.form().fields;
      const bool is_taken = std::any_of(fields.begin(), fields.end(),
                                        [&](const FormField& field) { return field.name == name; });
      if (!is_taken) return name;
    }
  }

  Status put_signature(const Place& place) {
    Dict field = ledger_.resolve(Object(place.id)).as_dict();
    LUMVET_RETURN_IF_ERROR(check_seed_values(ledger_, field, request_));
    const bool is_first = find_signed(tree_.form()) == nullptr;
    const Certification certification =
        is_first ? seeded_certification(ledger_, field, request_) : Certification::none;
    Array references;
    if (certification != Certification::none)
      references.push_back(reference("DocMDP", Dict{{"Type", Object::name("TransformParams")},
                                                    {"P", static_cast<int>(certification)},
                                                    {"V", Object::name("1.2")}}));
    // A lock that the field has binds whoever signs it; so does the one that is asked for.
    const Object lock = ledger_.get(field, "Lock");
    std::vector<Dict> locks;
    if (lock.is_dict()) locks.push_back(lock.as_dict());
    if (request_.lock) locks.push_back(lock_dict(*request_.lock));
    for (Dict& parameters : locks) {
      parameters.set("Type", Object::name("TransformParams"));
      parameters.set("V", Object::name("1.2"));
      parameters.remove("P");
      references.push_back(reference("FieldMDP", std::move(parameters)));
    }
    if (!references.empty()) signature_.dict.set("Reference", std::move(references));
    const ObjectId id = ledger_.add(std::move(signature_.dict));
    field.set("V", id);
    ledger_.set(place.id, std::move(field));

    Dict catalog = impl_.catalog(ledger_);
    Dict form = editing::form_dict(ledger_, catalog);
    const std::int64_t flags = ledger_.get(form, "SigFlags").as_integer();
    form.set("SigFlags", flags | kSignaturesExist | kAppendOnly);
    editing::set_form_dict(ledger_, catalog, std::move(form));
    if (certification != Certification::none) {
      Dict permissions = ledger_.get(catalog, "Perms").as_dict();
      permissions.set("DocMDP", id);
      catalog.set("Perms", std::move(permissions));
    }
    // The form of these signatures came with PDF 2.0 (12.8.3.4).
    if (request_.form == SignatureForm::pades && document_.version() < "2.0")
      catalog.set("Version", Object::name("2.0"));
    impl_.put_catalog(ledger_, std::move(catalog));
    return Done{};
  }

  static std::string points(double length) {
    std::string text = std::to_string(length);
    text.resize(text.find('.') + 2);
    return text;
  }

  const Document& document_;
  file::Ledger& ledger_;
  const SignRequest& request_;
  NewSignature& signature_;
  Impl& impl_;
  forms::FormTree tree_;
};

}  // namespace

Result<Place> place_signature(EditableDocument& document, const SignRequest& request,
                              NewSignature signature) {
  auto& impl = Inside<EditableDocument>::impl(document);
  Place place;
  LUMVET_RETURN_IF_ERROR(
      impl.take_step([&](const Document& now, file::Ledger& ledger) -> Result<std::string> {
        LUMVET_TRY(place, Placing(impl, now, ledger, request, signature).run());
        return "signed " + place.field;
      }));
  return place;
}

}  // namespace lumvet::signing

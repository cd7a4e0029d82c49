// SPDX-License-Identifier: Apache-2.0
#include "assemble/drawn_look.h"

#include "document/annotation_flags.h"
#include "document/appearance.h"

namespace lumvet::assemble {
namespace {

Stream form_of(const Rect& box, Dict resources, const std::string& content) {
  return Stream::of({{"Type", Object::name("XObject")},
                     {"Subtype", Object::name("Form")},
                     {"BBox", document::array_of(box)},
                     {"Resources", Object(std::move(resources))}},
                    Bytes(content.begin(), content.end()));
}

// The form itself where nothing is said of how it mixes, nor of a layer.
ObjectId mixed_form(file::Ledger& ledger, ObjectId form, const Rect& box, const Object& blend,
                    const Object& layer) {
  const bool is_mixed = blend.is_name() && blend.as_name() != "Normal";
  if (!is_mixed && layer.is_null()) return form;
  if (is_mixed) {
    Stream group = form_of(box, Dict{{"XObject", Dict{{"D", form}}}}, "/D Do");
    group.dict.set(
        "Group",
        Dict{{"Type", Object::name("Group")}, {"S", Object::name("Transparency")}, {"I", true}});
    form = ledger.add(Object(std::move(group)));
  }
  Dict resources{{"XObject", Dict{{"D", form}}}};
  if (is_mixed) resources.set("ExtGState", Dict{{"G", Dict{{"BM", blend}}}});
  Stream outer = form_of(box, std::move(resources), is_mixed ? "/G gs /D Do" : "/D Do");
  if (!layer.is_null()) outer.dict.set("OC", layer);
  return ledger.add(Object(std::move(outer)));
}

}  // namespace

std::optional<Drawn> drawn_look(file::Ledger& ledger, Stream look, const AnnotationPlace& place) {
  look.dict.set("Type", Object::name("XObject"));
  look.dict.set("Subtype", Object::name("Form"));
  const auto fit = document::fitted(ledger, look.dict, place.rect);
  const auto box = document::rect_of(ledger, look.dict["BBox"]);
  if (!fit || !box) return std::nullopt;
  const Rect seen = document::matrix_of(ledger, look.dict).bounds_of(*box);
  const ObjectId form = ledger.add(Object(std::move(look)));
  const bool stays_upright = (place.flags & document::kNoRotate) != 0;
  return Drawn{
      mixed_form(ledger, form, seen, place.blend, place.layer),
      stays_upright ? fit->then(document::upright_about(place.stated, place.rotation)) : *fit};
}

}  // namespace lumvet::assemble

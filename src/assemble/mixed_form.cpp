// SPDX-License-Identifier: Apache-2.0
#include "assemble/mixed_form.h"

#include "document/geometry_objects.h"

namespace lumvet::assemble {
namespace {

Stream form_of(const Rect& box, Dict resources, const std::string& content) {
  return Stream::of({{"Type", Object::name("XObject")},
                     {"Subtype", Object::name("Form")},
                     {"BBox", document::array_of(box)},
                     {"Resources", Object(std::move(resources))}},
                    Bytes(content.begin(), content.end()));
}

}  // namespace

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

}  // namespace lumvet::assemble

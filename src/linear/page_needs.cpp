// SPDX-License-Identifier: Apache-2.0
#include "linear/page_needs.h"

#include <algorithm>
#include <array>
#include <string_view>

namespace lumvet::linear {
namespace {

using Key = std::string_view;

template <std::size_t count>
bool is_one_of(Key key, const std::array<Key, count>& keys) {
  return std::find(keys.begin(), keys.end(), key) != keys.end();
}

// What leads from a page to elsewhere, and is not needed to show it.
constexpr std::array kOffPage = {
    Key("Parent"),        Key("Thumb"),         Key("AA"),        Key("PieceInfo"),
    Key("Metadata"),      Key("StructParents"), Key("B"),         Key("AF"),
    Key("DPart"),         Key("LastModified"),  Key("PresSteps"), Key("ID"),
    Key("SeparationInfo")};
constexpr std::array kOffAnnotation = {Key("Parent"),
                                       Key("P"),
                                       Key("Dest"),
                                       Key("A"),
                                       Key("AA"),
                                       Key("IRT"),
                                       Key("StructParent"),
                                       Key("FS"),
                                       Key("Sound"),
                                       Key("Movie"),
                                       Key("PA"),
                                       Key("V"),
                                       Key("DV"),
                                       Key("Kids"),
                                       Key("Lock"),
                                       Key("SV"),
                                       Key("AF"),
                                       Key("3DD"),
                                       Key("RichMediaContent")};
constexpr std::array kOffAnything = {Key("Parent"),       Key("Metadata"),      Key("PieceInfo"),
                                     Key("StructParent"), Key("StructParents"), Key("AF"),
                                     Key("LastModified")};
constexpr std::array kOtherThings = {Key("Page"),           Key("Pages"),      Key("Catalog"),
                                     Key("StructTreeRoot"), Key("StructElem"), Key("Outlines"),
                                     Key("Template")};

// Values nest only as deep as they were read.
void gather(const Object& object, NeededBy by, std::vector<Need>& needs) {
  if (object.is_reference()) return needs.push_back({object.as_reference(), by});
  const NeededBy inner = by == NeededBy::annotations ? NeededBy::annotation : by;
  for (const Object& item : object.as_array()) gather(item, inner, needs);
  const bool is_annotation = by == NeededBy::annotation && !object.is_stream();
  for (const auto& [key, value] : object.as_dict()) {
    if (object.is_stream() && key == "Length") continue;  // told again where it is written
    if (is_annotation ? !is_one_of(key, kOffAnnotation) : !is_one_of(key, kOffAnything))
      gather(value, NeededBy::anything, needs);
  }
}

}  // namespace

std::vector<Need> needs_of_page(const Dict& page) {
  std::vector<Need> needs;
  gather(page["Contents"], NeededBy::anything, needs);
  for (const auto& [key, value] : page)
    if (key != "Contents" && key != "Annots" && !is_one_of(key, kOffPage))
      gather(value, NeededBy::anything, needs);
  gather(page["Annots"], NeededBy::annotations, needs);
  return needs;
}

std::vector<Need> needs_of(const Object& object, NeededBy by) {
  std::vector<Need> needs;
  gather(object, by, needs);
  return needs;
}

bool is_no_part_of_page(const Object& object) {
  const Object& type = object.as_dict()["Type"];
  return type.is_name() && is_one_of(type.as_name(), kOtherThings);
}

}  // namespace lumvet::linear

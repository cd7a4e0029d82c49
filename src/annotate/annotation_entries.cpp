// SPDX-License-Identifier: Apache-2.0
#include "annotate/annotation_entries.h"

#include <algorithm>

#include "appearance/annotation_look.h"
#include "document/annotations.h"
#include "document/geometry_objects.h"
#include "document/measured_areas.h"
#include "objects/text_string.h"

namespace lumvet::annotate {
namespace {

using document::array_of;
using Kind = Annotation::Kind;

Object text_of(const std::string& utf8) {
  return utf8.empty() ? Object() : Object::string(objects::utf8_to_text(utf8));
}
Object name_of(const std::string& name) { return name.empty() ? Object() : Object::name(name); }
Object date_of(const std::string& date) {
  if (date.empty()) return Object();
  return Object::string(objects::date_from_people(date).value_or(date));
}

Object points_of(const std::vector<Point>& points) {
  Array numbers;
  for (const Point p : points) {
    numbers.push_back(p.x);
    numbers.push_back(p.y);
  }
  return numbers.empty() ? Object() : Object(std::move(numbers));
}

Object numbers_of(const std::vector<double>& numbers) {
  return numbers.empty() ? Object() : Object(Array(numbers.begin(), numbers.end()));
}

Object border_of(const AnnotationBorder& border) {
  Dict dict{{"W", border.width}, {"S", Object::name(border.style)}};
  dict.set("D", numbers_of(border.dash));
  return dict;
}

bool is_one_of(Kind kind, std::initializer_list<Kind> kinds) {
  return std::find(kinds.begin(), kinds.end(), kind) != kinds.end();
}

void set_shape(Dict& dict, const Annotation& mark) {
  std::vector<Point> corners;
  for (const auto& quad : mark.quads) corners.insert(corners.end(), quad.begin(), quad.end());
  dict.set("QuadPoints", points_of(corners));
  const bool is_line = mark.kind == Kind::line;
  const bool is_text = mark.kind == Kind::free_text;
  dict.set("L", is_line ? points_of(mark.vertices) : Object());
  dict.set("CL", is_text ? points_of(mark.vertices) : Object());
  dict.set("Vertices", is_line || is_text ? Object() : points_of(mark.vertices));
  Array strokes;
  for (const auto& stroke : mark.strokes) strokes.push_back(points_of(stroke));
  dict.set("InkList", strokes.empty() ? Object() : Object(std::move(strokes)));
  const auto& [begin, end] = mark.line_ends;
  const auto stated = [](const std::string& style) {
    return Object::name(style.empty() ? "None" : style);
  };
  if (begin.empty() && end.empty())
    dict.remove("LE");
  else if (is_text)
    dict.set("LE", stated(appearance::callout_end(mark)));
  else
    dict.set("LE", Array{stated(begin), stated(end)});
  const auto length = [](double value) { return value != 0 ? Object(value) : Object(); };
  dict.set("LL", length(mark.leaders.length));
  dict.set("LLE", length(mark.leaders.extension));
  dict.set("LLO", length(mark.leaders.offset));
  dict.set("Cap", mark.has_caption ? Object(true) : Object());
  dict.set("CP", mark.has_caption && mark.caption_is_above ? Object::name("Top") : Object());
  // Measures of maps stay as they are.
  const bool is_of_map = mark.measure && mark.measure->kind == Measure::Kind::map;
  if (!is_of_map)
    dict.set("Measure", mark.measure ? Object(document::measure_dict(*mark.measure)) : Object());
  const bool has_inset =
      std::any_of(mark.inset.begin(), mark.inset.end(), [](double by) { return by > 0; });
  dict.set("RD", has_inset ? Object(Array(mark.inset.begin(), mark.inset.end())) : Object());
}

void set_text_looks(Dict& dict, const Annotation& mark) {
  const bool has_text = is_one_of(mark.kind, {Kind::free_text, Kind::redact});
  if (!has_text) return;
  const auto side = static_cast<std::int64_t>(mark.alignment);
  dict.set("Q", side != 0 ? Object(side) : Object());
  dict.set("DA",
           mark.default_appearance.empty() ? Object() : Object::string(mark.default_appearance));
  dict.set("DS", text_of(mark.default_style));
  dict.set("OverlayText", text_of(mark.overlay_text));
  dict.set("Repeat", mark.repeats_overlay ? Object(true) : Object());
}

void set_relations(Dict& dict, const Annotation& mark) {
  const auto reference = [](const std::optional<ObjectId>& id) {
    return id ? Object(*id) : Object();
  };
  dict.set("IRT", reference(mark.in_reply_to));
  dict.set("RT", mark.in_reply_to && mark.is_grouped ? Object::name("Group") : Object());
  dict.set("StateModel", text_of(mark.review_model));
  dict.set("State", text_of(mark.review_state));
  dict.set("Popup", reference(mark.popup));
  if (mark.kind == Kind::popup) dict.set("Parent", reference(mark.popup_of));
  dict.set("Open", mark.is_open ? Object(true) : Object());
  dict.set("OC", mark.layer);
}

}  // namespace

Dict with_entries(Dict dict, const Annotation& mark) {
  dict.set("Type", Object::name("Annot"));
  const std::string_view type = document::type_of(mark.kind);
  if (!type.empty()) dict.set("Subtype", Object::name(std::string(type)));
  dict.set("Rect", array_of(mark.rect));
  dict.set("F", mark.flags != 0 ? Object(mark.flags) : Object());
  dict.set("Contents", text_of(mark.contents));
  dict.set("NM", text_of(mark.name));
  dict.set("T", text_of(mark.author));
  dict.set("Subj", text_of(mark.subject));
  dict.set("Lang", text_of(mark.language));
  dict.set("CreationDate", date_of(mark.created));
  dict.set("M", date_of(mark.modified));
  dict.set("RC", text_of(mark.rich_contents));
  dict.set("Rotate", mark.rotation != 0 ? Object(std::int64_t{mark.rotation}) : Object());
  dict.set("C", numbers_of(mark.color));
  dict.set("IC", numbers_of(mark.interior_color));
  dict.set("CA", mark.opacity < 1 ? Object(mark.opacity) : Object());
  dict.set("ca", mark.opacity < 1 ? Object(mark.opacity) : Object());
  dict.set("BM", name_of(mark.blend));
  const bool has_border = mark.has_border || !(mark.border == AnnotationBorder());
  dict.set("BS", has_border ? border_of(mark.border) : Object());
  // A link that says nothing of its border would have one.
  dict.set("Border",
           mark.kind == Kind::link && !has_border ? Object(array_of({0, 0, 0})) : Object());
  dict.set("BE", mark.border.cloud > 0
                     ? Object(Dict{{"S", Object::name("C")}, {"I", mark.border.cloud}})
                     : Object());
  dict.set("Name", name_of(mark.icon));
  dict.set("IT", name_of(mark.intent));
  set_shape(dict, mark);
  set_text_looks(dict, mark);
  set_relations(dict, mark);
  return dict;
}

}  // namespace lumvet::annotate

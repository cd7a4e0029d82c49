// SPDX-License-Identifier: Apache-2.0
#include "document/annotations.h"

#include <cmath>

#include "base/attempt.h"
#include "document/destinations.h"
#include "document/geometry_objects.h"
#include "document/measured_areas.h"
#include "document/text_entries.h"
#include "document/triggers.h"

namespace lumvet::document {
namespace {

using Kind = Annotation::Kind;

struct Known {
  std::string_view type;
  Kind kind;
};
constexpr Known kKnown[] = {{"Text", Kind::text},
                            {"Link", Kind::link},
                            {"FreeText", Kind::free_text},
                            {"Line", Kind::line},
                            {"Square", Kind::square},
                            {"Circle", Kind::circle},
                            {"Polygon", Kind::polygon},
                            {"PolyLine", Kind::polyline},
                            {"Highlight", Kind::highlight},
                            {"Underline", Kind::underline},
                            {"Squiggly", Kind::squiggly},
                            {"StrikeOut", Kind::strike_out},
                            {"Caret", Kind::caret},
                            {"Stamp", Kind::stamp},
                            {"Ink", Kind::ink},
                            {"Popup", Kind::popup},
                            {"FileAttachment", Kind::file_attachment},
                            {"Redact", Kind::redact},
                            {"Sound", Kind::sound},
                            {"Movie", Kind::movie},
                            {"Screen", Kind::screen},
                            {"Widget", Kind::widget},
                            {"PrinterMark", Kind::printer_mark},
                            {"TrapNet", Kind::trap_net},
                            {"Watermark", Kind::watermark},
                            {"3D", Kind::three_d},
                            {"RichMedia", Kind::rich_media},
                            {"Projection", Kind::projection}};

}  // namespace

std::string_view type_of(Annotation::Kind kind) {
  for (const Known& known : kKnown)
    if (known.kind == kind) return known.type;
  return {};
}

namespace {

Kind annotation_kind(std::string_view type) {
  for (const Known& known : kKnown)
    if (known.type == type) return known.kind;
  return Kind::other;
}

class AnnotationReader {
 public:
  AnnotationReader(const Core& core, const Dict& dict)
      : core_(core), store_(core.store()), dict_(dict) {}

  Annotation read() {
    mark_.type = name("Subtype");
    mark_.kind = annotation_kind(mark_.type);
    mark_.rect = rect_of(store_, dict_["Rect"]).value_or(Rect());
    mark_.flags = store_.get(dict_, "F").as_integer();
    read_texts();
    read_looks();
    read_shape();
    read_text_looks();
    read_relations();
    read_behavior();
    return std::move(mark_);
  }

 private:
  void read_texts() {
    mark_.contents = text("Contents");
    mark_.name = text("NM");
    mark_.author = text("T");
    mark_.subject = text("Subj");
    mark_.language = text("Lang");
    mark_.created = date_entry(store_, dict_, "CreationDate");
    mark_.modified = date_entry(store_, dict_, "M");
    // Of a widget these are the field's names, which its form tells.
    if (mark_.kind == Kind::widget) mark_.author.clear();
  }

  void read_looks() {
    mark_.color = color("C");
    mark_.interior_color = color("IC");
    mark_.opacity = std::clamp(store_.get(dict_, "CA").as_number(1), 0.0, 1.0);
    if (const Object blend = store_.get(dict_, "BM");
        blend.is_name() && blend.as_name() != "Normal")
      mark_.blend = blend.as_name();
    read_border();
    mark_.icon = name("Name");
    mark_.intent = name("IT");
    mark_.appearance_state = name("AS");
    const Object looks = store_.get(dict_, "AP");
    const Object normal = store_.get(looks.as_dict(), "N");
    if (normal.is_stream())
      mark_.appearance_states = {""};
    else
      for (const auto& [state, look] : normal.as_dict()) mark_.appearance_states.push_back(state);
  }

  std::vector<double> color(std::string_view key) {
    std::vector<double> components = numbers_of(store_, dict_[key]);
    const std::size_t count = components.size();
    if (count == 0 || count == 1 || count == 3 || count == 4) return components;
    store_.findings().add(
        {"an annotation's color has " + std::to_string(count) + " components; it was taken as none",
         {},
         {}});
    return {};
  }

  // The border style, or the older array, whose fourth element is the dash (12.5.4).
  void read_border() {
    const Object effect = store_.get(dict_, "BE");
    if (store_.get(effect.as_dict(), "S").is_name("C"))
      mark_.border.cloud = std::clamp(store_.get(effect.as_dict(), "I").as_number(0), 0.0, 2.0);
    const Object style = store_.get(dict_, "BS");
    if (style.is_dict()) {
      mark_.has_border = true;
      mark_.border.width = store_.get(style.as_dict(), "W").as_number(1);
      if (const Object kind = store_.get(style.as_dict(), "S"); kind.is_name())
        mark_.border.style = kind.as_name();
      mark_.border.dash = numbers_of(store_, style.as_dict()["D"]);
      if (mark_.border.style == "D" && mark_.border.dash.empty()) mark_.border.dash = {3};
      return;
    }
    const Object border = store_.get(dict_, "Border");
    if (border.as_array().size() < 3) return;
    mark_.has_border = true;
    mark_.border.width = store_.resolve(border.as_array()[2]).as_number(1);
    if (border.as_array().size() < 4) return;
    mark_.border.dash = numbers_of(store_, border.as_array()[3]);
    if (!mark_.border.dash.empty()) mark_.border.style = "D";
  }

  void read_shape() {
    const std::vector<Point> corners = points_of(store_, dict_["QuadPoints"]);
    for (std::size_t i = 0; i + 3 < corners.size(); i += 4)
      mark_.quads.push_back({corners[i], corners[i + 1], corners[i + 2], corners[i + 3]});
    for (const std::string_view key : {"Vertices", "L", "CL"})
      if (mark_.vertices.empty()) mark_.vertices = points_of(store_, dict_[key]);
    const Object strokes = store_.get(dict_, "InkList");
    for (const Object& stroke : strokes.as_array())
      mark_.strokes.push_back(points_of(store_, stroke));
    const Object ends = store_.get(dict_, "LE");
    if (ends.is_name()) mark_.line_ends[1] = ends.as_name();  // of a free text's call-out
    for (std::size_t i = 0; i < 2 && i < ends.as_array().size(); ++i)
      mark_.line_ends[i] = store_.resolve(ends.as_array()[i]).as_name();
    mark_.leaders = {number("LL"), number("LLE"), number("LLO")};
    mark_.has_caption = store_.get(dict_, "Cap").as_bool();
    mark_.caption_is_above = name("CP") == "Top";
    if (const Object measure = store_.get(dict_, "Measure"); measure.is_dict())
      mark_.measure = std::make_shared<const Measure>(read_measure(store_, measure.as_dict()));
    const std::vector<double> inset = numbers_of(store_, dict_["RD"]);
    for (std::size_t i = 0; inset.size() == 4 && i < 4; ++i)
      mark_.inset[i] = std::max(inset[i], 0.0);
  }

  void read_text_looks() {
    using Alignment = Annotation::Alignment;
    const std::int64_t side = store_.get(dict_, "Q").as_integer();
    if (side == 1) mark_.alignment = Alignment::centered;
    if (side == 2) mark_.alignment = Alignment::right;
    mark_.default_appearance = store_.get(dict_, "DA").as_string();
    mark_.default_style = text("DS");
    mark_.rich_contents = text("RC");
    mark_.overlay_text = text("OverlayText");
    mark_.repeats_overlay = store_.get(dict_, "Repeat").as_bool();
  }

  void read_relations() {
    if (dict_["IRT"].is_reference()) mark_.in_reply_to = dict_["IRT"].as_reference();
    mark_.is_grouped = name("RT") == "Group";
    mark_.review_model = text("StateModel");
    mark_.review_state = text("State");
    if (dict_["Popup"].is_reference()) mark_.popup = dict_["Popup"].as_reference();
    if (mark_.kind == Kind::popup && dict_["Parent"].is_reference())
      mark_.popup_of = dict_["Parent"].as_reference();
    mark_.is_open = store_.get(dict_, "Open").as_bool();
    mark_.layer = dict_["OC"];
  }

  void read_behavior() {
    mark_.destination = read_destination(core_, dict_["Dest"]);
    mark_.actions = read_actions(core_, dict_["A"]);
    if (!mark_.destination && !mark_.actions.empty() &&
        mark_.actions[0].kind == Action::Kind::go_to)
      mark_.destination = mark_.actions[0].destination;
    mark_.triggers = read_triggers(core_, dict_, TriggerOwner::annotation);
    if (mark_.kind == Kind::file_attachment)
      mark_.file = file_name_of(store_, store_.get(dict_, "FS"));
  }

  std::string text(std::string_view key) { return text_entry(store_, dict_, key); }
  double number(std::string_view key) { return store_.get(dict_, key).as_number(0); }
  std::string name(std::string_view key) { return store_.get(dict_, key).as_name(); }

  const Core& core_;
  const file::ObjectStore& store_;
  const Dict& dict_;
  Annotation mark_;
};

}  // namespace

Annotation read_annotation(const Core& core, const Dict& dict) {
  return AnnotationReader(core, dict).read();
}

std::vector<Annotation> read_annotations(const Core& core, const Dict& page) {
  const file::ObjectStore& store = core.store();
  std::vector<Annotation> annotations;
  const Object list = store.get(page, "Annots");
  for (const Object& reference : list.as_array()) {
    const Object object = store.resolve(reference);
    if (!object.is_dict()) {
      store.findings().add(
          {"a page lists an annotation that is none", {}, reference.as_reference()});
      continue;
    }
    if (!Attempt::follow(sizeof(Annotation))) break;
    annotations.push_back(AnnotationReader(core, object.as_dict()).read());
    annotations.back().id = reference.as_reference();
  }
  return annotations;
}

}  // namespace lumvet::document

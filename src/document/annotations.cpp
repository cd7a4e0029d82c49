// SPDX-License-Identifier: Apache-2.0
#include "document/annotations.h"

#include <algorithm>
#include <map>
#include <mutex>

#include "base/attempt.h"
#include "base/parallel.h"
#include "document/destinations.h"
#include "document/geometry_objects.h"
#include "document/inside.h"
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
  // Fills `mark`, which is empty.
  AnnotationReader(const Core& core, const Dict& dict, Annotation& mark)
      : core_(core), store_(core.store()), dict_(dict), mark_(mark) {
    for (const auto& [key, value] : dict) keys_ |= bit_of(key);
  }

  void read() {
    mark_.type = name("Subtype");
    mark_.kind = annotation_kind(mark_.type);
    mark_.rect = rect_of(store_, entry("Rect")).value_or(Rect());
    mark_.flags = get("F").as_integer();
    read_texts();
    read_looks();
    read_shape();
    read_text_looks();
    read_relations();
    read_behavior();
  }

 private:
  void read_texts() {
    mark_.contents = text("Contents");
    mark_.name = text("NM");
    mark_.author = text("T");
    mark_.subject = text("Subj");
    mark_.language = text("Lang");
    mark_.created = date("CreationDate");
    mark_.modified = date("M");
    // Of a widget these are the field's names, which its form tells.
    if (mark_.kind == Kind::widget) mark_.author.clear();
  }

  void read_looks() {
    mark_.color = color("C");
    mark_.interior_color = color("IC");
    mark_.opacity = std::clamp(get("CA").as_number(1), 0.0, 1.0);
    if (const Object blend = get("BM"); blend.is_name() && blend.as_name() != "Normal")
      mark_.blend = blend.as_name();
    read_border();
    mark_.icon = name("Name");
    if (const std::int64_t turn = get("Rotate").as_integer() % 360; turn % 90 == 0)
      mark_.rotation = static_cast<int>((turn + 360) % 360);
    mark_.intent = name("IT");
    mark_.appearance_state = name("AS");
    const Object looks = get("AP");
    const Object normal = store_.get(looks.as_dict(), "N");
    if (normal.is_stream())
      mark_.appearance_states = {""};
    else
      for (const auto& [state, look] : normal.as_dict()) mark_.appearance_states.push_back(state);
  }

  std::vector<double> color(std::string_view key) {
    std::vector<double> components = numbers(key);
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
    const Object effect = get("BE");
    if (store_.get(effect.as_dict(), "S").is_name("C"))
      mark_.border.cloud = std::clamp(store_.get(effect.as_dict(), "I").as_number(0), 0.0, 2.0);
    const Object style = get("BS");
    if (style.is_dict()) {
      mark_.has_border = true;
      mark_.border.width = store_.get(style.as_dict(), "W").as_number(1);
      if (const Object kind = store_.get(style.as_dict(), "S"); kind.is_name())
        mark_.border.style = kind.as_name();
      mark_.border.dash = numbers_of(store_, style.as_dict()["D"]);
      if (mark_.border.style == "D" && mark_.border.dash.empty()) mark_.border.dash = {3};
      return;
    }
    const Object border = get("Border");
    if (border.as_array().size() < 3) return;
    mark_.has_border = true;
    mark_.border.width = store_.resolve(border.as_array()[2]).as_number(1);
    if (border.as_array().size() < 4) return;
    mark_.border.dash = numbers_of(store_, border.as_array()[3]);
    if (!mark_.border.dash.empty()) mark_.border.style = "D";
  }

  void read_shape() {
    const std::vector<Point> corners = points("QuadPoints");
    for (std::size_t i = 0; i + 3 < corners.size(); i += 4)
      mark_.quads.push_back({corners[i], corners[i + 1], corners[i + 2], corners[i + 3]});
    for (const std::string_view key : {"Vertices", "L", "CL"})
      if (mark_.vertices.empty()) mark_.vertices = points(key);
    const Object strokes = get("InkList");
    for (const Object& stroke : strokes.as_array())
      mark_.strokes.push_back(points_of(store_, stroke));
    const Object ends = get("LE");
    if (ends.is_name()) mark_.line_ends[1] = ends.as_name();  // of a free text's call-out
    for (std::size_t i = 0; i < 2 && i < ends.as_array().size(); ++i)
      mark_.line_ends[i] = store_.resolve(ends.as_array()[i]).as_name();
    mark_.leaders = {number("LL"), number("LLE"), number("LLO")};
    mark_.has_caption = get("Cap").as_bool();
    mark_.caption_is_above = name("CP") == "Top";
    if (const Object measure = get("Measure"); measure.is_dict())
      mark_.measure = std::make_shared<const Measure>(read_measure(store_, measure.as_dict()));
    const std::vector<double> inset = numbers("RD");
    for (std::size_t i = 0; inset.size() == 4 && i < 4; ++i)
      mark_.inset[i] = std::max(inset[i], 0.0);
  }

  void read_text_looks() {
    using Alignment = Annotation::Alignment;
    const std::int64_t side = get("Q").as_integer();
    if (side == 1) mark_.alignment = Alignment::centered;
    if (side == 2) mark_.alignment = Alignment::right;
    mark_.default_appearance = get("DA").as_string();
    mark_.default_style = text("DS");
    mark_.rich_contents = text("RC");
    mark_.overlay_text = text("OverlayText");
    mark_.repeats_overlay = get("Repeat").as_bool();
  }

  void read_relations() {
    if (entry("IRT").is_reference()) mark_.in_reply_to = entry("IRT").as_reference();
    mark_.is_grouped = name("RT") == "Group";
    mark_.review_model = text("StateModel");
    mark_.review_state = text("State");
    if (entry("Popup").is_reference()) mark_.popup = entry("Popup").as_reference();
    if (mark_.kind == Kind::popup && entry("Parent").is_reference())
      mark_.popup_of = entry("Parent").as_reference();
    mark_.is_open = get("Open").as_bool();
    mark_.layer = entry("OC");
  }

  void read_behavior() {
    mark_.destination = read_destination(core_, entry("Dest"));
    mark_.actions = read_actions(core_, entry("A"));
    if (!mark_.destination && !mark_.actions.empty() &&
        mark_.actions[0].kind == Action::Kind::go_to)
      mark_.destination = mark_.actions[0].destination;
    mark_.triggers = read_triggers(core_, dict_, TriggerOwner::annotation);
    if (mark_.kind == Kind::file_attachment) mark_.file = file_name_of(store_, get("FS"));
  }

  // Most of what is asked for is missing: a few bits of the keys tell.
  static std::uint64_t bit_of(std::string_view key) {
    if (key.empty()) return 1;
    const unsigned mixed = static_cast<unsigned char>(key.front()) * 5u +
                           static_cast<unsigned char>(key.back()) * 11u +
                           static_cast<unsigned>(key.size()) * 17u;
    return std::uint64_t{1} << (mixed % 64);
  }
  bool may_have(std::string_view key) const { return (keys_ & bit_of(key)) != 0; }
  const Object& entry(std::string_view key) const {
    static const Object kMissing;
    return may_have(key) ? dict_[key] : kMissing;
  }
  Object get(std::string_view key) const {
    return may_have(key) ? store_.get(dict_, key) : Object();
  }
  std::vector<double> numbers(std::string_view key) const {
    return may_have(key) ? numbers_of(store_, dict_[key]) : std::vector<double>();
  }
  std::vector<Point> points(std::string_view key) const {
    return may_have(key) ? points_of(store_, dict_[key]) : std::vector<Point>();
  }
  std::string text(std::string_view key) const {
    return may_have(key) ? text_entry(store_, dict_, key) : std::string();
  }
  std::string date(std::string_view key) const {
    return may_have(key) ? date_entry(store_, dict_, key) : std::string();
  }
  double number(std::string_view key) const { return get(key).as_number(0); }
  std::string name(std::string_view key) const { return get(key).as_name(); }

  const Core& core_;
  const file::ObjectStore& store_;
  const Dict& dict_;
  Annotation& mark_;
  std::uint64_t keys_ = 0;
};

}  // namespace

Annotation read_annotation(const Core& core, const Dict& dict) {
  Annotation annotation;
  AnnotationReader(core, dict, annotation).read();
  return annotation;
}

std::vector<Annotation> read_annotations(const Core& core, const Dict& page) {
  const file::ObjectStore& store = core.store();
  std::vector<Annotation> annotations;
  const Object list = store.get(page, "Annots");
  annotations.reserve(std::min<std::size_t>(list.as_array().size(), 64));
  for (const Object& reference : list.as_array()) {
    const Object object = store.resolve(reference);
    if (!object.is_dict()) {
      store.findings().add(
          {"a page lists an annotation that is none", {}, reference.as_reference()});
      continue;
    }
    if (!Attempt::follow(sizeof(Annotation))) break;
    AnnotationReader(core, object.as_dict(), annotations.emplace_back()).read();
    annotations.back().id = reference.as_reference();
  }
  return annotations;
}

Result<std::vector<std::vector<Annotation>>> read_all_annotations(const Document& document,
                                                                  int threads) {
  constexpr std::size_t kBlocks = 4;  // for each thread: pages side by side share object streams
  const auto pages = static_cast<std::size_t>(document.page_count());
  const auto workers = static_cast<std::size_t>(thread_count(threads));
  const std::size_t together = pages / (workers * kBlocks) + 1;
  std::vector<std::vector<Annotation>> all(pages);
  std::mutex mutex;
  std::map<std::size_t, Error> errors;  // by page
  share_out(
      (pages + together - 1) / together, static_cast<int>(workers), [&](int, std::size_t block) {
        for (std::size_t i = block * together; i < std::min(pages, (block + 1) * together); ++i) {
          const Result<Page> page = document.page(static_cast<int>(i));
          if (!page.ok()) {
            const std::lock_guard lock(mutex);
            errors.emplace(i, page.error());
            return;
          }
          all[i] = read_annotations(core_of(document), page->dict());
        }
      });
  if (!errors.empty()) return errors.begin()->second;
  return all;
}

}  // namespace lumvet::document

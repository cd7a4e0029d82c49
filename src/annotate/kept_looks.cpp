// SPDX-License-Identifier: Apache-2.0
#include "annotate/kept_looks.h"

#include <algorithm>
#include <cmath>

#include "annotate/annotation_entries.h"
#include "document/appearance.h"
#include "objects/standing.h"

namespace lumvet::annotate {
namespace {

using Kind = Annotation::Kind;

bool is_fitted(Kind kind) { return kind == Kind::stamp || kind == Kind::watermark; }

bool shows_contents(Kind kind) {
  return kind == Kind::free_text || kind == Kind::line || kind == Kind::polygon ||
         kind == Kind::polyline;
}

// What decides how a mark looks, as if it stood at the origin.
Dict seen_entries(const Annotation& mark) {
  Annotation seen = mark;
  for (std::string* unseen :
       {&seen.name, &seen.author, &seen.subject, &seen.language, &seen.created, &seen.modified,
        &seen.review_model, &seen.review_state})
    unseen->clear();
  if (!shows_contents(mark.kind)) seen.contents = seen.rich_contents = std::string();
  seen.flags = 0;
  seen.is_open = seen.is_grouped = false;
  seen.in_reply_to = seen.popup = seen.popup_of = std::nullopt;
  seen.layer = Object();
  seen.measure = nullptr;
  if (is_fitted(mark.kind)) seen.rect = Rect();
  if (is_fitted(mark.kind)) return with_entries({}, seen);
  const auto placed = [&](Point p) {
    constexpr double kFine = 1000;  // of a point; what moves is reckoned anew
    return Point{std::round((p.x - mark.rect.left) * kFine) / kFine,
                 std::round((p.y - mark.rect.bottom) * kFine) / kFine};
  };
  const Point corner = placed({mark.rect.right, mark.rect.top});
  seen.rect = {0, 0, corner.x, corner.y};
  for (auto& quad : seen.quads) std::transform(quad.begin(), quad.end(), quad.begin(), placed);
  std::transform(seen.vertices.begin(), seen.vertices.end(), seen.vertices.begin(), placed);
  for (auto& stroke : seen.strokes)
    std::transform(stroke.begin(), stroke.end(), stroke.begin(), placed);
  return with_entries({}, seen);
}

// How many forms and images stand within each other in a form, up to two.
int depth_of(const Object& form, int most) {
  int depth = 0;
  for (const auto& [name, part] : form.as_dict()["Resources"].as_dict()["XObject"].as_dict())
    if (depth < most) depth = std::max(depth, 1 + depth_of(part, most - 1));
  return depth;
}

// The same look, of a mark that was as opaque as `from` says, as opaque as `to`.
Object faded(const Object& form, double from, double to) {
  if (from == to) return form;
  Stream look = *form.as_stream();
  Dict resources = look.dict["Resources"].as_dict();
  Dict states;
  bool is_stated = false;
  for (const auto& [name, state] : resources["ExtGState"].as_dict()) {
    Dict stated = state.as_dict();
    for (const char* key : {"ca", "CA"}) {
      constexpr double kSame = 0.001;
      const Object opacity = stated[key];
      if (!opacity.is_number() || std::abs(opacity.as_number() - from) > kSame) continue;
      stated.set(key, to);
      is_stated = true;
    }
    states.set(name, std::move(stated));
  }
  if (is_stated && from < 1) {
    resources.set("ExtGState", std::move(states));
    look.dict.set("Resources", std::move(resources));
    return Object(std::move(look));
  }
  Stream outer = look;
  look.dict.remove("Matrix");
  look.dict.set("Group", Dict{{"S", Object::name("Transparency")}});
  const Dict state{{"ca", std::min(1.0, from > 0 ? to / from : to)}};
  outer.dict.set("Resources", Dict{{"XObject", Dict{{"Look", Object(std::move(look))}}},
                                   {"ExtGState", Dict{{"Faded", state}}}});
  constexpr std::string_view kContent = "/Faded gs /Look Do";
  return Object(Stream::of(std::move(outer.dict), Bytes(kContent.begin(), kContent.end())));
}

}  // namespace

bool has_look_of_its_own(Kind kind) { return is_fitted(kind) || kind == Kind::ink; }

Object kept_form(const file::ObjectStore& store, const Dict& annotation) {
  const Object form = objects::standing_alone(store, document::normal_appearance(store, annotation),
                                              store.limits().nesting);
  return is_usable_form(form) ? form : Object();
}

bool is_usable_form(const Object& form) {
  if (!form.is_stream() || !form.as_dict()["Subtype"].is_name("Form")) return false;
  const Object& box = form.as_dict()["BBox"];
  return box.as_array().size() == 4 &&
         std::all_of(box.as_array().begin(), box.as_array().end(),
                     [](const Object& number) { return number.is_number(); });
}

bool looks_alike(const Annotation& a, const Annotation& b) {
  return seen_entries(a) == seen_entries(b);
}

std::optional<Object> kept_picture(const file::ObjectStore& store, const Dict& annotation,
                                   const Annotation& before, const Annotation& now) {
  if (!is_fitted(before.kind) || before.icon != now.icon) return std::nullopt;
  const Object form = kept_form(store, annotation);
  // Words that are not opaque are one form within the look.
  if (depth_of(form, 2) <= (before.opacity < 1 ? 1 : 0)) return std::nullopt;
  return faded(form, before.opacity, now.opacity);
}

}  // namespace lumvet::annotate

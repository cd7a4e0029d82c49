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

}  // namespace lumvet::annotate

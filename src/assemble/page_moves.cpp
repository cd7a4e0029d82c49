// SPDX-License-Identifier: Apache-2.0
#include "assemble/page_moves.h"

#include <algorithm>
#include <array>

#include "document/annotation_flags.h"
#include "document/appearance.h"
#include "document/geometry_objects.h"

namespace lumvet::assemble {
namespace {

bool overlap(const Rect& a, const Rect& b) { return !a.intersected(b).is_empty(); }

// Points one after the other, or rows of them.
Object moved_points(const objects::Resolver& resolver, const Object& stated, const Matrix& by) {
  const Object list = resolver.resolve(stated);
  Array moved;
  for (std::size_t i = 0; i < list.as_array().size(); ++i) {
    const Object item = resolver.resolve(list.as_array()[i]);
    if (item.is_array()) {
      moved.push_back(moved_points(resolver, item, by));
    } else if (i + 1 < list.as_array().size()) {
      const Object next = resolver.resolve(list.as_array()[++i]);
      const Point point = by.apply({item.as_number(), next.as_number()});
      moved.insert(moved.end(), {Object(point.x), Object(point.y)});
    }
  }
  return moved;
}

// The part of a map that turns, by quarters; the identity when it only shifts and scales.
Matrix turn_of(const Matrix& by) {
  const auto sign = [](double v) { return std::abs(v) < 1e-9 ? 0.0 : v < 0 ? -1.0 : 1.0; };
  return {sign(by.a), sign(by.b), sign(by.c), sign(by.d), 0, 0};
}

}  // namespace

const Move* PageMoves::move_of(const Object& reference) const {
  const auto found =
      reference.is_reference() ? moves_.find(reference.as_reference()) : moves_.end();
  return found == moves_.end() ? nullptr : &found->second;
}

void PageMoves::move_annotations(ObjectId page) {
  const Move& move = moves_.at(page);
  Dict from = ledger_.resolve(Object(page)).as_dict();
  const Object annotations = ledger_.resolve(from["Annots"]);
  for (const Object& annotation : annotations.as_array())
    if (annotation.is_reference()) move_annotation(annotation.as_reference(), move);
  if (move.to == page || annotations.as_array().empty()) return;
  from.remove("Annots");
  ledger_.set(page, std::move(from));
  Dict to = ledger_.resolve(Object(move.to)).as_dict();
  Array all = ledger_.resolve(to["Annots"]).as_array();
  all.insert(all.end(), annotations.as_array().begin(), annotations.as_array().end());
  to.set("Annots", std::move(all));
  ledger_.set(move.to, std::move(to));
}

void PageMoves::move_annotation(ObjectId id, const Move& move) {
  Dict annotation = ledger_.resolve(Object(id)).as_dict();
  if (annotation.is_empty()) return;
  const Matrix& by = move.by;
  const std::int64_t flags = ledger_.get(annotation, "F").as_integer();
  // What stays upright keeps its upper left corner, and is not turned (12.5.3).
  const bool stays_upright = (flags & document::kNoRotate) != 0;
  if (const auto rect = document::rect_of(ledger_, annotation["Rect"])) {
    const Point corner = by.apply({rect->left, rect->top});
    const Rect hanging{corner.x, corner.y - rect->height() * by.scale(),
                       corner.x + rect->width() * by.scale(), corner.y};
    annotation.set("Rect", document::array_of(stays_upright ? hanging : by.bounds_of(*rect)));
    // What was cut off with the margin of its page must not turn up beside it.
    if (move.form && !rect->is_empty() && !overlap(*rect, move.seen))
      annotation.set("F", flags | document::kHidden);
  }
  for (const char* key : {"QuadPoints", "Vertices", "L", "CL", "InkList", "Path"})
    if (annotation.contains(key)) annotation.set(key, moved_points(ledger_, annotation[key], by));
  if (const auto insets = document::numbers_of(ledger_, annotation["RD"]); insets.size() == 4) {
    // Of left, top, right and bottom, which change places when the page is turned.
    const Rect inner = by.bounds_of({-insets[0], -insets[3], insets[2], insets[1]});
    const Point origin = by.apply({0, 0});
    annotation.set("RD", document::array_of({origin.x - inner.left, inner.top - origin.y,
                                             inner.right - origin.x, origin.y - inner.bottom}));
  }
  const Matrix turn = stays_upright ? Matrix() : turn_of(by);
  if (turn != Matrix()) {
    constexpr std::int64_t kWhole = 360;
    const std::int64_t degrees = turn.b > 0 ? 90 : turn.b < 0 ? 270 : 180;
    const auto turn_entry = [&](Dict& dict, const char* key) {
      const std::int64_t turned = (ledger_.get(dict, key).as_integer() + degrees) % kWhole;
      dict.set(key, turned != 0 ? Object(turned) : Object());
    };
    if (document::has_rotation(ledger_.get(annotation, "Subtype").as_name()))
      turn_entry(annotation, "Rotate");
    Dict appearances = ledger_.resolve(annotation["AP"]).as_dict();
    for (const char* key : {"N", "R", "D"})
      if (appearances.contains(key))
        appearances.set(key, turned_appearance(appearances[key], turn));
    if (!appearances.is_empty()) annotation.set("AP", std::move(appearances));
    if (annotation.contains("MK")) {
      Dict look = ledger_.resolve(annotation["MK"]).as_dict();
      turn_entry(look, "R");
      annotation.set("MK", std::move(look));
    }
  }
  ledger_.set(id, std::move(annotation));
}

// Fitting an appearance into its rectangle scales and shifts, but never turns it (12.5.5).
Object PageMoves::turned_appearance(const Object& appearance, const Matrix& turn) {
  const Object object = ledger_.resolve(appearance);
  if (const Stream* stream = object.as_stream()) {
    Stream form = *stream;
    const Matrix m = document::matrix_of(ledger_, form.dict).then(turn);
    form.dict.set("Matrix", document::array_of(m));
    return ledger_.add(Object(std::move(form)));
  }
  Dict states;
  for (const auto& [state, value] : object.as_dict())
    if (ledger_.resolve(value).is_stream()) states.set(state, turned_appearance(value, turn));
  return states;
}

Array PageMoves::place(const Array& old, const Move& move) const {
  const auto number = [&](std::size_t i, double otherwise) {
    return i < old.size() ? ledger_.resolve(old[i]).as_number(otherwise) : otherwise;
  };
  const Object kind = ledger_.resolve(old[1]);
  const bool is_part = move.form.has_value();
  const Rect& seen = move.seen;
  const auto at = [&](Point point, double zoom) {
    const Point p = move.by.apply(point);
    const double scaled = zoom / move.by.scale();
    return Array{move.to, Object::name("XYZ"), p.x, p.y, zoom > 0 ? Object(scaled) : Object()};
  };
  const auto rect = [&](const Rect& r) {
    const Rect moved = move.by.bounds_of(r);
    return Array{move.to, Object::name("FitR"), moved.left, moved.bottom, moved.right, moved.top};
  };
  if (kind.is_name("XYZ")) return at({number(2, seen.left), number(3, seen.top)}, number(4, 0));
  if (kind.is_name("FitR"))
    return rect(
        {number(2, seen.left), number(3, seen.bottom), number(4, seen.right), number(5, seen.top)});
  if (kind.is_name("FitH") || kind.is_name("FitBH")) {
    const double top = number(2, seen.top);
    if (is_part) return at({seen.left, top}, 0);
    return {move.to, kind, move.by.apply({seen.left, top}).y};
  }
  if (kind.is_name("FitV") || kind.is_name("FitBV")) {
    const double left = number(2, seen.left);
    if (is_part) return at({left, seen.top}, 0);
    return {move.to, kind, move.by.apply({left, seen.top}).x};
  }
  if (is_part) return rect(seen);
  Array same = old;
  same[0] = move.to;
  return same;
}

// Nothing when it is as it was. `content_of` is the page whose marked content numbers mean.
std::optional<Object> PageMoves::followed(const Object& object, const Move* content_of) const {
  if (const Move* move = move_of(object))
    return move->form ? std::optional<Object>(move->to) : std::nullopt;
  bool changed = false;
  const auto follow = [&](const Object& item, const Move* content) {
    std::optional<Object> other = followed(item, content);
    changed = changed || other;
    return other ? std::move(*other) : item;
  };
  if (object.is_array()) {
    const Array& items = object.as_array();
    const Move* move = items.size() > 1 ? move_of(items[0]) : nullptr;
    if (move != nullptr && ledger_.resolve(items[1]).is_name()) return place(items, *move);
    Array copies;
    for (const Object& item : items) {
      if (item.is_integer() && content_of != nullptr) {
        copies.push_back(Dict{{"Type", Object::name("MCR")},
                              {"Pg", content_of->to},
                              {"Stm", *content_of->form},
                              {"MCID", item}});
        changed = true;
      } else {
        copies.push_back(follow(item, nullptr));
      }
    }
    return changed ? std::optional<Object>(std::move(copies)) : std::nullopt;
  }
  if (!object.is_dict() && !object.is_stream()) return std::nullopt;
  const Dict& dict = object.as_dict();
  const Move* page = move_of(dict["Pg"]);
  if (page != nullptr && !page->form) page = nullptr;
  const bool is_element = page != nullptr && dict["S"].is_name();
  Dict copy = dict;
  for (const auto& [key, value] : dict) {
    const bool is_content = is_element && key == "K";
    const Object item = is_content && value.is_integer() ? Object(Array{value}) : value;
    copy.set(key, follow(item, is_content ? page : nullptr));
  }
  // Marked content of a page that is drawn as a form is that form's (14.7.5.2).
  if (page != nullptr && dict["Type"].is_name("MCR") && !dict.contains("Stm")) {
    copy.set("Stm", *page->form);
    changed = true;
  }
  if (!changed) return std::nullopt;
  if (const Stream* stream = object.as_stream()) {
    Stream other = *stream;
    other.dict = std::move(copy);
    return Object(std::move(other));
  }
  return Object(std::move(copy));
}

void PageMoves::follow(const std::vector<ObjectId>& ids) {
  if (moves_.empty()) return;
  for (const ObjectId id : ids)
    if (auto object = followed(ledger_.resolve(Object(id)), nullptr))
      ledger_.set(id, std::move(*object));
}

}  // namespace lumvet::assemble

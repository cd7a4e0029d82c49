// SPDX-License-Identifier: Apache-2.0
// Steps of an arrangement that change how pages look: their size, what lies on them, several on
// one.
#include <algorithm>

#include "assemble/arrangement_plan.h"
#include "assemble/blank_pages.h"

namespace lumvet {
namespace {

using assemble::OnPlannedSheet;
using assemble::PageChange;
using assemble::pages_of;
using assemble::Plan;
using assemble::Planned;
using assemble::Shape;

constexpr double kLeastRoom = 9;  // points, of a page on a sheet

std::string size_of(const Shape& shape) {
  return std::to_string(static_cast<int>(shape.width())) + " × " +
         std::to_string(static_cast<int>(shape.height())) + " points";
}

PaperSize lying_as(const Shape& shape, const PaperSize& paper) {
  const bool is_wide = shape.width() > shape.height();
  const auto [shorter, longer] = std::minmax(paper.width, paper.height);
  return is_wide ? PaperSize{longer, shorter} : PaperSize{shorter, longer};
}

// Onto paper, about its middle.
void move_onto(const Shape& shape, const PaperSize& paper, bool scaled, PageChange& change) {
  const double scale =
      scaled ? std::min(paper.width / shape.width(), paper.height / shape.height()) : 1;
  const bool is_turned = shape.rotation % 180 != 0;
  const double width = (is_turned ? paper.height : paper.width) / shape.user_unit;
  const double height = (is_turned ? paper.width : paper.height) / shape.user_unit;
  const Rect& crop = shape.crop;
  const Matrix map =
      Matrix::translation(-(crop.left + crop.right) / 2, -(crop.bottom + crop.top) / 2)
          .then(Matrix::scaling(scale, scale))
          .then(Matrix::translation(width / 2, height / 2));
  change.seen = change.moved.inverse().bounds_of(crop);
  change.moved = change.moved.then(map);
  for (assemble::Guest& guest : change.guests) {
    guest.placed = guest.placed.then(map);
    guest.clip = map.bounds_of(guest.clip ? guest.clip->intersected(crop) : crop);
  }
  change.media = Rect{0, 0, width, height};
  change.crop.reset();
}

// To where a thing of that size stands on a page that is shown in that size.
Matrix anchored(Anchor anchor, double margin, const PaperSize& thing, const PaperSize& page) {
  const auto is = [anchor](std::initializer_list<Anchor> any) {
    return std::find(any.begin(), any.end(), anchor) != any.end();
  };
  double x = (page.width - thing.width) / 2;
  double y = (page.height - thing.height) / 2;
  if (is({Anchor::top_left, Anchor::left, Anchor::bottom_left})) x = margin;
  if (is({Anchor::top_right, Anchor::right, Anchor::bottom_right}))
    x = page.width - margin - thing.width;
  if (is({Anchor::bottom_left, Anchor::bottom, Anchor::bottom_right})) y = margin;
  if (is({Anchor::top_left, Anchor::top, Anchor::top_right}))
    y = page.height - margin - thing.height;
  return Matrix::translation(x, y);
}

// A page as large as it can be in the middle of a place on a sheet.
OnPlannedSheet fitted(const Planned& planned, const Shape& shape, const Rect& place, bool framed) {
  const double scale = std::min(place.width() / shape.width(), place.height() / shape.height());
  const double left = (place.left + place.right - scale * shape.width()) / 2;
  const double bottom = (place.bottom + place.top - scale * shape.height()) / 2;
  return {
      planned,
      shape.to_shown().then(Matrix::scaling(scale, scale)).then(Matrix::translation(left, bottom)),
      framed};
}

// The places of pages on a sheet, in their order.
std::vector<Rect> places_on(const SheetLayout& layout, const PaperSize& paper) {
  const double width =
      (paper.width - 2 * layout.margin - (layout.columns - 1) * layout.gap) / layout.columns;
  const double height =
      (paper.height - 2 * layout.margin - (layout.rows - 1) * layout.gap) / layout.rows;
  std::vector<Rect> places;
  for (int i = 0; i < layout.columns * layout.rows; ++i) {
    int column = layout.down_first ? i / layout.rows : i % layout.columns;
    const int row = layout.down_first ? i % layout.rows : i / layout.columns;
    if (layout.right_to_left) column = layout.columns - 1 - column;
    const double left = layout.margin + column * (width + layout.gap);
    const double top = paper.height - layout.margin - row * (height + layout.gap);
    places.push_back({left, top - height, left + width, top});
  }
  return places;
}

// By how much pages are scaled in places of that size, all together.
double scale_of_all(const std::vector<Shape>& shapes, const Rect& place) {
  double sum = 0;
  for (const Shape& shape : shapes)
    sum += std::min(place.width() / shape.width(), place.height() / shape.height());
  return sum;
}

// The pages of a booklet of one fold in the order in which they are printed, -1 for none.
void fold(int first, int pages, int places, std::vector<int>& order) {
  const auto page = [&](int i) { return i < pages ? first + i : -1; };
  for (int sheet = 0; sheet < places / 4; ++sheet) {
    order.insert(order.end(), {page(places - 1 - 2 * sheet), page(2 * sheet), page(2 * sheet + 1),
                               page(places - 2 - 2 * sheet)});
  }
}

}  // namespace

Status Arrangement::crop(const PageSelection& pages, const Margins& margins) {
  LUMVET_TRY(const std::vector<bool> marks, impl_->marked(pages));
  Plan plan = impl_->plan();
  for (std::size_t i = 0; i < plan.size(); ++i) {
    if (!marks[i]) continue;
    LUMVET_TRY(const Shape shape, impl_->shape_of(plan[i]));
    const Rect crop = assemble::cropped(shape, margins);
    if (crop.width() < 1 || crop.height() < 1)
      return Error(ErrorCode::invalid_argument, "nothing would be left of page " +
                                                    std::to_string(i + 1) + ", which is " +
                                                    size_of(shape) + " large");
    plan[i].change.crop = crop;
  }
  impl_->take(
      "cropped " + pages_of(static_cast<std::size_t>(std::count(marks.begin(), marks.end(), true))),
      std::move(plan));
  return Done{};
}

Status Arrangement::resize(const PageSelection& pages, const PaperSize& paper, bool scaled) {
  LUMVET_RETURN_IF_ERROR(assemble::check_size(paper));
  LUMVET_TRY(const std::vector<bool> marks, impl_->marked(pages));
  Plan plan = impl_->plan();
  for (std::size_t i = 0; i < plan.size(); ++i) {
    if (!marks[i]) continue;
    LUMVET_TRY(const Shape shape, impl_->shape_of(plan[i]));
    move_onto(shape, lying_as(shape, paper), scaled, plan[i].change);
  }
  impl_->take(
      "resized " + pages_of(static_cast<std::size_t>(std::count(marks.begin(), marks.end(), true))),
      std::move(plan));
  return Done{};
}

Status Arrangement::overlay(const PageSelection& pages, const Document& other,
                            const PageSelection& from, const Overlay& how) {
  if (!(how.opacity > 0 && how.opacity <= 1))
    return Error(ErrorCode::invalid_argument, "an opacity is more than 0 and 1 at most");
  if (how.scale && !(*how.scale > 0.001 && *how.scale < 1000))
    return Error(ErrorCode::invalid_argument, "a scale is between 0.001 and 1000");
  LUMVET_TRY(const std::vector<int> chosen, impl_->chosen(pages));
  Result<std::vector<int>> guests = from.in(other.page_count());
  if (!guests.ok()) return std::move(guests).error().during("taking pages of " + other.name());
  if (guests->empty())
    return Error(ErrorCode::invalid_argument, "the selection names no page of " + other.name());
  Plan plan = impl_->plan();
  std::vector<bool> done(plan.size());
  std::size_t next = 0;
  for (const int index : chosen) {
    const auto i = static_cast<std::size_t>(index);
    if (done[i]) continue;
    done[i] = true;
    const int guest = (*guests)[std::min(next++, guests->size() - 1)];
    LUMVET_TRY(const Page drawn, other.page(guest));
    LUMVET_TRY(const Shape shape, impl_->shape_of(plan[i]));
    const Shape its = assemble::shape_of(drawn, {});
    const double scale =
        how.scale.value_or(std::min((shape.width() - 2 * how.margin) / its.width(),
                                    (shape.height() - 2 * how.margin) / its.height()));
    if (scale <= 0)
      return Error(ErrorCode::invalid_argument, "the margin leaves no room on page " +
                                                    std::to_string(i + 1) + ", which is " +
                                                    size_of(shape) + " large");
    const Matrix placed =
        its.to_shown()
            .then(Matrix::scaling(scale, scale))
            .then(anchored(how.anchor, how.margin, {its.width() * scale, its.height() * scale},
                           {shape.width(), shape.height()}))
            .then(shape.to_shown().inverse());
    plan[i].change.guests.push_back({other, guest, placed, how.opacity, how.behind, {}});
  }
  impl_->take("laid " + other.name() + (how.behind ? " behind " : " over ") +
                  pages_of(static_cast<std::size_t>(std::count(done.begin(), done.end(), true))),
              std::move(plan));
  return Done{};
}

Status Arrangement::lay_on_sheets(const SheetLayout& layout) {
  constexpr int kMost = 20;
  if (layout.columns < 1 || layout.columns > kMost || layout.rows < 1 || layout.rows > kMost)
    return Error(ErrorCode::invalid_argument, "a sheet has 1 to 20 columns and rows of pages");
  LUMVET_RETURN_IF_ERROR(assemble::check_size(layout.paper));
  const Plan& old = impl_->plan();
  std::vector<Shape> shapes;
  for (const Planned& planned : old) {
    LUMVET_TRY(Shape shape, impl_->shape_of(planned));
    shapes.push_back(shape);
  }
  const auto [shorter, longer] = std::minmax(layout.paper.width, layout.paper.height);
  const std::vector<Rect> upright = places_on(layout, {shorter, longer});
  const std::vector<Rect> across = places_on(layout, {longer, shorter});
  const bool is_wide = scale_of_all(shapes, across[0]) > scale_of_all(shapes, upright[0]);
  const std::vector<Rect>& places = is_wide ? across : upright;
  if (places[0].width() < kLeastRoom || places[0].height() < kLeastRoom)
    return Error(ErrorCode::invalid_argument,
                 "the margins and gaps leave no room for pages on such a sheet");
  LUMVET_TRY(const Document blank, assemble::blank_document(is_wide ? PaperSize{longer, shorter}
                                                                    : PaperSize{shorter, longer}));
  const std::size_t sheet = impl_->place_of(blank);
  Plan plan;
  for (std::size_t first = 0; first < old.size(); first += places.size()) {
    auto parts = std::make_shared<std::vector<OnPlannedSheet>>();
    for (std::size_t i = first; i < std::min(first + places.size(), old.size()); ++i)
      parts->push_back(fitted(old[i], shapes[i], places[i - first], layout.framed));
    plan.push_back({sheet, 0, {}, std::move(parts)});
  }
  const std::string what = "laid " + pages_of(old.size()) + " on " + std::to_string(plan.size()) +
                           (plan.size() == 1 ? " sheet" : " sheets");
  impl_->take(what, std::move(plan));
  return Done{};
}

Status Arrangement::lay_as_booklet(const BookletLayout& layout) {
  LUMVET_RETURN_IF_ERROR(assemble::check_size(layout.paper));
  if (layout.sheets_in_a_fold < 0)
    return Error(ErrorCode::invalid_argument, "a fold has no less than one sheet");
  const Plan& old = impl_->plan();
  const int count = impl_->count();
  constexpr int kOnSheet = 4;  // two on each side
  std::vector<int> order;
  // Not more pages in a fold than there are.
  const int all = (count + kOnSheet - 1) / kOnSheet;
  const int sheets = layout.sheets_in_a_fold == 0 ? all : std::min(layout.sheets_in_a_fold, all);
  for (int first = 0; first < count; first += sheets * kOnSheet) {
    const int pages = std::min(count - first, sheets * kOnSheet);
    fold(first, pages, (pages + kOnSheet - 1) / kOnSheet * kOnSheet, order);
  }
  const auto [shorter, longer] = std::minmax(layout.paper.width, layout.paper.height);
  const SheetLayout sides{.columns = 2,
                          .rows = 1,
                          .paper = {longer, shorter},
                          .margin = layout.margin,
                          .gap = 2 * layout.margin,
                          .right_to_left = layout.right_to_left};
  const std::vector<Rect> places = places_on(sides, {longer, shorter});
  if (places[0].width() < kLeastRoom || places[0].height() < kLeastRoom)
    return Error(ErrorCode::invalid_argument, "the margin leaves no room for pages");
  LUMVET_TRY(const Document blank, assemble::blank_document({longer, shorter}));
  const std::size_t sheet = impl_->place_of(blank);
  Plan plan;
  for (std::size_t i = 0; i < order.size(); i += places.size()) {
    auto parts = std::make_shared<std::vector<OnPlannedSheet>>();
    for (std::size_t side = 0; side < places.size(); ++side) {
      if (order[i + side] < 0) continue;
      const Planned& page = old[static_cast<std::size_t>(order[i + side])];
      LUMVET_TRY(const Shape shape, impl_->shape_of(page));
      parts->push_back(fitted(page, shape, places[side], false));
    }
    plan.push_back({sheet, 0, {}, std::move(parts)});
  }
  const std::string what = "laid " + pages_of(old.size()) + " as a booklet of " +
                           std::to_string(plan.size() / 2) +
                           (plan.size() == 2 ? " sheet" : " sheets");
  impl_->take(what, std::move(plan));
  return Done{};
}

}  // namespace lumvet

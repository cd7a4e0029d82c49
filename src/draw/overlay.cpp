// SPDX-License-Identifier: Apache-2.0
#include "lumvet/draw/overlay.h"

#include <algorithm>

#include "assemble/equal_objects.h"
#include "assemble/page_drawing.h"
#include "assemble/page_shape.h"
#include "document/permission.h"
#include "draw/drawing_writer.h"
#include "edit/editable_document_impl.h"
#include "edit/places.h"

namespace lumvet {
namespace {

// Where a thing of that size stands on a page that is shown in that size.
PageArea anchored(const Overlay& how, const PaperSize& thing, const Page& page) {
  const auto is = [&](std::initializer_list<Anchor> any) {
    return std::find(any.begin(), any.end(), how.anchor) != any.end();
  };
  double left = (page.width() - thing.width) / 2;
  double top = (page.height() - thing.height) / 2;
  if (is({Anchor::top_left, Anchor::left, Anchor::bottom_left})) left = how.margin;
  if (is({Anchor::top_right, Anchor::right, Anchor::bottom_right}))
    left = page.width() - how.margin - thing.width;
  if (is({Anchor::top_left, Anchor::top, Anchor::top_right})) top = how.margin;
  if (is({Anchor::bottom_left, Anchor::bottom, Anchor::bottom_right}))
    top = page.height() - how.margin - thing.height;
  return {left, top, thing.width, thing.height};
}

Result<Drawing> drawn(const Page& page, const Page& guest, const Overlay& how) {
  const double scale =
      how.scale.value_or(std::min((page.width() - 2 * how.margin) / guest.width(),
                                  (page.height() - 2 * how.margin) / guest.height()));
  if (scale <= 0)
    return Error(ErrorCode::invalid_argument, "the margin leaves no room on page " +
                                                  std::to_string(page.index() + 1) + ", which is " +
                                                  assemble::shape_of(page).size() + " large");
  Drawing drawing(page.width(), page.height());
  if (how.opacity < 1) drawing.set_opacity(how.opacity);
  drawing.draw(guest, anchored(how, {guest.width() * scale, guest.height() * scale}, page));
  return drawing;
}

// From a drawing's own space, whose y is upward, to that of a page as whose top left corner its own
// lies.
Matrix onto(const Drawing& drawing, const Page& page) {
  const assemble::Shape shape = assemble::shape_of(page);
  return Matrix::translation(0, shape.height() - drawing.height()).then(shape.to_shown().inverse());
}

}  // namespace

Status draw_on_pages(EditableDocument& document, const PageSelection& pages,
                     const DrawsOnPage& drawing_for, const OnPages& how) {
  auto& impl = Inside<EditableDocument>::impl(document);
  return impl.step([&](const Document& now, file::Ledger& ledger) -> Result<std::string> {
    draw::DrawingWriter writer(ledger);
    LUMVET_TRY(std::string what,
               impl.each_page(now, ledger, pages, how.what.c_str(),
                              [&](const Page& page, ObjectId id) -> Status {
                                LUMVET_TRY(const Drawing drawing, drawing_for(page));
                                LUMVET_TRY(const ObjectId form,
                                           writer.form_of({.drawing = draw::data_of(drawing)}));
                                editing::keep_inherited(page, id, ledger);
                                return assemble::draw_onto(ledger, page, id,
                                                           {{.form = form,
                                                             .placed = onto(drawing, page),
                                                             .beneath = how.beneath,
                                                             .is_artifact = true}});
                              }));
    Dict catalog = impl.catalog(ledger);
    LUMVET_RETURN_IF_ERROR(writer.finish(catalog));
    if (const std::string version = writer.version(); version > now.version())
      catalog.set("Version", Object::name(version));
    impl.put_catalog(ledger, std::move(catalog));
    assemble::join_equal_objects(ledger, impl.file->first_beyond());
    return what;
  });
}

Status overlay(EditableDocument& document, const PageSelection& pages, const Document& other,
               const PageSelection& from, const Overlay& how) {
  if (!(how.opacity > 0 && how.opacity <= 1))
    return Error(ErrorCode::invalid_argument, "an opacity is more than 0 and 1 at most");
  if (how.scale && !(*how.scale > 0.001 && *how.scale < 1000))
    return Error(ErrorCode::invalid_argument, "a scale is between 0.001 and 1000");
  LUMVET_RETURN_IF_ERROR(
      document::check_permission(other, &Permissions::assemble, "pages be taken out of it"));
  Result<std::vector<int>> guests = from.in(other.page_count());
  if (!guests.ok()) return std::move(guests).error().about(other.name());
  if (guests->empty())
    return Error(ErrorCode::invalid_argument, "the selection names no page of " + other.name());
  std::size_t next = 0;
  return draw_on_pages(document, pages,
                       [&](const Page& page) -> Result<Drawing> {
                         LUMVET_TRY(const Page guest,
                                    other.page((*guests)[std::min(next++, guests->size() - 1)]));
                         return drawn(page, guest, how);
                       },
                       {.beneath = how.beneath,
                        .what = "laid " + other.name() + (how.beneath ? " beneath" : " over")});
}

}  // namespace lumvet

// SPDX-License-Identifier: Apache-2.0
// Steps that change how pages look: their size, and what lies on them.
#include <algorithm>

#include "assemble/blank_pages.h"
#include "assemble/equal_objects.h"
#include "assemble/guest_forms.h"
#include "assemble/layer_builder.h"
#include "assemble/page_drawing.h"
#include "assemble/page_moves.h"
#include "assemble/page_shape.h"
#include "document/geometry_objects.h"
#include "document/permission.h"
#include "edit/editable_document_impl.h"
#include "edit/page_insertion.h"
#include "edit/places.h"

namespace lumvet {
namespace {

using assemble::Shape;

PaperSize lying_as(const Shape& shape, const PaperSize& paper) {
  const bool is_wide = shape.width() > shape.height();
  const auto [shorter, longer] = std::minmax(paper.width, paper.height);
  return is_wide ? PaperSize{longer, shorter} : PaperSize{shorter, longer};
}

// A page's own extent on such paper, and the way there for what it shows, about the middle.
struct Resized {
  Rect media;
  Matrix moved;
};

Resized onto(const Shape& shape, const PaperSize& paper, bool scaled) {
  const double scale =
      scaled ? std::min(paper.width / shape.width(), paper.height / shape.height()) : 1;
  const bool is_turned = shape.rotation % 180 != 0;
  const double width = (is_turned ? paper.height : paper.width) / shape.user_unit;
  const double height = (is_turned ? paper.width : paper.height) / shape.user_unit;
  const Rect& crop = shape.crop;
  return {{0, 0, width, height},
          Matrix::translation(-(crop.left + crop.right) / 2, -(crop.bottom + crop.top) / 2)
              .then(Matrix::scaling(scale, scale))
              .then(Matrix::translation(width / 2, height / 2))};
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

// From a guest's own space to that of the page it is laid on.
Result<Matrix> placed(const Page& page, const Page& guest, const Overlay& how) {
  const Shape shape = assemble::shape_of(page);
  const Shape its = assemble::shape_of(guest);
  const double scale =
      how.scale.value_or(std::min((shape.width() - 2 * how.margin) / its.width(),
                                  (shape.height() - 2 * how.margin) / its.height()));
  if (scale <= 0)
    return Error(ErrorCode::invalid_argument, "the margin leaves no room on page " +
                                                  std::to_string(page.index() + 1) + ", which is " +
                                                  shape.size() + " large");
  return its.to_shown()
      .then(Matrix::scaling(scale, scale))
      .then(anchored(how.anchor, how.margin, {its.width() * scale, its.height() * scale},
                     {shape.width(), shape.height()}))
      .then(shape.to_shown().inverse());
}

}  // namespace

Status EditableDocument::crop(const PageSelection& pages, const Margins& margins) {
  return impl_->step([&](const Document& document, file::Ledger& ledger) -> Result<std::string> {
    return impl_->each_page(
        document, ledger, pages, "cropped", [&](const Page& page, ObjectId id) -> Status {
          const Shape shape = assemble::shape_of(page);
          const Rect crop = assemble::cropped(shape, margins);
          if (crop.width() < 1 || crop.height() < 1)
            return Error(ErrorCode::invalid_argument, "nothing would be left of page " +
                                                          std::to_string(page.index() + 1) +
                                                          ", which is " + shape.size() + " large");
          Dict dict = ledger.resolve(Object(id)).as_dict();
          dict.set("CropBox", document::array_of(crop));
          impl_->put(ledger, id, Object(std::move(dict)));
          return Done{};
        });
  });
}

Status EditableDocument::resize(const PageSelection& pages, const PaperSize& paper, bool scaled) {
  LUMVET_RETURN_IF_ERROR(assemble::check_size(paper));
  return impl_->step([&](const Document& document, file::Ledger& ledger) -> Result<std::string> {
    assemble::PageMoves moves(ledger);
    LUMVET_TRY(std::string what,
               impl_->each_page(document, ledger, pages, "resized",
                                [&](const Page& page, ObjectId id) -> Status {
                                  const Shape shape = assemble::shape_of(page);
                                  const Resized resized =
                                      onto(shape, lying_as(shape, paper), scaled);
                                  LUMVET_TRY(const Bytes content, page.content());
                                  editing::keep_inherited(page, id, ledger);
                                  assemble::wrap_page(ledger, id, assemble::balance_of(content),
                                                      {resized.moved, shape.crop, {}});
                                  Dict dict = ledger.resolve(Object(id)).as_dict();
                                  dict.set("MediaBox", document::array_of(resized.media));
                                  dict.set("CropBox", dict["MediaBox"]);
                                  for (const char* key : {"BleedBox", "TrimBox", "ArtBox"})
                                    dict.remove(key);
                                  ledger.set(id, std::move(dict));
                                  moves.add(id, {id, resized.moved, shape.crop, {}});
                                  moves.move_annotations(id);
                                  return Done{};
                                }));
    moves.follow(editing::holders_of_places(document));
    return what;
  });
}

Status EditableDocument::overlay(const PageSelection& pages, const Document& other,
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
  return impl_->step([&](const Document& document, file::Ledger& ledger) -> Result<std::string> {
    assemble::GuestForms forms(other, ledger);
    std::size_t next = 0;
    LUMVET_TRY(const std::string what,
               impl_->each_page(document, ledger, pages, how.beneath ? "beneath" : "over",
                                [&](const Page& page, ObjectId id) -> Status {
                                  LUMVET_TRY(
                                      const Page guest,
                                      other.page((*guests)[std::min(next++, guests->size() - 1)]));
                                  LUMVET_TRY(const Matrix to_page, placed(page, guest, how));
                                  LUMVET_TRY(const ObjectId form, forms.form_of(guest));
                                  editing::keep_inherited(page, id, ledger);
                                  return assemble::draw_onto(
                                      ledger, page, id,
                                      {{form, to_page, how.opacity, how.beneath, {}, {}, true}});
                                }));
    assemble::LayerBuilder layers;
    layers.add(forms.copier());
    Dict catalog = impl_->catalog(ledger);
    catalog.set("OCProperties", layers.finish(ledger, catalog["OCProperties"]));
    editing::raise_version(document, other, catalog);
    impl_->put_catalog(ledger, std::move(catalog));
    assemble::join_equal_objects(ledger, impl_->file->first_beyond());
    return "laid " + other.name() + " " + what;
  });
}

}  // namespace lumvet

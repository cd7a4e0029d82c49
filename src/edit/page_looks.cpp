// SPDX-License-Identifier: Apache-2.0
// Steps that change how large pages are, and what is seen of them.
#include <algorithm>

#include "assemble/blank_pages.h"
#include "assemble/page_drawing.h"
#include "assemble/page_moves.h"
#include "assemble/page_shape.h"
#include "document/geometry_objects.h"
#include "edit/editable_document_impl.h"
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
    LUMVET_TRY(
        std::string what,
        impl_->each_page(
            document, ledger, pages, "resized", [&](const Page& page, ObjectId id) -> Status {
              const Shape shape = assemble::shape_of(page);
              const Resized resized = onto(shape, lying_as(shape, paper), scaled);
              LUMVET_TRY(Bytes content, page.content());
              editing::keep_inherited(page, id, ledger);
              assemble::wrap_page(ledger, id, std::move(content), {resized.moved, shape.crop, {}});
              Dict dict = ledger.resolve(Object(id)).as_dict();
              dict.set("MediaBox", document::array_of(resized.media));
              dict.set("CropBox", dict["MediaBox"]);
              for (const char* key : {"BleedBox", "TrimBox", "ArtBox"}) dict.remove(key);
              ledger.set(id, std::move(dict));
              moves.add(id, {id, resized.moved, shape.crop, {}});
              moves.move_annotations(id);
              return Done{};
            }));
    moves.follow(editing::holders_of_places(document));
    return what;
  });
}

}  // namespace lumvet

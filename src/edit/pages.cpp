// SPDX-License-Identifier: Apache-2.0
// The pages of a document that is being changed: turned, cropped, in another order.
#include <algorithm>

#include "assemble/blank_pages.h"
#include "assemble/page_change.h"
#include "document/number_arrays.h"
#include "edit/editable_document_impl.h"
#include "edit/page_order.h"
#include "edit/page_removal.h"

namespace lumvet {
namespace {

using editing::OrderedPage;

std::string pages_of(std::size_t count) {
  return std::to_string(count) + (count == 1 ? " page" : " pages");
}

// In the selection's order, each once.
Result<std::vector<int>> chosen(const PageSelection& pages, int count) {
  LUMVET_TRY(const std::vector<int> named, pages.in(count));
  std::vector<int> once;
  std::vector<bool> met(static_cast<std::size_t>(count));
  for (const int page : named) {
    if (!met[static_cast<std::size_t>(page)]) once.push_back(page);
    met[static_cast<std::size_t>(page)] = true;
  }
  if (once.empty())
    return Error(ErrorCode::invalid_argument,
                 "the selection names none of the " + pages_of(static_cast<std::size_t>(count)));
  return once;
}

Status is_place(int before, int count) {
  if (before >= 0 && before <= count) return Done{};
  return Error(ErrorCode::invalid_argument, "there is no place before page " +
                                                std::to_string(before + 1) + "; there are " +
                                                pages_of(static_cast<std::size_t>(count)));
}

std::vector<bool> marks_of(const std::vector<int>& pages, int count) {
  std::vector<bool> marks(static_cast<std::size_t>(count));
  for (const int page : pages) marks[static_cast<std::size_t>(page)] = true;
  return marks;
}

}  // namespace

Result<std::string> EditableDocument::Impl::reordered(const Document& document,
                                                      file::Ledger& ledger,
                                                      const std::vector<OrderedPage>& order,
                                                      std::string what) const {
  Dict now = catalog(ledger);
  LUMVET_RETURN_IF_ERROR(editing::reorder(document, ledger, now, order));
  put_catalog(ledger, std::move(now));
  return what;
}

Result<std::string> EditableDocument::Impl::each_page(
    const Document& document, file::Ledger& ledger, const PageSelection& pages, const char* what,
    const std::function<Status(const Page&, Dict&)>& set) const {
  LUMVET_TRY(const std::vector<int> indices, chosen(pages, document.page_count()));
  Dict now = catalog(ledger);
  LUMVET_TRY(const std::vector<ObjectId> ids,
             editing::ids_of_pages(document, ledger, now, indices));
  for (std::size_t i = 0; i < ids.size(); ++i) {
    LUMVET_TRY(const Page page, document.page(indices[i]));
    Dict dict = ledger.resolve(Object(ids[i])).as_dict();
    LUMVET_RETURN_IF_ERROR(set(page, dict));
    put(ledger, ids[i], Object(std::move(dict)));
    ledger.touch_page(ids[i]);
  }
  put_catalog(ledger, std::move(now));
  return what + (" " + pages_of(ids.size()));
}

Status EditableDocument::rotate(const PageSelection& pages, int degrees) {
  constexpr int kQuarter = 90;
  constexpr int kWhole = 360;
  if (degrees % kQuarter != 0)
    return Error(ErrorCode::invalid_argument,
                 "pages turn by 90, 180 or 270 degrees, not by " + std::to_string(degrees));
  return impl_->step([&](const Document& document, file::Ledger& ledger) -> Result<std::string> {
    return impl_->each_page(
        document, ledger, pages, "rotated", [&](const Page& page, Dict& dict) -> Status {
          dict.set("Rotate", ((page.rotation() + degrees) % kWhole + kWhole) % kWhole);
          return Done{};
        });
  });
}

Status EditableDocument::crop(const PageSelection& pages, const Margins& margins) {
  return impl_->step([&](const Document& document, file::Ledger& ledger) -> Result<std::string> {
    return impl_->each_page(
        document, ledger, pages, "cropped", [&](const Page& page, Dict& dict) -> Status {
          const Rect crop = assemble::cropped(assemble::shape_of(page, {}), margins);
          if (crop.width() < 1 || crop.height() < 1)
            return Error(ErrorCode::invalid_argument,
                         "nothing would be left of page " + std::to_string(page.index() + 1) +
                             ", which is " + std::to_string(static_cast<int>(page.width())) +
                             " × " + std::to_string(static_cast<int>(page.height())) +
                             " points large");
          dict.set("CropBox", document::array_of(crop));
          return Done{};
        });
  });
}

Status EditableDocument::move(const PageSelection& pages, int before) {
  return impl_->step([&](const Document& document, file::Ledger& ledger) -> Result<std::string> {
    const int count = document.page_count();
    LUMVET_RETURN_IF_ERROR(is_place(before, count));
    LUMVET_TRY(const std::vector<int> indices, chosen(pages, count));
    const std::vector<bool> marks = marks_of(indices, count);
    std::vector<OrderedPage> order;
    const auto put_moved = [&] {
      for (const int index : indices) order.push_back({index, {}});
    };
    for (int i = 0; i < count; ++i) {
      if (i == before) put_moved();
      if (!marks[static_cast<std::size_t>(i)]) order.push_back({i, {}});
    }
    if (before == count) put_moved();
    return impl_->reordered(document, ledger, order, "moved " + pages_of(indices.size()));
  });
}

Status EditableDocument::reverse(const PageSelection& pages) {
  return impl_->step([&](const Document& document, file::Ledger& ledger) -> Result<std::string> {
    const int count = document.page_count();
    LUMVET_TRY(const std::vector<int> indices, chosen(pages, count));
    const std::vector<bool> marks = marks_of(indices, count);
    std::vector<int> places;
    for (int i = 0; i < count; ++i)
      if (marks[static_cast<std::size_t>(i)]) places.push_back(i);
    std::vector<OrderedPage> order;
    std::size_t next = places.size();
    for (int i = 0; i < count; ++i)
      order.push_back({marks[static_cast<std::size_t>(i)] ? places[--next] : i, {}});
    return impl_->reordered(document, ledger, order, "reversed " + pages_of(places.size()));
  });
}

Status EditableDocument::drop(const PageSelection& pages) {
  return impl_->step([&](const Document& document, file::Ledger& ledger) -> Result<std::string> {
    const int count = document.page_count();
    LUMVET_TRY(const std::vector<int> indices, chosen(pages, count));
    if (static_cast<int>(indices.size()) == count)
      return Error(ErrorCode::invalid_argument,
                   "no page would be left; a document has one at least");
    const std::vector<bool> marks = marks_of(indices, count);
    std::vector<OrderedPage> order;
    for (int i = 0; i < count; ++i)
      if (!marks[static_cast<std::size_t>(i)]) order.push_back({i, {}});
    std::set<ObjectId> gone;
    for (const int index : indices) {
      LUMVET_TRY(const Page page, document.page(index));
      if (page.id() != ObjectId()) gone.insert(page.id());
    }
    Dict catalog = impl_->catalog(ledger);
    LUMVET_RETURN_IF_ERROR(editing::reorder(document, ledger, catalog, order));
    editing::remove_pages(document, ledger, catalog, gone);
    impl_->put_catalog(ledger, std::move(catalog));
    return "dropped " + pages_of(indices.size());
  });
}

Status EditableDocument::insert_blank(int before, int count, const PaperSize& size) {
  constexpr int kMost = 10'000;
  if (count < 1 || count > kMost)
    return Error(ErrorCode::invalid_argument,
                 "1 to " + std::to_string(kMost) + " blank pages can be inserted at once");
  LUMVET_RETURN_IF_ERROR(assemble::check_size(size));
  return impl_->step([&](const Document& document, file::Ledger& ledger) -> Result<std::string> {
    LUMVET_RETURN_IF_ERROR(is_place(before, document.page_count()));
    std::vector<OrderedPage> order;
    for (int i = 0; i <= document.page_count(); ++i) {
      for (int blank = 0; i == before && blank < count; ++blank) {
        const ObjectId id = ledger.add(assemble::blank_page(size));
        ledger.touch_page(id);
        order.push_back({-1, id});
      }
      if (i < document.page_count()) order.push_back({i, {}});
    }
    return impl_->reordered(document, ledger, order,
                            "inserted " + pages_of(static_cast<std::size_t>(count)));
  });
}

}  // namespace lumvet

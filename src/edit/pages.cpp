// SPDX-License-Identifier: Apache-2.0
// The pages of a document that is being changed: rotated, in another order, fewer.
#include <algorithm>

#include "edit/chosen_pages.h"
#include "edit/editable_document_impl.h"
#include "edit/page_order.h"
#include "edit/page_removal.h"

namespace lumvet {

using editing::chosen_pages;
using editing::is_place;
using editing::marks_of;
using editing::OrderedPage;
using editing::pages_of;

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
    const std::function<Status(const Page&, ObjectId)>& change) const {
  LUMVET_TRY(const std::vector<int> indices, chosen_pages(pages, document.page_count()));
  Dict now = catalog(ledger);
  LUMVET_TRY(const std::vector<ObjectId> ids,
             editing::ids_of_pages(document, ledger, now, indices));
  put_catalog(ledger, std::move(now));
  for (std::size_t i = 0; i < ids.size(); ++i) {
    LUMVET_TRY(const Page page, document.page(indices[i]));
    LUMVET_RETURN_IF_ERROR(change(page, ids[i]));
    ledger.touch_page(ids[i]);
  }
  return what + (" " + pages_of(ids.size()));
}

Status EditableDocument::rotate(const PageSelection& pages, int degrees) {
  constexpr int kQuarter = 90;
  constexpr int kWhole = 360;
  if (degrees % kQuarter != 0)
    return Error(ErrorCode::invalid_argument,
                 "pages turn by 90, 180 or 270 degrees, not by " + std::to_string(degrees));
  return impl_->arrange([&](const Document& document, file::Ledger& ledger) -> Result<std::string> {
    return impl_->each_page(
        document, ledger, pages, "rotated", [&](const Page& page, ObjectId id) -> Status {
          Dict dict = ledger.resolve(Object(id)).as_dict();
          dict.set("Rotate", ((page.rotation() + degrees) % kWhole + kWhole) % kWhole);
          impl_->put(ledger, id, Object(std::move(dict)));
          return Done{};
        });
  });
}

Status EditableDocument::move(const PageSelection& pages, int before) {
  return impl_->arrange([&](const Document& document, file::Ledger& ledger) -> Result<std::string> {
    const int count = document.page_count();
    LUMVET_RETURN_IF_ERROR(is_place(before, count));
    LUMVET_TRY(const std::vector<int> indices, chosen_pages(pages, count));
    const std::vector<bool> marks = marks_of(indices, count);
    std::vector<OrderedPage> order;
    const auto put_moved = [&] {
      for (const int index : indices) order.push_back({index, {}, {}});
    };
    for (int i = 0; i < count; ++i) {
      if (i == before) put_moved();
      if (!marks[static_cast<std::size_t>(i)]) order.push_back({i, {}, {}});
    }
    if (before == count) put_moved();
    return impl_->reordered(document, ledger, order, "moved " + pages_of(indices.size()));
  });
}

Status EditableDocument::reverse(const PageSelection& pages) {
  return impl_->arrange([&](const Document& document, file::Ledger& ledger) -> Result<std::string> {
    const int count = document.page_count();
    LUMVET_TRY(const std::vector<int> indices, chosen_pages(pages, count));
    const std::vector<bool> marks = marks_of(indices, count);
    std::vector<int> places;
    for (int i = 0; i < count; ++i)
      if (marks[static_cast<std::size_t>(i)]) places.push_back(i);
    std::vector<OrderedPage> order;
    std::size_t next = places.size();
    for (int i = 0; i < count; ++i)
      order.push_back({marks[static_cast<std::size_t>(i)] ? places[--next] : i, {}, {}});
    return impl_->reordered(document, ledger, order, "reversed " + pages_of(places.size()));
  });
}

Status EditableDocument::drop(const PageSelection& pages) {
  return impl_->arrange([&](const Document& document, file::Ledger& ledger) -> Result<std::string> {
    const int count = document.page_count();
    LUMVET_TRY(const std::vector<int> indices, chosen_pages(pages, count));
    if (static_cast<int>(indices.size()) == count)
      return Error(ErrorCode::invalid_argument,
                   "no page would be left; a document has one at least");
    const std::vector<bool> marks = marks_of(indices, count);
    std::vector<OrderedPage> order;
    for (int i = 0; i < count; ++i)
      if (!marks[static_cast<std::size_t>(i)]) order.push_back({i, {}, {}});
    Dict catalog = impl_->catalog(ledger);
    LUMVET_RETURN_IF_ERROR(editing::reorder(document, ledger, catalog, order));
    LUMVET_RETURN_IF_ERROR(editing::remove_pages(document, ledger, catalog, indices));
    impl_->put_catalog(ledger, std::move(catalog));
    return "dropped " + pages_of(indices.size());
  });
}

Status EditableDocument::interleave(bool backs_reversed) {
  return impl_->arrange([&](const Document& document, file::Ledger& ledger) -> Result<std::string> {
    const int count = document.page_count();
    if (count % 2 != 0)
      return Error(ErrorCode::invalid_argument,
                   "fronts and backs must be equally many, but there are " +
                       pages_of(static_cast<std::size_t>(count)));
    std::vector<OrderedPage> order;
    for (int i = 0; i < count / 2; ++i) {
      order.push_back({i, {}, {}});
      order.push_back({backs_reversed ? count - 1 - i : count / 2 + i, {}, {}});
    }
    return impl_->reordered(document, ledger, order,
                            "interleaved " + pages_of(static_cast<std::size_t>(count)));
  });
}

}  // namespace lumvet

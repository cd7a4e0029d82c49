// SPDX-License-Identifier: Apache-2.0
// Steps that bring pages into a document: blank ones, copies of its own, those of others.
#include <algorithm>

#include "assemble/blank_pages.h"
#include "assemble/equal_objects.h"
#include "document/permission.h"
#include "edit/chosen_pages.h"
#include "edit/editable_document_impl.h"
#include "edit/page_duplicates.h"
#include "edit/page_insertion.h"
#include "edit/page_removal.h"

namespace lumvet {

using editing::chosen_pages;
using editing::is_place;
using editing::named_pages;
using editing::OrderedPage;
using editing::pages_of;

namespace {

// The document's pages with new ones before one of them.
std::vector<OrderedPage> with_new(int count, int before, const std::vector<OrderedPage>& fresh) {
  std::vector<OrderedPage> order;
  for (int i = 0; i <= count; ++i) {
    if (i == before) order.insert(order.end(), fresh.begin(), fresh.end());
    if (i < count) order.push_back({i, {}, {}});
  }
  return order;
}

// Pages that are to stand in a document once more, in an order of pages.
class Duplicates {
 public:
  Duplicates(const Document& document, file::Ledger& ledger)
      : document_(document), ledger_(ledger) {}

  // Gives its number.
  Result<ObjectId> add(int index, std::vector<OrderedPage>& order) {
    LUMVET_TRY(const Page page, document_.page(index));
    const ObjectId id = editing::add_bare_duplicate(ledger_, page);
    OrderedPage copy{-1, id, {}};
    const auto labels = core_of(document_).labels();
    if (labels->are_given()) copy.label = labels->label(index);
    order.push_back(std::move(copy));
    made_.emplace_back(page.id(), id);
    return id;
  }

  // Once the ledger has everything else.
  void finish(Dict& catalog) const {
    for (const auto& [page, duplicate] : made_)
      if (page != ObjectId())
        editing::duplicate_annotations(ledger_, catalog, page, duplicate,
                                       store_of(document_).limits());
  }

 private:
  const Document& document_;
  file::Ledger& ledger_;
  std::vector<std::pair<ObjectId, ObjectId>> made_;  // with the pages that they are of
};

}  // namespace

Status EditableDocument::insert_blank(int before, int count, const PaperSize& size) {
  constexpr int kMost = 10'000;
  if (count < 1 || count > kMost)
    return Error(ErrorCode::invalid_argument,
                 "1 to " + std::to_string(kMost) + " blank pages can be inserted at once");
  LUMVET_RETURN_IF_ERROR(assemble::check_size(size));
  return impl_->arrange([&](const Document& document, file::Ledger& ledger) -> Result<std::string> {
    LUMVET_RETURN_IF_ERROR(is_place(before, document.page_count()));
    std::vector<OrderedPage> blank;
    for (int i = 0; i < count; ++i) {
      blank.push_back({-1, ledger.add(assemble::blank_page(size)), {}});
      ledger.touch_page(blank.back().id);
    }
    return impl_->reordered(document, ledger, with_new(document.page_count(), before, blank),
                            "inserted " + pages_of(static_cast<std::size_t>(count)));
  });
}

Status EditableDocument::insert(const Document& other, const PageSelection& pages, int before) {
  LUMVET_RETURN_IF_ERROR(
      document::check_permission(other, &Permissions::assemble, "pages be taken out of it"));
  Result<std::vector<int>> indices = pages.in(other.page_count());
  if (!indices.ok()) return std::move(indices).error().about(other.name());
  if (indices->empty())
    return Error(ErrorCode::invalid_argument, "the selection names no page of " + other.name());
  return impl_->arrange([&](const Document& document, file::Ledger& ledger) -> Result<std::string> {
    LUMVET_RETURN_IF_ERROR(is_place(before, document.page_count()));
    Dict catalog = impl_->catalog(ledger);
    LUMVET_TRY(const editing::InsertedPages inserted,
               editing::insert_pages(document, ledger, catalog, other, *indices, before));
    for (const OrderedPage& page : inserted.pages) ledger.touch_page(page.id);
    for (const Finding& note : inserted.notes) ledger.add_note(note);
    LUMVET_RETURN_IF_ERROR(editing::reorder(
        document, ledger, catalog, with_new(document.page_count(), before, inserted.pages)));
    impl_->put_catalog(ledger, std::move(catalog));
    assemble::join_equal_objects(ledger, impl_->file->first_beyond());
    return "inserted " + pages_of(indices->size());
  });
}

Status EditableDocument::duplicate(const PageSelection& pages) {
  return impl_->arrange([&](const Document& document, file::Ledger& ledger) -> Result<std::string> {
    const int count = document.page_count();
    LUMVET_TRY(const std::vector<int> indices, chosen_pages(pages, count));
    const std::vector<bool> marks = editing::marks_of(indices, count);
    Duplicates duplicates(document, ledger);
    std::vector<OrderedPage> order;
    for (int i = 0; i < count; ++i) {
      order.push_back({i, {}, {}});
      if (!marks[static_cast<std::size_t>(i)]) continue;
      LUMVET_TRY(const ObjectId copy, duplicates.add(i, order));
      ledger.set_origin(copy, impl_->origin_of(document, i));
    }
    Dict catalog = impl_->catalog(ledger);
    LUMVET_RETURN_IF_ERROR(editing::reorder(document, ledger, catalog, order));
    duplicates.finish(catalog);
    impl_->put_catalog(ledger, std::move(catalog));
    return "duplicated " + pages_of(indices.size());
  });
}

Status EditableDocument::keep(const PageSelection& pages) {
  return impl_->arrange([&](const Document& document, file::Ledger& ledger) -> Result<std::string> {
    const int count = document.page_count();
    LUMVET_TRY(const std::vector<int> named, named_pages(pages, count));
    const std::vector<bool> marks = editing::marks_of(named, count);
    Duplicates duplicates(document, ledger);
    std::vector<OrderedPage> order;
    std::vector<bool> met(static_cast<std::size_t>(count));
    for (const int index : named) {
      if (met[static_cast<std::size_t>(index)]) {
        LUMVET_TRY(const ObjectId copy, duplicates.add(index, order));
        ledger.set_origin(copy, impl_->origin_of(document, index));
      } else {
        order.push_back({index, {}, {}});
      }
      met[static_cast<std::size_t>(index)] = true;
    }
    std::vector<int> others;
    for (int i = 0; i < count; ++i)
      if (!marks[static_cast<std::size_t>(i)]) others.push_back(i);
    Dict catalog = impl_->catalog(ledger);
    LUMVET_RETURN_IF_ERROR(editing::reorder(document, ledger, catalog, order));
    LUMVET_RETURN_IF_ERROR(editing::remove_pages(document, ledger, catalog, others));
    duplicates.finish(catalog);
    impl_->put_catalog(ledger, std::move(catalog));
    return "kept " + pages_of(named.size()) + " in a new order";
  });
}

}  // namespace lumvet

// SPDX-License-Identifier: Apache-2.0
// What leads a reader through a document: page numbers, outline, opening view.
#include <algorithm>

#include "document/destinations.h"
#include "document/inside.h"
#include "document/outline.h"
#include "document/outline_builder.h"
#include "document/page_labels.h"
#include "document/tree_builder.h"
#include "edit/editable_document_impl.h"
#include "edit/view_entries.h"
#include "objects/text_string.h"

namespace lumvet {
namespace {

Result<ObjectId> id_of_page(const Document& document, int index) {
  if (index < 0 || index >= document.page_count())
    return editing::no_such_page(index, document.page_count());
  LUMVET_TRY(const Page page, document.page(index));
  if (page.id() == ObjectId())
    return Error(ErrorCode::unsupported,
                 "page " + std::to_string(index + 1) +
                     " is no object of its own, so that nothing can lead to it; arrange the "
                     "document's pages first");
  return page.id();
}

Result<Array> array_of(const Document& document, const Destination& place) {
  return editing::place_array(place, [&](int page) { return id_of_page(document, page); });
}

// Where a new entry leads, or one that leads elsewhere than before.
Status lead(const Document& document, const OutlineEntry& entry, Dict& item) {
  item.remove("Dest");
  item.remove("A");
  item.remove("SE");
  const bool has_own = entry.destination && entry.destination->page == entry.page;
  if (has_own && entry.page) {
    LUMVET_TRY(Array place, array_of(document, *entry.destination));
    item.set("Dest", std::move(place));
  } else if (entry.page) {
    Destination whole;
    whole.page = entry.page;
    LUMVET_TRY(Array place, array_of(document, whole));
    item.set("Dest", std::move(place));
  } else if (!entry.actions.empty() && entry.actions.front().kind == Action::Kind::uri) {
    item.set("A", Dict{{"S", Object::name("URI")},
                       {"URI", Object::string(entry.actions.front().target)}});
  }
  return Done{};
}

// An entry's dictionary, upon that of the document's own where it is one.
Result<Dict> item_of(const Document& document, const OutlineEntry& entry) {
  const Object object = store_of(document).resolve(Object(entry.object));
  Dict item = document::entry_of(store_of(document), object.as_dict(), 0).item;
  item.set("Title", Object::string(objects::utf8_to_text(entry.title)));
  const OutlineEntry before = document::read_entry(core_of(document), object.as_dict(), 0);
  const bool leads_on = !object.is_null() && before.page == entry.page &&
                        before.destination == entry.destination && before.actions == entry.actions;
  if (!leads_on) LUMVET_RETURN_IF_ERROR(lead(document, entry, item));
  constexpr int kItalic = 1;
  constexpr int kBold = 2;
  const int flags = (entry.italic ? kItalic : 0) | (entry.bold ? kBold : 0);
  item.set("F", flags == 0 ? Object() : Object(flags));
  const bool is_black = entry.color == std::array<double, 3>{0, 0, 0};
  item.set("C", is_black ? Object() : Object(Array(entry.color.begin(), entry.color.end())));
  return item;
}

}  // namespace

Status EditableDocument::set_page_labels(const std::vector<LabelRun>& runs) {
  return impl_->step([&](const Document& document, file::Ledger& ledger) -> Result<std::string> {
    Dict catalog = impl_->catalog(ledger);
    std::map<std::int64_t, Object> entries;
    const int count = document.page_count();
    for (const LabelRun& run : runs) {
      if (run.first_page < 0 || run.first_page >= count)
        return editing::no_such_page(run.first_page, count);
      if (run.number < 1)
        return Error(ErrorCode::invalid_argument, "pages are numbered from 1 or more");
      Dict entry;
      if (run.numerals != Numerals::none)
        entry.set("S", Object::name(document::style_of(run.numerals)));
      if (!run.prefix.empty()) entry.set("P", Object::string(objects::utf8_to_text(run.prefix)));
      if (run.number != 1) entry.set("St", run.number);
      if (!entries.emplace(run.first_page, std::move(entry)).second)
        return Error(ErrorCode::invalid_argument,
                     "two runs of numbers begin at page " + std::to_string(run.first_page + 1));
    }
    if (!entries.empty()) entries.emplace(0, Dict{{"S", Object::name("D")}});
    catalog.set("PageLabels", document::build_number_tree(ledger, entries));
    impl_->put_catalog(ledger, std::move(catalog));
    return std::string(runs.empty() ? "cleared the page numbers" : "numbered the pages");
  });
}

Status EditableDocument::set_view(const NewView& view) {
  return impl_->step([&](const Document& document, file::Ledger& ledger) -> Result<std::string> {
    Dict catalog = impl_->catalog(ledger);
    LUMVET_RETURN_IF_ERROR(editing::set_view_entries(
        view, catalog, ledger, [&](int page) { return id_of_page(document, page); }));
    impl_->put_catalog(ledger, std::move(catalog));
    return std::string("set how it is shown");
  });
}

Status EditableDocument::set_outline(const std::vector<OutlineEntry>& entries) {
  return impl_->step([&](const Document& document, file::Ledger& ledger) -> Result<std::string> {
    Dict catalog = impl_->catalog(ledger);
    std::vector<document::NewEntry> items;
    int deepest = 0;
    for (const OutlineEntry& entry : entries) {
      if (entry.title.empty())
        return Error(ErrorCode::invalid_argument,
                     "entry " + std::to_string(items.size() + 1) + " of the outline has no title");
      if (entry.depth < 0 || entry.depth > deepest)
        return Error(ErrorCode::invalid_argument,
                     "entry " + std::to_string(items.size() + 1) + " of the outline, '" +
                         entry.title + "', lies deeper than below the one before it");
      deepest = entry.depth + 1;
      Result<Dict> item = item_of(document, entry);
      if (!item.ok())
        return std::move(item).error().during("setting the outline's entry '" + entry.title + "'");
      items.push_back({*std::move(item), entry.depth, entry.is_open});
    }
    catalog.set("Outlines", document::build_outline(ledger, std::move(items)));
    const std::string count = std::to_string(entries.size());
    impl_->put_catalog(ledger, std::move(catalog));
    return std::string(entries.empty() ? "took the outline away"
                                       : "set an outline of " + count +
                                             (entries.size() == 1 ? " entry" : " entries"));
  });
}

}  // namespace lumvet

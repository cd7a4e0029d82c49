// SPDX-License-Identifier: Apache-2.0
#include "edit/page_order.h"

#include <algorithm>
#include <set>

#include "document/inheritable.h"
#include "document/inside.h"
#include "document/label_builder.h"
#include "edit/page_tree_changes.h"
#include "save/page_tree_builder.h"

namespace lumvet::editing {
namespace {

// The places in `order` of the pages that may stay where they are: most of all that follow each
// other as before.
std::vector<bool> staying(const std::vector<OrderedPage>& order) {
  std::vector<std::size_t> ends;  // of the best run of each length, by place
  std::vector<std::size_t> previous(order.size(), order.size());
  for (std::size_t i = 0; i < order.size(); ++i) {
    if (order[i].before < 0) continue;
    const auto at =
        std::lower_bound(ends.begin(), ends.end(), order[i].before,
                         [&](std::size_t place, int page) { return order[place].before < page; });
    if (at != ends.begin()) previous[i] = *std::prev(at);
    if (at == ends.end())
      ends.push_back(i);
    else
      *at = i;
  }
  std::vector<bool> stays(order.size());
  for (std::size_t at = ends.empty() ? order.size() : ends.back(); at < order.size();
       at = previous[at])
    stays[at] = true;
  return stays;
}

// Page by page, in the tree that there is.
Status move_pages(file::Ledger& ledger, const Object& root, int count,
                  const std::vector<OrderedPage>& order, const std::vector<bool>& stays,
                  const Limits& limits) {
  PageTreeChanges tree(ledger, root, limits);
  std::vector<bool> kept(static_cast<std::size_t>(count));
  for (std::size_t i = 0; i < order.size(); ++i)
    if (stays[i]) kept[static_cast<std::size_t>(order[i].before)] = true;
  std::vector<ObjectId> taken(static_cast<std::size_t>(count));
  for (int page = count - 1; page >= 0; --page)
    if (!kept[static_cast<std::size_t>(page)]) {
      LUMVET_TRY(taken[static_cast<std::size_t>(page)], tree.take_out(page));
    }
  for (std::size_t i = 0; i < order.size(); ++i) {
    if (stays[i]) continue;
    const OrderedPage& page = order[i];
    const ObjectId id = page.before < 0 ? page.id : taken[static_cast<std::size_t>(page.before)];
    LUMVET_RETURN_IF_ERROR(tree.put_in(static_cast<int>(i), id));
  }
  return Done{};
}

// The page of the document as it was opened, where that is known.
int origin_of(const Document& document, int index) {
  const Result<Page> page = document.page(index);
  const auto& changes = store_of(document).changes();
  if (!page.ok()) return -1;
  if (changes == nullptr) return index;
  const auto known = changes->origins.find(page->id());
  return known == changes->origins.end() ? -1 : known->second;
}

// A new tree of all pages, each with what it inherited. Gives their objects.
Result<std::vector<ObjectId>> rebuild(const Document& document, file::Ledger& ledger, Dict& catalog,
                                      const std::vector<OrderedPage>& order) {
  saving::PageTreeBuilder tree(ledger);
  std::vector<ObjectId> ids;
  std::set<ObjectId> met;
  for (const OrderedPage& ordered : order) {
    ObjectId id = ordered.id;
    Dict dict;
    if (ordered.before >= 0) {
      LUMVET_TRY(const Page page, document.page(ordered.before));
      dict = page.dict();
      const bool is_own = page.id() != ObjectId() && met.insert(page.id()).second;
      id = is_own ? page.id() : ledger.reserve();
      if (!is_own) {
        ledger.touch_page(id);
        ledger.set_origin(id, origin_of(document, ordered.before));
      }
    } else {
      dict = ledger.resolve(Object(id)).as_dict();
    }
    dict.set("Parent", tree.add(id));
    ledger.set(id, std::move(dict));
    ids.push_back(id);
  }
  catalog.set("Pages", tree.finish());
  return ids;
}

void take_labels_along(const Document& document, file::Ledger& ledger, Dict& catalog,
                       const std::vector<OrderedPage>& order) {
  const auto labels = core_of(document).labels();
  const bool any = labels->are_given() ||
                   std::any_of(order.begin(), order.end(),
                               [](const OrderedPage& page) { return page.label.has_value(); });
  if (!any) return;
  std::vector<document::PageLabels::Label> all;
  for (const OrderedPage& page : order) {
    const bool is_own = page.before >= 0 && labels->are_given();
    const document::PageLabels::Label counted{"D", {}, static_cast<std::int64_t>(all.size()) + 1};
    all.push_back(is_own ? labels->label(page.before) : page.label.value_or(counted));
  }
  catalog.set("PageLabels", document::build_page_labels(ledger, all));
}

std::vector<OrderedPage> as_they_are(const Document& document) {
  std::vector<OrderedPage> order;
  for (int i = 0; i < document.page_count(); ++i) order.push_back({i, {}, {}});
  return order;
}

}  // namespace

void keep_inherited(const Page& page, ObjectId id, file::Ledger& ledger) {
  Dict dict = ledger.resolve(Object(id)).as_dict();
  for (const std::string_view key : document::kInheritable)
    if (!dict.contains(key) && page.dict().contains(key)) dict.set(key, page.dict()[key]);
  ledger.set(id, std::move(dict));
}

Status reorder(const Document& document, file::Ledger& ledger, Dict& catalog,
               const std::vector<OrderedPage>& order) {
  const std::vector<bool> stays = staying(order);
  const auto still = static_cast<std::size_t>(std::count(stays.begin(), stays.end(), true));
  const auto before = static_cast<std::size_t>(document.page_count());
  const std::size_t moves = before - still + order.size() - still;
  constexpr std::size_t kFew = 64;
  const bool is_few = moves <= std::max(kFew, before / 8);
  file::Ledger trial = ledger;
  const Status moved = is_few ? move_pages(trial, catalog["Pages"], document.page_count(), order,
                                           stays, store_of(document).limits())
                              : Error(ErrorCode::malformed, "too many pages change their places");
  if (moved.ok())
    ledger = std::move(trial);
  else if (moved.error().code() != ErrorCode::malformed)
    return moved;
  else
    LUMVET_RETURN_IF_ERROR(rebuild(document, ledger, catalog, order));
  take_labels_along(document, ledger, catalog, order);
  return Done{};
}

Result<std::vector<ObjectId>> ids_of_pages(const Document& document, file::Ledger& ledger,
                                           Dict& catalog, const std::vector<int>& pages) {
  std::vector<ObjectId> ids;
  for (const int index : pages) {
    LUMVET_TRY(const Page page, document.page(index));
    ids.push_back(page.id());
  }
  if (std::find(ids.begin(), ids.end(), ObjectId()) == ids.end()) return ids;
  LUMVET_TRY(const std::vector<ObjectId> all,
             rebuild(document, ledger, catalog, as_they_are(document)));
  ids.clear();
  for (const int index : pages) ids.push_back(all[static_cast<std::size_t>(index)]);
  return ids;
}

}  // namespace lumvet::editing

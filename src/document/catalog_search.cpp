// SPDX-License-Identifier: Apache-2.0
#include "document/catalog_search.h"

#include <algorithm>
#include <set>

#include "document/page_salvage.h"
#include "document/page_tree.h"
#include "file/ledger.h"

namespace lumvet::document {
namespace {

using file::ObjectStore;

bool is_usable(const ObjectStore& store, const Dict& catalog) {
  const Object pages = store.get(catalog, "Pages");
  return pages.is_dict() && store.get(pages.as_dict(), "Kids").is_array();
}

std::optional<FoundCatalog> stated_catalog(const std::shared_ptr<const ObjectStore>& store) {
  const Object& root = store->trailer()["Root"];
  const Object catalog = store->resolve(root);
  if (!root.is_reference() || !is_usable(*store, catalog.as_dict())) return std::nullopt;
  return FoundCatalog{store, root, catalog.as_dict()};
}

// What a rebuilt document holds that matters here, in the order of the file.
struct Inventory {
  std::vector<ObjectId> all;
  std::vector<ObjectId> catalogs;
  std::vector<ObjectId> tree_roots;  // /Pages without a parent
  std::vector<ObjectId> pages;
};

Inventory take_inventory(const ObjectStore& store) {
  struct Placed {
    std::uint64_t place;
    ObjectId id;
  };
  std::vector<Placed> objects;
  for (std::uint32_t number = 0; number < store.size(); ++number) {
    const file::XrefEntry entry = store.entry_of(number);
    const bool in_file = entry.kind == file::XrefEntry::Kind::in_file;
    if (!in_file && entry.kind != file::XrefEntry::Kind::in_stream) continue;
    objects.push_back({store.place_of(number).value_or(0),
                       {number, static_cast<std::uint16_t>(in_file ? entry.detail : 0)}});
  }
  std::stable_sort(objects.begin(), objects.end(),
                   [](const Placed& a, const Placed& b) { return a.place < b.place; });
  Inventory inventory;
  for (const Placed& placed : objects) {
    inventory.all.push_back(placed.id);
    const Object object = store.resolve(Object(placed.id));
    if (!object.is_dict()) continue;
    const Dict& dict = object.as_dict();
    const Object type = store.get(dict, "Type");
    if (type.is_name("Catalog"))
      inventory.catalogs.push_back(placed.id);
    else if (type.is_name("Pages") && store.get(dict, "Parent").is_null())
      inventory.tree_roots.push_back(placed.id);
    else if (type.is_name("Page"))
      inventory.pages.push_back(placed.id);
  }
  return inventory;
}

// A catalog that the file lacks, with what it leads to in the ledger.
FoundCatalog made_up(file::Ledger ledger, Dict catalog) {
  catalog.set("Type", Object::name("Catalog"));
  const ObjectId id = ledger.add(Object(catalog));
  return {ledger.store(), Object(id), std::move(catalog)};
}

Dict tree_of(const std::vector<ObjectId>& pages) {
  Array kids;
  for (const ObjectId id : pages) kids.emplace_back(id);
  return Dict{{"Type", Object::name("Pages")},
              {"Count", static_cast<std::int64_t>(kids.size())},
              {"Kids", std::move(kids)}};
}

// Adds pages that the tree should hold but, because a part of it is lost, does not.
FoundCatalog with_lost_pages(FoundCatalog found, const Inventory& inventory) {
  const ObjectStore& store = *found.store;
  const PageTree tree(store, found.dict, PageTree::Counts::doubted);
  const Object root = store.get(found.dict, "Pages");
  const std::int64_t stated = store.get(root.as_dict(), "Count").as_integer();
  if (tree.count() >= stated) return found;
  std::vector<ObjectId> pages = tree.ids();
  const std::set<ObjectId> known(pages.begin(), pages.end());
  for (const ObjectId id : inventory.pages)
    if (!known.contains(id)) pages.push_back(id);
  if (static_cast<int>(pages.size()) == tree.count() ||
      static_cast<std::int64_t>(pages.size()) > stated)
    return found;  // the others belong to older states of the document
  const std::size_t lost = pages.size() - known.size();
  store.findings().add({"a part of the page tree is lost; " + std::to_string(lost) +
                            " pages that nothing leads to were taken into it",
                        {},
                        found.dict["Pages"].as_reference()});
  Dict catalog = found.dict;
  file::Ledger ledger(found.store);
  catalog.set("Pages", Object(ledger.add(Object(tree_of(pages)))));
  return made_up(std::move(ledger), std::move(catalog));
}

}  // namespace

Result<FoundCatalog> find_catalog(std::shared_ptr<const ObjectStore> store) {
  auto stated = stated_catalog(store);
  if (stated && !store->cross_references().is_rebuilt()) return *std::move(stated);
  if (!stated && !store->cross_references().is_rebuilt()) {
    store->findings().add(
        {"the cross references do not lead to the catalog and the page tree; the "
         "objects in the file were looked for instead",
         {},
         store->trailer()["Root"].as_reference()});
    LUMVET_TRY(store, store->rebuilt());
    stated = stated_catalog(store);
  }
  const Inventory inventory = take_inventory(*store);
  if (stated) return with_lost_pages(*std::move(stated), inventory);
  for (auto id = inventory.catalogs.rbegin(); id != inventory.catalogs.rend(); ++id) {
    const Object catalog = store->resolve(Object(*id));
    if (!is_usable(*store, catalog.as_dict())) continue;
    store->findings().add({"the trailer names no usable catalog; this one was taken", {}, *id});
    return with_lost_pages({store, Object(*id), catalog.as_dict()}, inventory);
  }
  // The catalog may be there and its page tree lost, or the other way round.
  Dict catalog;
  if (!inventory.catalogs.empty())
    catalog = store->resolve(Object(inventory.catalogs.back())).as_dict();
  if (!inventory.tree_roots.empty()) {
    const ObjectId root = inventory.tree_roots.back();
    store->findings().add({"the catalog is lost; the pages were taken from this tree", {}, root});
    catalog.set("Pages", Object(root));
    return with_lost_pages(made_up(file::Ledger(store), std::move(catalog)), inventory);
  }
  file::Ledger ledger(store);
  std::vector<ObjectId> pages = inventory.pages;
  if (pages.empty()) {
    for (Dict& page : salvage_pages(*store, inventory.all))
      pages.push_back(ledger.add(Object(std::move(page))));
    if (!pages.empty())
      store->findings().add({"everything that says what the pages look like is lost; " +
                                 std::to_string(pages.size()) +
                                 " were made of the content that is left, without its fonts",
                             {},
                             {}});
  }
  if (pages.empty())
    return Error(ErrorCode::malformed,
                 "the file holds no pages that could be read; it was probably cut off while being "
                 "copied or fetched, so get it again");
  if (!inventory.pages.empty())
    store->findings().add({"the page tree is lost; its " + std::to_string(pages.size()) +
                               " pages were taken as they follow in the file",
                           {},
                           {}});
  catalog.set("Pages", Object(ledger.add(Object(tree_of(pages)))));
  return made_up(std::move(ledger), std::move(catalog));
}

}  // namespace lumvet::document

// SPDX-License-Identifier: Apache-2.0
#include "edit/page_removal.h"

#include <algorithm>
#include <array>
#include <map>
#include <set>

#include "document/destinations.h"
#include "document/inside.h"
#include "document/name_tree.h"
#include "document/outline.h"
#include "document/outline_builder.h"
#include "document/tree_builder.h"
#include "edit/field_removal.h"
#include "edit/structure_removal.h"

namespace lumvet::editing {
namespace {

class Removal {
 public:
  Removal(const Document& document, file::Ledger& ledger, Dict& catalog,
          const std::set<ObjectId>& pages)
      : core_(core_of(document)),
        ledger_(ledger),
        catalog_(catalog),
        pages_(pages),
        structure_(core_, ledger, catalog) {}

  void run() {
    take_outline_entries();
    take_named_places();
    if (leads_there(catalog_["OpenAction"])) catalog_.remove("OpenAction");
    for (const ObjectId page : pages_) {
      const Dict dict = ledger_.resolve(Object(page)).as_dict();
      structure_.take_page(page, dict);
      const Object annotations = ledger_.resolve(dict["Annots"]);
      std::set<ObjectId> gone;
      for (const Object& annotation : annotations.as_array()) take_annotation(annotation, gone);
      structure_.remove_annotations(gone);
      ledger_.set(page, Object());
    }
    for (int i = 0; i < core_.pages().count(); ++i)
      if (const auto page = core_.pages().find(i); page.ok() && !pages_.contains(page->id))
        take_links(page->id, page->dict);
  }

 private:
  bool leads_there(const Object& destination) const {
    const Object resolved = core_.store().resolve(destination);
    const Object& action = resolved.as_dict()["S"];
    const bool is_action = core_.store().resolve(action).is_name("GoTo");
    const Object place =
        document::explicit_destination(core_, is_action ? resolved.as_dict()["D"] : destination);
    if (place.as_array().empty()) return false;
    return pages_.contains(place.as_array()[0].as_reference());
  }

  // What is below an entry that goes moves up.
  void take_outline_entries() {
    std::vector<document::NewEntry> kept;
    std::vector<int> gone;  // depths of the entries above, in the outline as it was, that went
    bool any = false;
    document::walk_outline(core_, [&](const Object&, const Dict& item, int depth) {
      while (!gone.empty() && gone.back() >= depth) gone.pop_back();
      if (leads_there(item.contains("Dest") ? item["Dest"] : item["A"])) {
        gone.push_back(depth);
        any = true;
        return;
      }
      kept.push_back(
          document::entry_of(core_.store(), item, depth - static_cast<int>(gone.size())));
    });
    if (any) catalog_.set("Outlines", document::build_outline(ledger_, std::move(kept)));
  }

  void take_named_places() {
    const file::ObjectStore& store = core_.store();
    const Object old_kind = store.get(catalog_, "Dests");
    if (old_kind.is_dict()) {
      Dict kept = old_kind.as_dict();
      for (const auto& [name, place] : old_kind.as_dict())
        if (leads_there(place)) kept.remove(name);
      if (kept.size() != old_kind.as_dict().size()) catalog_.set("Dests", std::move(kept));
    }
    Dict names = store.get(catalog_, "Names").as_dict();
    std::map<std::string, Object> kept;
    bool any = false;
    document::walk_tree(store, names["Dests"], "Names",
                        [&](const Object& key, const Object& value) {
                          const bool goes = leads_there(value);
                          any = any || goes;
                          if (!goes) kept.emplace(key.as_string(), value);
                        });
    if (!any) return;
    names.set("Dests", document::build_name_tree(ledger_, kept));
    catalog_.set("Names", names.is_empty() ? Object() : Object(std::move(names)));
  }

  // Of a page that stays.
  void take_links(ObjectId page, const Dict& dict) {
    const file::ObjectStore& store = core_.store();
    const Object annotations = store.get(dict, "Annots");
    Array kept;
    std::set<ObjectId> gone;
    for (const Object& reference : annotations.as_array()) {
      const Object annotation = store.resolve(reference);
      const Dict& link = annotation.as_dict();
      const bool goes = store.get(link, "Subtype").is_name("Link") &&
                        leads_there(link.contains("Dest") ? link["Dest"] : link["A"]);
      if (!goes)
        kept.push_back(reference);
      else if (reference.is_reference())
        gone.insert(reference.as_reference());
    }
    structure_.remove_annotations(gone);
    if (page == ObjectId() || kept.size() == annotations.as_array().size()) return;
    Dict changed = ledger_.resolve(Object(page)).as_dict();
    changed.set("Annots", kept.empty() ? Object() : Object(std::move(kept)));
    ledger_.set(page, std::move(changed));
    ledger_.touch_page(page);
  }

  void take_annotation(const Object& annotation, std::set<ObjectId>& gone) {
    if (!annotation.is_reference()) return;
    const Object object = ledger_.resolve(annotation);
    if (ledger_.get(object.as_dict(), "Subtype").is_name("Widget"))
      take_from_form(ledger_, catalog_, annotation.as_reference(), object.as_dict()["Parent"],
                     core_.store().limits().nesting);
    gone.insert(annotation.as_reference());
  }

  const document::Core& core_;
  file::Ledger& ledger_;
  Dict& catalog_;
  const std::set<ObjectId>& pages_;
  StructureRemoval structure_;
};

}  // namespace

Status remove_pages(const Document& document, file::Ledger& ledger, Dict& catalog,
                    const std::vector<int>& pages) {
  std::set<ObjectId> gone;
  for (const int index : pages) {
    LUMVET_TRY(const Page page, document.page(index));
    if (page.id() != ObjectId()) gone.insert(page.id());
  }
  if (!gone.empty()) Removal(document, ledger, catalog, gone).run();
  return Done{};
}

}  // namespace lumvet::editing

// SPDX-License-Identifier: Apache-2.0
#include "save/tree_repair.h"

#include <set>
#include <vector>

#include "document/inside.h"

namespace lumvet::saving {
namespace {

struct Entry {
  ObjectId id;
  Dict dict;
  std::size_t parent;      // its place; of the root its own
  std::int64_t shown = 0;  // below it, if it were open
};

// The root first, and each before those below it.
std::vector<Entry> entries_below(const Object& root, const file::Ledger& ledger) {
  std::vector<Entry> entries = {{root.as_reference(), ledger.resolve(root).as_dict(), 0}};
  std::set<ObjectId> seen = {root.as_reference()};
  for (std::size_t i = 0; i < entries.size(); ++i) {
    Object next = entries[i].dict["First"];
    while (next.is_reference() && seen.insert(next.as_reference()).second) {
      Dict dict = ledger.resolve(next).as_dict();
      if (dict.is_empty()) break;
      const ObjectId id = next.as_reference();
      next = dict["Next"];
      entries.push_back({id, std::move(dict), i});
    }
  }
  return entries;
}

void note(const Document& document, const std::string& what) {
  store_of(document).findings().add({what, {}, {}});
}

}  // namespace

void mend_outline_counts(const Document& document, file::Ledger& ledger) {
  const Object root = document.catalog()["Outlines"];
  if (!root.is_reference() || !ledger.resolve(root).is_dict()) return;
  std::vector<Entry> entries = entries_below(root, ledger);
  int wrong = 0;
  for (std::size_t i = entries.size(); i-- > 0;) {
    Entry& entry = entries[i];
    const Object& stated = entry.dict["Count"];
    const bool is_open = i == 0 || stated.as_integer() > 0;
    const std::int64_t count = is_open ? entry.shown : -entry.shown;
    if (i > 0) entries[entry.parent].shown += 1 + (is_open ? entry.shown : 0);
    if (count == 0 ? stated.is_null() : stated.as_integer() == count) continue;
    ++wrong;
    entry.dict.set("Count", count == 0 ? Object() : Object(count));
    ledger.set(entry.id, entry.dict);
  }
  if (wrong > 0)
    note(document, std::to_string(wrong) + (wrong == 1 ? " count" : " counts") +
                       " of the outline said another number of entries than there is");
}

void mend_tree_limits(const Document& document, file::Ledger& ledger) {
  const Dict& catalog = document.catalog();
  std::vector<Object> roots = {catalog["PageLabels"]};
  const Object names = ledger.resolve(catalog["Names"]);
  for (const auto& [name, tree] : names.as_dict()) roots.push_back(tree);
  const Object structure = ledger.resolve(catalog["StructTreeRoot"]);
  for (const char* tree : {"ParentTree", "IDTree"}) roots.push_back(structure.as_dict()[tree]);
  for (const Object& root : roots) {
    Dict dict = ledger.resolve(root).as_dict();
    if (!root.is_reference() || !dict.contains("Limits")) continue;
    dict.remove("Limits");
    ledger.set(root.as_reference(), std::move(dict));
    note(document, "the root of a tree of names has limits, which belong to its branches");
  }
}

}  // namespace lumvet::saving

// SPDX-License-Identifier: Apache-2.0
#include "document/outline.h"

#include <set>

#include "base/attempt.h"
#include "document/destinations.h"
#include "document/text_entries.h"

namespace lumvet::document {

OutlineEntry read_entry(const Core& core, const Dict& item, int depth) {
  const file::ObjectStore& store = core.store();
  OutlineEntry entry;
  entry.title = text_entry(store, item, "Title");
  entry.depth = depth;
  entry.is_open = store.get(item, "Count").as_integer() > 0;
  constexpr std::int64_t kItalic = 1;
  constexpr std::int64_t kBold = 2;
  const std::int64_t flags = store.get(item, "F").as_integer();
  entry.italic = (flags & kItalic) != 0;
  entry.bold = (flags & kBold) != 0;
  const Object color = store.get(item, "C");
  for (std::size_t i = 0; i < 3 && color.as_array().size() == 3; ++i)
    entry.color[i] = store.resolve(color.as_array()[i]).as_number();
  entry.destination = read_destination(core, item["Dest"]);
  entry.actions = read_actions(core, item["A"]);
  if (!entry.destination && !entry.actions.empty() && entry.actions[0].kind == Action::Kind::go_to)
    entry.destination = entry.actions[0].destination;
  if (entry.destination) entry.page = entry.destination->page;
  return entry;
}

std::vector<OutlineEntry> read_outline(const Core& core, std::size_t most) {
  std::vector<OutlineEntry> entries;
  const OutlineVisit keep = [&](const Object& reference, const Dict& item, int depth) {
    if (!Attempt::follow(sizeof(OutlineEntry))) return;
    entries.push_back(read_entry(core, item, depth));
    entries.back().object = reference.as_reference();
  };
  walk_outline(core, keep, most);
  return entries;
}

void walk_outline(const Core& core, const OutlineVisit& visit, std::size_t most) {
  const file::ObjectStore& store = core.store();
  std::set<ObjectId> seen;
  struct Place {
    Object item;
    int depth;
  };
  const Object root = store.get(core.catalog(), "Outlines");
  std::vector<Place> open = {{root.as_dict()["First"], 0}};
  for (std::size_t visited = 0; visited < most && !open.empty();) {
    const Place at = open.back();
    open.pop_back();
    if (at.item.is_null()) continue;
    if (at.item.is_reference() && !seen.insert(at.item.as_reference()).second) {
      store.findings().add({"the outline leads back into itself", {}, at.item.as_reference()});
      continue;
    }
    const Object object = store.resolve(at.item);
    const Dict& item = object.as_dict();
    if (item.is_empty()) continue;
    visit(at.item, item, at.depth);
    ++visited;
    open.push_back({item["Next"], at.depth});
    if (at.depth < store.limits().nesting) open.push_back({item["First"], at.depth + 1});
  }
}

}  // namespace lumvet::document

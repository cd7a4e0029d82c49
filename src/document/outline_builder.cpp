// SPDX-License-Identifier: Apache-2.0
#include "document/outline_builder.h"

#include <algorithm>

namespace lumvet::document {

NewEntry entry_of(const objects::Resolver& resolver, const Dict& item, int depth) {
  NewEntry entry{item, depth, resolver.get(item, "Count").as_integer() > 0};
  for (const char* tie : {"Parent", "Prev", "Next", "First", "Last", "Count"})
    entry.item.remove(tie);
  return entry;
}

Object build_outline(file::Ledger& ledger, std::vector<NewEntry> entries) {
  if (entries.empty()) return Object();
  const ObjectId root = ledger.reserve();
  std::vector<ObjectId> ids;
  for (std::size_t i = 0; i < entries.size(); ++i) ids.push_back(ledger.reserve());
  Dict root_dict{{"Type", Object::name("Outlines")}};
  // How many entries show below each when it is open, the root's last (12.3.3).
  std::vector<std::int64_t> shown(entries.size() + 1);
  std::vector<std::size_t> parents(entries.size(), entries.size());
  // last_at[d] is the latest entry of depth d below the current branch.
  std::vector<std::size_t> last_at;
  for (std::size_t i = 0; i < entries.size(); ++i) {
    const auto depth = std::min(static_cast<std::size_t>(entries[i].depth), last_at.size());
    Dict& item = entries[i].item;
    if (depth > 0) parents[i] = last_at[depth - 1];
    Dict& parent = depth == 0 ? root_dict : entries[parents[i]].item;
    item.set("Parent", depth == 0 ? root : ids[parents[i]]);
    if (depth < last_at.size()) {
      item.set("Prev", ids[last_at[depth]]);
      entries[last_at[depth]].item.set("Next", ids[i]);
    } else {
      parent.set("First", ids[i]);
    }
    parent.set("Last", ids[i]);
    last_at.resize(depth);
    last_at.push_back(i);
  }
  for (std::size_t i = entries.size(); i-- > 0;)
    shown[parents[i]] += 1 + (entries[i].is_open ? shown[i] : 0);
  for (std::size_t i = 0; i < entries.size(); ++i) {
    if (shown[i] > 0) entries[i].item.set("Count", entries[i].is_open ? shown[i] : -shown[i]);
    ledger.set(ids[i], std::move(entries[i].item));
  }
  root_dict.set("Count", shown.back());
  ledger.set(root, std::move(root_dict));
  return root;
}

}  // namespace lumvet::document

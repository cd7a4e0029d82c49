// SPDX-License-Identifier: Apache-2.0
#include "assemble/outline_builder.h"

#include <algorithm>

#include "objects/text_string.h"

namespace lumvet::assemble {

Object build_outline(file::Ledger& ledger, const std::vector<NewEntry>& entries) {
  if (entries.empty()) return Object();
  const ObjectId root = ledger.reserve();
  std::vector<ObjectId> ids;
  for (std::size_t i = 0; i < entries.size(); ++i) ids.push_back(ledger.reserve());
  std::vector<Dict> items(entries.size());
  Dict root_dict{{"Type", Object::name("Outlines")}};
  // last_at[d] is the latest entry of depth d below the current branch.
  std::vector<std::size_t> last_at;
  int top_level = 0;
  for (std::size_t i = 0; i < entries.size(); ++i) {
    const auto depth = std::min(static_cast<std::size_t>(entries[i].depth), last_at.size());
    Dict& item = items[i];
    item.set("Title", Object::string(objects::utf8_to_text(entries[i].title)));
    item.set("Dest", Array{Object(entries[i].page), Object::name("Fit")});
    Dict& parent = depth == 0 ? root_dict : items[last_at[depth - 1]];
    item.set("Parent", depth == 0 ? root : ids[last_at[depth - 1]]);
    if (depth < last_at.size()) {
      item.set("Prev", ids[last_at[depth]]);
      items[last_at[depth]].set("Next", ids[i]);
    } else {
      parent.set("First", ids[i]);
    }
    parent.set("Last", ids[i]);
    // Branches below the top are closed, which a negative count says (12.3.3).
    if (depth == 0)
      ++top_level;
    else
      parent.set("Count", parent["Count"].as_integer() - 1);
    last_at.resize(depth);
    last_at.push_back(i);
  }
  root_dict.set("Count", top_level);
  for (std::size_t i = 0; i < entries.size(); ++i) ledger.set(ids[i], std::move(items[i]));
  ledger.set(root, std::move(root_dict));
  return root;
}

}  // namespace lumvet::assemble

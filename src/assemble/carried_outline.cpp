// SPDX-License-Identifier: Apache-2.0
#include "assemble/carried_outline.h"

#include <optional>
#include <utility>

#include "document/inside.h"
#include "document/outline.h"

namespace lumvet::assemble {

CarriedOutline carried_outline(SourceCopier& copier, int depth_of_all, bool keeps_lost) {
  const file::ObjectStore& store = store_of(copier.source());
  CarriedOutline carried;
  // A heading that leads nowhere by itself waits for an entry below it that is kept.
  struct Above {
    int depth;  // in the source
    std::optional<document::NewEntry> waiting;
  };
  std::vector<Above> above;
  const auto keep = [&](document::NewEntry entry) {
    int depth = depth_of_all;
    for (Above& other : above) {
      if (other.waiting) {
        other.waiting->depth = depth;
        carried.entries.push_back(*std::exchange(other.waiting, std::nullopt));
      }
      ++depth;
    }
    entry.depth = depth;
    carried.entries.push_back(std::move(entry));
  };
  document::walk_outline(core_of(copier.source()), [&](const Object&, const Dict& item, int depth) {
    while (!above.empty() && above.back().depth >= depth) above.pop_back();
    const Object action = store.resolve(item["A"]);
    const bool is_place =
        item.contains("Dest") || store.resolve(action.as_dict()["S"]).is_name("GoTo");
    const Object place =
        copier.copied_destination(item.contains("Dest") ? item["Dest"] : action.as_dict()["D"]);
    document::NewEntry entry;
    entry.is_open = store.resolve(item["Count"]).as_integer() > 0;
    entry.item = copier.copied_dict(
        item, {"Parent", "Prev", "Next", "First", "Last", "Count", "Dest", "SE"});
    entry.item.set("Dest", item.contains("Dest") ? place : Object());
    const bool is_lost = is_place && place.is_null();
    if (is_lost) {
      ++carried.lost;
      entry.item.remove("A");
      if (!keeps_lost) return;
    }
    if (is_lost || is_place || entry.item.contains("A")) {
      keep(std::move(entry));
      above.push_back({depth, std::nullopt});
    } else {
      above.push_back({depth, std::move(entry)});
    }
  });
  return carried;
}

}  // namespace lumvet::assemble

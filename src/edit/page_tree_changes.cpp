// SPDX-License-Identifier: Apache-2.0
#include "edit/page_tree_changes.h"

#include <array>

#include "base/attempt.h"
#include "document/inheritable.h"

namespace lumvet::editing {
namespace {

Error unsound() {
  return Error(ErrorCode::malformed, "the counts of the page tree do not fit together");
}

// What the page lacks and a node above it has would become the page's own; it says so itself that
// it has none.
void keep_from_inheriting(const Dict& node, Dict& page) {
  constexpr double kLetter[] = {0, 0, 612, 792};
  if (node.contains("MediaBox") && !page.contains("MediaBox"))
    page.set("MediaBox", Array(std::begin(kLetter), std::end(kLetter)));
  if (node.contains("CropBox") && !page.contains("CropBox")) page.set("CropBox", page["MediaBox"]);
  if (node.contains("Rotate") && !page.contains("Rotate")) page.set("Rotate", 0);
  if (node.contains("Resources") && !page.contains("Resources")) page.set("Resources", Dict());
}

}  // namespace

Result<std::int64_t> PageTreeChanges::count_of(const Object& kid) const {
  const Object node = ledger_.resolve(kid);
  if (!kid.is_reference() || !node.is_dict()) return unsound();
  if (!node.as_dict().contains("Kids")) return std::int64_t{1};
  const std::int64_t count = ledger_.get(node.as_dict(), "Count").as_integer(-1);
  if (count < 0) return unsound();
  return count;
}

Result<std::vector<PageTreeChanges::Step>> PageTreeChanges::way_to(int index) const {
  std::vector<Step> way;
  Object at = root_;
  std::int64_t left = index;
  while (static_cast<int>(way.size()) < limits_.page_tree_depth) {
    const Object node = ledger_.resolve(at);
    if (!at.is_reference() || !node.is_dict()) return unsound();
    if (!node.as_dict().contains("Kids")) {
      if (left != 0 || way.empty()) return unsound();
      return way;
    }
    Step step{at.as_reference(), node.as_dict(), ledger_.get(node.as_dict(), "Kids").as_array()};
    const std::int64_t stated = ledger_.get(step.dict, "Count").as_integer(-1);
    std::int64_t before = 0;
    std::optional<std::size_t> chosen;
    if (stated == static_cast<std::int64_t>(step.kids.size()) && left < stated) {
      // As many kids as pages: each is one, which the next round checks.
      chosen = static_cast<std::size_t>(left);
      left = 0;
      before = stated;
    }
    for (std::size_t i = 0; before < stated && i < step.kids.size(); ++i) {
      LUMVET_TRY(const std::int64_t count, count_of(step.kids[i]));
      if (!chosen && left < before + count) {
        chosen = i;
        left -= before;
      }
      before += count;
    }
    if (!chosen || before != stated) return unsound();
    step.at = *chosen;
    at = step.kids[*chosen];
    way.push_back(std::move(step));
  }
  return met_limit("the page tree is deeper than Limits::page_tree_depth");
}

void PageTreeChanges::add_to_counts(std::vector<Step>& way, int more) {
  for (Step& step : way) {
    const std::int64_t count = ledger_.get(step.dict, "Count").as_integer();
    step.dict.set("Count", count + more);
    step.dict.set("Kids", step.kids);
    ledger_.set(step.node, step.dict);
  }
}

Result<ObjectId> PageTreeChanges::take_out(int index) {
  LUMVET_TRY(std::vector<Step> way, way_to(index));
  const ObjectId page = way.back().kids[way.back().at].as_reference();
  Dict dict = ledger_.resolve(Object(page)).as_dict();
  for (const std::string_view key : document::kInheritable)
    for (auto step = way.rbegin(); step != way.rend() && !dict.contains(key); ++step)
      if (step->dict.contains(key)) dict.set(key, step->dict[key]);
  dict.remove("Parent");
  // A node that loses its last page goes too, but for the root.
  std::size_t level = way.size() - 1;
  while (level > 0 && way[level].kids.size() == 1) {
    ledger_.set(way[level].node, Object());
    --level;
  }
  way.resize(level + 1);
  Array& kids = way.back().kids;
  kids.erase(kids.begin() + static_cast<std::ptrdiff_t>(way.back().at));
  add_to_counts(way, -1);
  ledger_.set(page, std::move(dict));
  return page;
}

Status PageTreeChanges::put_in(int index, ObjectId page) {
  const Object root = ledger_.resolve(root_);
  const std::int64_t count = ledger_.get(root.as_dict(), "Count").as_integer();
  std::vector<Step> way;
  if (count == 0) {
    way.push_back({root_.as_reference(), root.as_dict(), {}, 0});
  } else {
    const bool is_last = index >= count;
    LUMVET_TRY(way, way_to(is_last ? static_cast<int>(count) - 1 : index));
    way.back().at += is_last ? 1 : 0;
  }
  Array& kids = way.back().kids;
  kids.insert(kids.begin() + static_cast<std::ptrdiff_t>(way.back().at), Object(page));
  add_to_counts(way, 1);
  Dict dict = ledger_.resolve(Object(page)).as_dict();
  for (const Step& step : way) keep_from_inheriting(step.dict, dict);
  dict.set("Parent", way.back().node);
  ledger_.set(page, std::move(dict));
  return Done{};
}

}  // namespace lumvet::editing

// SPDX-License-Identifier: Apache-2.0
#include "document/page_tree.h"

#include <array>
#include <set>

namespace lumvet::document {
namespace {

constexpr std::array<std::string_view, 4> kInheritable = {"Resources", "MediaBox", "CropBox",
                                                          "Rotate"};

void inherit(const Dict& node, Dict& inherited) {
  for (const std::string_view key : kInheritable)
    if (node.contains(key)) inherited.set(key, node[key]);
}

PageNode page_node(const Object& kid, const Dict& own, const Dict& inherited) {
  PageNode node{kid.as_reference(), own};
  for (const auto& [key, value] : inherited)
    if (!own.contains(key)) node.dict.set(key, value);
  return node;
}

bool is_inner(const Dict& node) { return node.contains("Kids"); }

}  // namespace

PageTree::PageTree(const file::ObjectStore& store, const Dict& catalog)
    : store_(store), root_(catalog["Pages"]) {
  const Object root = store.resolve(root_);
  const std::int64_t stated = store.get(root.as_dict(), "Count").as_integer(-1);
  const Object kids = store.get(root.as_dict(), "Kids");
  const auto objects = static_cast<std::int64_t>(store.cross_references().entries.size());
  const bool believable = stated > 0 && stated <= objects && !kids.as_array().empty();
  if (believable) {
    count_ = static_cast<int>(stated);
    return;
  }
  count_ = static_cast<int>(all().size());
  if (stated != count_)
    store.findings().add({"the page tree states an impossible number of pages; " +
                              std::to_string(count_) + " were found",
                          {},
                          root_.as_reference()});
}

Result<PageNode> PageTree::find(int index) const {
  if (auto node = descend(index)) return *std::move(node);
  const std::vector<Leaf>& leaves = all();
  if (index >= static_cast<int>(leaves.size()))
    return Error(ErrorCode::malformed, "the page tree states " + std::to_string(count_) +
                                           " pages but holds " + std::to_string(leaves.size()));
  const Leaf& leaf = leaves[static_cast<std::size_t>(index)];
  store_.findings().add({"the counts of the page tree are wrong; its pages were counted instead",
                         {},
                         root_.as_reference()});
  return page_node(leaf.kid, store_.resolve(leaf.kid).as_dict(), leaf.inherited);
}

std::optional<PageNode> PageTree::descend(int index) const {
  Dict inherited;
  Object kid = root_;
  std::int64_t left = index;
  std::int64_t promised = count_;  // the pages that the node above says are below
  for (int depth = 0; depth < store_.limits().nesting; ++depth) {
    const Object object = store_.resolve(kid);
    const Dict& node = object.as_dict();
    if (!is_inner(node)) {
      if (left != 0 || depth == 0 || !object.is_dict()) return std::nullopt;
      return page_node(kid, node, inherited);
    }
    const std::int64_t stated = store_.get(node, "Count").as_integer(-1);
    if (stated != promised) return std::nullopt;
    inherit(node, inherited);
    const Object kids_object = store_.get(node, "Kids");
    const Array& kids = kids_object.as_array();
    if (stated == static_cast<std::int64_t>(kids.size())) {
      // As many kids as pages: each is one, which the next round checks.
      if (left >= static_cast<std::int64_t>(kids.size())) return std::nullopt;
      kid = kids[static_cast<std::size_t>(left)];
      left = 0;
      promised = 1;
      continue;
    }
    // All kids are looked at, since only then it shows whether their counts fit together.
    std::optional<std::size_t> chosen;
    std::int64_t before = 0;
    for (std::size_t i = 0; i < kids.size(); ++i) {
      const Object below = store_.resolve(kids[i]);
      if (!below.is_dict()) return std::nullopt;
      const std::int64_t count =
          is_inner(below.as_dict()) ? store_.get(below.as_dict(), "Count").as_integer(-1) : 1;
      if (count < 0 || count > stated) return std::nullopt;
      if (!chosen && left < before + count) {
        chosen = i;
        left -= before;
        promised = count;
      }
      before += count;
    }
    if (!chosen || before != stated) return std::nullopt;
    kid = kids[*chosen];
  }
  return std::nullopt;
}

std::optional<int> PageTree::index_of(ObjectId id) const {
  all();
  const auto found = indices_.find(id);
  return found == indices_.end() ? std::nullopt : std::optional(found->second);
}

const std::vector<PageTree::Leaf>& PageTree::all() const {
  std::call_once(walked_, [this] {
    walk(leaves_);
    for (std::size_t i = 0; i < leaves_.size(); ++i)
      if (leaves_[i].kid.is_reference())
        indices_.emplace(leaves_[i].kid.as_reference(), static_cast<int>(i));
  });
  return leaves_;
}

void PageTree::walk(std::vector<Leaf>& leaves) const {
  struct Level {
    Array kids;
    std::size_t next = 0;
    Dict inherited;
  };
  std::set<ObjectId> inner_seen;
  std::vector<Level> levels;
  levels.push_back({{root_}, 0, {}});
  while (!levels.empty()) {
    if (levels.back().next == levels.back().kids.size()) {
      levels.pop_back();
      continue;
    }
    const Object kid = levels.back().kids[levels.back().next++];
    const Object object = store_.resolve(kid);
    if (!object.is_dict()) {
      store_.findings().add(
          {"the page tree holds something that is no page", {}, kid.as_reference()});
      continue;
    }
    if (!is_inner(object.as_dict())) {
      if (leaves.size() < store_.limits().objects) leaves.push_back({kid, levels.back().inherited});
      continue;
    }
    const bool seen = kid.is_reference() && !inner_seen.insert(kid.as_reference()).second;
    if (seen || static_cast<int>(levels.size()) > store_.limits().nesting) {
      store_.findings().add({"the page tree leads back into itself", {}, kid.as_reference()});
      continue;
    }
    Level below{store_.get(object.as_dict(), "Kids").as_array(), 0, levels.back().inherited};
    inherit(object.as_dict(), below.inherited);
    levels.push_back(std::move(below));
  }
}

}  // namespace lumvet::document

// SPDX-License-Identifier: Apache-2.0
#include "document/page_tree.h"
#include "document/inheritable.h"

#include <array>
#include <set>

namespace lumvet::document {
namespace {

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

// A wrong or missing type is tolerated where everything else speaks for a page or a node.
bool may_be_node(const Object& object) {
  if (!object.is_dict()) return false;
  const Dict& dict = object.as_dict();
  if (dict["Type"].is_name("Page") || is_inner(dict)) return true;
  if (dict["Type"].is_name("Pages")) return false;  // a node without kids
  return dict.contains("Parent") || dict.contains("MediaBox") || dict.contains("Contents") ||
         dict.contains("Resources");
}

}  // namespace

PageTree::PageTree(const file::ObjectStore& store, const Dict& catalog, Counts counts)
    : store_(store), root_(catalog["Pages"]) {
  const Object root = store.resolve(root_);
  const std::int64_t stated = store.get(root.as_dict(), "Count").as_integer(-1);
  if (counts == Counts::believed && is_believable(root.as_dict())) {
    count_ = static_cast<int>(stated);
    return;
  }
  prefers_walk_ = true;
  count_ = static_cast<int>(all()->leaves.size());
  if (stated != count_)
    store.findings().add({"the page tree states " + std::to_string(stated) + " pages; " +
                              std::to_string(count_) + " were found",
                          {},
                          root_.as_reference()});
  else if (counts == Counts::believed)
    store.findings().add(counts_are_wrong());
}

Finding PageTree::counts_are_wrong() const {
  return {"the counts of the page tree do not fit together; its pages were counted instead",
          {},
          root_.as_reference()};
}

// Whether the root's count fits what its kids say of themselves.
bool PageTree::is_believable(const Dict& root) const {
  const std::int64_t stated = store_.get(root, "Count").as_integer(-1);
  const Object kids_object = store_.get(root, "Kids");
  const Array& kids = kids_object.as_array();
  if (stated <= 0 || stated > static_cast<std::int64_t>(store_.size()) || kids.empty())
    return false;
  constexpr std::size_t kFew = 64;
  if (kids.size() > kFew) return stated >= static_cast<std::int64_t>(kids.size());
  std::int64_t sum = 0;
  for (const Object& kid : kids) {
    const Object node = store_.resolve(kid);
    if (!node.is_dict()) return false;
    sum += is_inner(node.as_dict()) ? store_.get(node.as_dict(), "Count").as_integer(-1) : 1;
  }
  return sum == stated;
}

std::vector<ObjectId> PageTree::ids() const {
  std::vector<ObjectId> ids;
  for (const Leaf& leaf : all()->leaves) ids.push_back(leaf.kid.as_reference());
  return ids;
}

Result<PageNode> PageTree::find(int index) const {
  if (prefers_walk_) return walked_page(index);
  if (auto node = descend(index)) return *std::move(node);
  if (auto stopped = Attempt::stopped_by()) return *std::move(stopped);
  if (!prefers_walk_.exchange(true)) store_.findings().add(counts_are_wrong());
  return walked_page(index);
}

Result<PageNode> PageTree::walked_page(int index) const {
  const std::shared_ptr<const Walked> walked = all();
  const std::vector<Leaf>& leaves = walked->leaves;
  if (index >= static_cast<int>(leaves.size()))
    return Error(ErrorCode::malformed, "the page tree states " + std::to_string(count_) +
                                           " pages but holds " + std::to_string(leaves.size()));
  const Leaf& leaf = leaves[static_cast<std::size_t>(index)];
  return page_node(leaf.kid, store_.resolve(leaf.kid).as_dict(), leaf.inherited);
}

std::optional<PageNode> PageTree::descend(int index) const {
  Dict inherited;
  Object kid = root_;
  std::int64_t left = index;
  std::int64_t promised = count_;  // the pages that the node above says are below
  for (int depth = 0; depth <= store_.limits().page_tree_depth; ++depth) {
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
    constexpr std::size_t kMany = 256;
    if (kids.size() > kMany) {  // pages and nodes mixed: looking at all for each page is slow
      prefers_walk_ = true;
      return std::nullopt;
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
  const std::shared_ptr<const Walked> walked = all();
  const auto found = walked->indices.find(id);
  return found == walked->indices.end() ? std::nullopt : std::optional(found->second);
}

std::shared_ptr<const PageTree::Walked> PageTree::all() const {
  return walked_.get([this] {
    Walked walked{walk(), {}};
    for (std::size_t i = 0; i < walked.leaves.size(); ++i)
      if (const Object& kid = walked.leaves[i].kid; kid.is_reference())
        walked.indices.emplace(kid.as_reference(), static_cast<int>(i));
    return walked;
  });
}

std::vector<PageTree::Leaf> PageTree::walk() const {
  std::vector<Leaf> leaves;
  struct Level {
    Array kids;
    std::size_t next = 0;
    Dict inherited;
  };
  // Each page is an object; a few bytes would name one millions of times.
  constexpr std::uint64_t kFewAgain = 1000;
  const auto most = static_cast<std::size_t>(
      std::min<std::uint64_t>(store_.size() + kFewAgain, store_.limits().objects));
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
    if (!may_be_node(object)) {
      store_.findings().add(
          {"the page tree holds something that is no page", {}, kid.as_reference()});
      continue;
    }
    if (!is_inner(object.as_dict())) {
      if (leaves.size() >= most) {
        store_.findings().add({"the page tree names the same pages again and again, " +
                                   std::to_string(most) + " were taken",
                               {},
                               kid.as_reference()});
        return leaves;
      }
      leaves.push_back({kid, levels.back().inherited});
      continue;
    }
    if (kid.is_reference() && !inner_seen.insert(kid.as_reference()).second) {
      store_.findings().add({"the page tree leads back into itself", {}, kid.as_reference()});
      continue;
    }
    if (static_cast<int>(levels.size()) >= store_.limits().page_tree_depth) {
      met_limit("the page tree is deeper than Limits::page_tree_depth");
      return {};
    }
    Level below{store_.get(object.as_dict(), "Kids").as_array(), 0, levels.back().inherited};
    inherit(object.as_dict(), below.inherited);
    levels.push_back(std::move(below));
  }
  return leaves;
}

}  // namespace lumvet::document

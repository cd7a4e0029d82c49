// SPDX-License-Identifier: Apache-2.0
#include "save/page_tree_builder.h"

#include <algorithm>

namespace lumvet::saving {
namespace {

constexpr std::size_t kFanOut = 32;  // kids of a node

std::size_t nodes_for(std::size_t kids) { return (kids + kFanOut - 1) / kFanOut; }

}  // namespace

ObjectId PageTreeBuilder::add(ObjectId page) {
  if (leaves_.size() % kFanOut == 0) parents_.push_back(ledger_.reserve());
  leaves_.push_back({page, 1});
  return parents_.back();
}

// Level by level, until one node is left.
ObjectId PageTreeBuilder::finish() {
  if (parents_.empty()) parents_.push_back(ledger_.reserve());
  std::vector<Node> nodes = std::move(leaves_);
  std::vector<ObjectId> parents = std::move(parents_);
  for (;;) {
    std::vector<Node> above;
    std::vector<ObjectId> grandparents;
    if (parents.size() > 1)
      for (std::size_t i = 0; i < nodes_for(parents.size()); ++i)
        grandparents.push_back(ledger_.reserve());
    for (std::size_t i = 0; i < parents.size(); ++i) {
      Array kids;
      int count = 0;
      for (std::size_t k = i * kFanOut; k < std::min(nodes.size(), (i + 1) * kFanOut); ++k) {
        kids.push_back(nodes[k].id);
        count += nodes[k].pages;
      }
      Dict node{{"Type", Object::name("Pages")}, {"Kids", std::move(kids)}, {"Count", count}};
      if (!grandparents.empty()) node.set("Parent", grandparents[i / kFanOut]);
      ledger_.set(parents[i], std::move(node));
      above.push_back({parents[i], count});
    }
    if (grandparents.empty()) return parents[0];
    nodes = std::move(above);
    parents = std::move(grandparents);
  }
}

}  // namespace lumvet::saving

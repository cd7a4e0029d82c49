// SPDX-License-Identifier: Apache-2.0
#include "document/tree_builder.h"

#include <algorithm>
#include <iterator>
#include <utility>
#include <vector>

namespace lumvet::document {
namespace {

constexpr std::size_t kFanOut = 48;

Object as_key(const std::string& name) { return Object::string(name); }
Object as_key(std::int64_t number) { return Object(number); }

template <typename Key>
Object build(file::Ledger& ledger, const std::map<Key, Object>& entries,
             std::string_view entries_key) {
  if (entries.empty()) return Object();
  struct Node {
    Dict dict;
    Object first;
    Object last;
  };
  std::vector<Node> nodes;
  Array pairs;
  for (auto at = entries.begin(); at != entries.end(); ++at) {
    pairs.push_back(as_key(at->first));
    pairs.push_back(at->second);
    if (pairs.size() < 2 * kFanOut && std::next(at) != entries.end()) continue;
    Node node{{}, pairs.front(), as_key(at->first)};
    node.dict.set(entries_key, std::exchange(pairs, {}));
    nodes.push_back(std::move(node));
  }
  while (nodes.size() > 1) {
    std::vector<Node> above;
    for (std::size_t i = 0; i < nodes.size(); i += kFanOut) {
      const std::size_t end = std::min(nodes.size(), i + kFanOut);
      Array kids;
      for (std::size_t k = i; k < end; ++k) {
        nodes[k].dict.set("Limits", Array{nodes[k].first, nodes[k].last});
        kids.push_back(ledger.add(std::move(nodes[k].dict)));
      }
      above.push_back(
          {Dict{{"Kids", Object(std::move(kids))}}, nodes[i].first, nodes[end - 1].last});
    }
    nodes = std::move(above);
  }
  return ledger.add(std::move(nodes[0].dict));
}

}  // namespace

Object build_name_tree(file::Ledger& ledger, const std::map<std::string, Object>& entries) {
  return build(ledger, entries, "Names");
}

Object build_number_tree(file::Ledger& ledger, const std::map<std::int64_t, Object>& entries) {
  return build(ledger, entries, "Nums");
}

}  // namespace lumvet::document

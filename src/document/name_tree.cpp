// SPDX-License-Identifier: Apache-2.0
#include "document/name_tree.h"

#include <set>
#include <vector>

#include "base/attempt.h"

namespace lumvet::document {

void walk_tree(const file::ObjectStore& store, const Object& root, std::string_view entries,
               const TreeVisit& visit) {
  struct Open {
    Object node;
    int depth;
  };
  std::vector<Open> open = {{root, 0}};
  std::set<ObjectId> seen;
  while (!open.empty()) {
    const Open at = open.back();
    open.pop_back();
    if (at.node.is_reference() && !seen.insert(at.node.as_reference()).second) {
      store.findings().add({"a name tree leads back into itself", {}, at.node.as_reference()});
      continue;
    }
    if (at.depth >= store.limits().name_tree_depth) {
      met_limit("a name tree is deeper than Limits::name_tree_depth");
      return;
    }
    const Object node = store.resolve(at.node);
    const Object pairs = store.get(node.as_dict(), entries);
    for (std::size_t i = 0; i + 1 < pairs.as_array().size(); i += 2)
      visit(store.resolve(pairs.as_array()[i]), pairs.as_array()[i + 1]);
    const Object kids = store.get(node.as_dict(), "Kids");
    for (auto kid = kids.as_array().rbegin(); kid != kids.as_array().rend(); ++kid)
      open.push_back({*kid, at.depth + 1});
  }
}

// Kids that state their limits are looked into when the key lies within; the others always.
Object find_in_name_tree(const objects::Resolver& resolver, const Object& root,
                         std::string_view key, int most_depth) {
  struct Open {
    Object node;
    int depth;
  };
  const auto may_have = [&](const Dict& kid) {
    const Object limits = resolver.get(kid, "Limits");
    if (limits.as_array().size() != 2) return true;
    const Object least = resolver.resolve(limits.as_array()[0]);
    const Object most = resolver.resolve(limits.as_array()[1]);
    return !least.is_string() || !most.is_string() ||
           (least.as_string() <= key && key <= most.as_string());
  };
  std::vector<Open> open = {{root, 0}};
  std::set<ObjectId> seen;
  while (!open.empty() && Attempt::follow(sizeof(Open))) {
    const Open at = open.back();
    open.pop_back();
    if (at.node.is_reference() && !seen.insert(at.node.as_reference()).second) continue;
    const Object node = resolver.resolve(at.node);
    const Object names = resolver.get(node.as_dict(), "Names");
    for (std::size_t i = 0; i + 1 < names.as_array().size(); i += 2)
      if (resolver.resolve(names.as_array()[i]).as_string() == key)
        return resolver.resolve(names.as_array()[i + 1]);
    if (at.depth + 1 >= most_depth) continue;
    const Object kids = resolver.get(node.as_dict(), "Kids");
    for (auto kid = kids.as_array().rbegin(); kid != kids.as_array().rend(); ++kid) {
      const Object child = resolver.resolve(*kid);
      if (may_have(child.as_dict())) open.push_back({*kid, at.depth + 1});
    }
  }
  return Object();
}

}  // namespace lumvet::document

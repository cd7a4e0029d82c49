// SPDX-License-Identifier: Apache-2.0
#include "document/name_tree.h"

#include <set>

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

Object find_in_name_tree(const objects::Resolver& resolver, const Object& root,
                         std::string_view key, int most_depth) {
  Object node = resolver.resolve(root);
  for (int depth = 0; depth < most_depth; ++depth) {
    const Object names = resolver.get(node.as_dict(), "Names");
    for (std::size_t i = 0; i + 1 < names.as_array().size(); i += 2)
      if (resolver.resolve(names.as_array()[i]).as_string() == key)
        return resolver.resolve(names.as_array()[i + 1]);
    const Object kids = resolver.get(node.as_dict(), "Kids");
    Object next;
    for (const Object& kid_reference : kids.as_array()) {
      const Object kid = resolver.resolve(kid_reference);
      const Object limits = resolver.get(kid.as_dict(), "Limits");
      if (limits.as_array().size() == 2 &&
          resolver.resolve(limits.as_array()[0]).as_string() <= key &&
          key <= resolver.resolve(limits.as_array()[1]).as_string()) {
        next = kid;
        break;
      }
    }
    if (next.is_null()) return Object();
    node = next;
  }
  return Object();
}

}  // namespace lumvet::document

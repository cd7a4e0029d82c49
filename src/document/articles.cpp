// SPDX-License-Identifier: Apache-2.0
#include "document/articles.h"

#include <set>

#include "base/attempt.h"
#include "document/geometry_objects.h"
#include "document/metadata.h"

namespace lumvet::document {

std::vector<Object> beads_of(const file::ObjectStore& store, const Dict& thread) {
  std::vector<Object> beads;
  std::set<ObjectId> seen;
  for (Object bead = thread["F"]; bead.is_reference(); bead = store.resolve(bead).as_dict()["N"]) {
    if (!store.resolve(bead).is_dict() || !seen.insert(bead.as_reference()).second) break;
    if (!Attempt::follow(sizeof(ArticlePart))) break;
    beads.push_back(bead);
  }
  return beads;
}

std::vector<Article> read_articles(const Core& core) {
  const file::ObjectStore& store = core.store();
  std::vector<Article> articles;
  const Object threads = store.get(core.catalog(), "Threads");
  for (const Object& item : threads.as_array()) {
    const Object thread = store.resolve(item);
    if (!thread.is_dict() || !Attempt::follow(sizeof(Article))) continue;
    Article article;
    article.properties = info_of(store, store.get(thread.as_dict(), "I").as_dict());
    for (const Object& bead : beads_of(store, thread.as_dict())) {
      const Object stated = store.resolve(bead);
      const Dict& dict = stated.as_dict();
      ArticlePart part;
      if (dict["P"].is_reference()) part.page = core.pages().index_of(dict["P"].as_reference());
      part.area = rect_of(store, dict["R"]).value_or(Rect{});
      article.parts.push_back(part);
    }
    articles.push_back(std::move(article));
  }
  return articles;
}

}  // namespace lumvet::document

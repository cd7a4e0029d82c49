// SPDX-License-Identifier: Apache-2.0
#include "assemble/article_builder.h"

#include "document/articles.h"
#include "document/inside.h"

namespace lumvet::assemble {

void ArticleBuilder::add(SourceCopier& copier, const std::set<ObjectId>& pages) {
  const file::ObjectStore& store = store_of(copier.source());
  const Object threads = store.get(copier.source().catalog(), "Threads");
  for (const Object& item : threads.as_array()) {
    const Object thread = store.resolve(item);
    std::vector<Bead> beads;
    for (const Object& reference : document::beads_of(store, thread.as_dict())) {
      const Object bead = store.resolve(reference);
      const auto index = copier.page_index(bead.as_dict()["P"].as_reference());
      const auto page = index ? copier.first_copy(*index) : std::nullopt;
      if (page && pages.contains(*page))
        beads.push_back({target_.reserve(), *page, copier.copied(bead.as_dict()["R"])});
    }
    if (!beads.empty()) add_thread(copier.copied(thread.as_dict()["I"]), beads);
  }
}

// The parts of an article form a ring.
void ArticleBuilder::add_thread(const Object& properties, const std::vector<Bead>& beads) {
  Dict thread{{"Type", Object::name("Thread")}, {"F", beads.front().id}};
  if (!properties.is_null()) thread.set("I", properties);
  const ObjectId id = target_.add(std::move(thread));
  threads_.push_back(id);
  for (std::size_t i = 0; i < beads.size(); ++i) {
    const Bead& bead = beads[i];
    Dict dict{{"Type", Object::name("Bead")},
              {"N", beads[(i + 1) % beads.size()].id},
              {"V", beads[(i + beads.size() - 1) % beads.size()].id},
              {"P", bead.page},
              {"R", bead.area}};
    if (i == 0) dict.set("T", id);
    target_.set(bead.id, std::move(dict));
    on_pages_[bead.page].push_back(bead.id);
  }
}

Object ArticleBuilder::finish() {
  for (auto& [page, beads] : on_pages_) {
    Dict dict = target_.resolve(Object(page)).as_dict();
    dict.set("B", std::move(beads));
    target_.set(page, std::move(dict));
  }
  return threads_.empty() ? Object() : Object(std::move(threads_));
}

}  // namespace lumvet::assemble

// SPDX-License-Identifier: Apache-2.0
// Which objects of a document go into which part of a linearized file (ISO 32000-2, F.3).
//
// Threads: free functions.
#pragma once

#include <unordered_map>
#include <vector>

#include "objects/resolver.h"
#include "save/reachable.h"

namespace lumvet::saving {

// What pages inherit stands in them, since a viewer has them before the tree.
class FlattenedPages final : public objects::Resolver {
 public:
  // Errors: malformed for a document without pages.
  static Result<FlattenedPages> of(const objects::Resolver& objects, const Object& catalog);

  Object resolve(const Object& object) const override;
  const std::vector<ObjectId>& pages() const { return pages_; }

 private:
  explicit FlattenedPages(const objects::Resolver& objects) : objects_(&objects) {}
  void walk(const Object& root);
  static std::uint64_t key(ObjectId id) { return std::uint64_t{id.number} << 16 | id.generation; }

  const objects::Resolver* objects_;
  std::unordered_map<std::uint64_t, Object> changed_;  // by what key() makes of their names
  std::vector<ObjectId> pages_;
  std::uint32_t next_ = 0x7FFF'FFFF;  // downward, for pages that had no number
};

// All by their places among the reachable objects.
using Part = std::vector<std::size_t>;

struct LinearPlan {
  std::size_t first_page = 0;
  Part document;                      // part 4: the catalog, and what opening needs
  Part first;                         // part 6, its page first
  bool first_has_outline = false;     // behind it, since it shows when the document opens
  std::vector<Part> pages;            // part 7, by page, each page first; empty for the first page
  std::vector<std::size_t> contents;  // how many of a page's objects behind itself are content
  Part shared;                        // part 8
  std::vector<Part> uses;             // by page, what it needs of parts 6 and 8
  // Part 9: the outline, unless it is in part 6, named places, page labels, and everything else.
  Part outline;
  Part places;
  Part labels;
  Part others;
};

// Errors: limit, when pages share so much that nobody could say it.
Result<LinearPlan> plan_parts(const FlattenedPages& objects, const Object& catalog,
                              const Reachable& reachable);

}  // namespace lumvet::saving

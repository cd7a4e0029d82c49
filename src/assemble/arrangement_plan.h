// SPDX-License-Identifier: Apache-2.0
// What an arrangement has planned: pages of several documents, changed, some of them on sheets.
//
// Threads: const methods may run concurrently; anything else needs exclusive access.
#pragma once

#include <functional>
#include <memory>
#include <string>
#include <vector>

#include "assemble/binder.h"
#include "assemble/page_change.h"
#include "base/history.h"
#include "lumvet/assemble/arrangement.h"

namespace lumvet::assemble {

struct OnPlannedSheet;

struct Planned {
  std::size_t document;  // its place among the documents
  int page;              // of it
  PageChange change;
  std::shared_ptr<const std::vector<OnPlannedSheet>> parts;  // of a sheet, which is a blank page
};

struct OnPlannedSheet {
  Planned page;
  Matrix placed;
  bool framed = false;
};

using Plan = std::vector<Planned>;

// What lies on the page first, in order, and the page itself at last.
void visit(const Planned& page, const std::function<void(const Planned&)>& with);

std::string pages_of(std::size_t count);  // "3 pages"

}  // namespace lumvet::assemble

namespace lumvet {

struct Arrangement::Impl {
  Impl(const Document& document, assemble::Plan plan)
      : documents{document}, history(std::make_shared<const assemble::Plan>(std::move(plan))) {}

  std::vector<Document> documents;  // the first is the one that is arranged
  History<std::shared_ptr<const assemble::Plan>> history;

  const assemble::Plan& plan() const { return *history.now(); }
  int count() const { return static_cast<int>(plan().size()); }
  void take(std::string what, assemble::Plan plan) {
    history.take(std::move(what), std::make_shared<const assemble::Plan>(std::move(plan)));
  }

  Result<std::vector<int>> chosen(const PageSelection& pages) const;
  Result<std::vector<bool>> marked(const PageSelection& pages) const;  // each once
  Status is_place(int before) const;
  std::size_t place_of(const Document& document);
  Result<Page> page_of(const assemble::Planned& planned) const;
  Result<assemble::Shape> shape_of(const assemble::Planned& planned) const;

  Result<SaveReport> save(const assemble::Plan& plan, ByteSink& sink,
                          const SaveOptions& options) const;

 private:
  Result<std::vector<assemble::Part>> parts(const assemble::Plan& plan) const;
  Status check_permissions(const assemble::Plan& plan) const;
};

}  // namespace lumvet

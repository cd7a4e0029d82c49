// SPDX-License-Identifier: Apache-2.0
// A search through one document or several that can stop and go on, as when a document arrives
// piece by piece.
//
//   lumvet::DocumentSearch search({report, manual}, lumvet::TextSearch::of("rust").value());
//   search.go_on([](const lumvet::DocumentHits& found) -> lumvet::Status {
//     std::cout << "page " << found.page.page + 1 << '\n';
//     return lumvet::Done{};
//   });
//   if (search.pages_left() > 0) go_on_when_more_has_arrived();
//
// Threads: one thread at a time; it works on several of its own. Since: 0.2
#pragma once

#include <functional>
#include <memory>
#include <vector>

#include "lumvet/text/text_search.h"

namespace lumvet {

struct DocumentHits {
  std::size_t document = 0;  // of those given, from 0
  PageHits page;
};

// A page that could not be read, or the document's list of pages.
struct UnreadPage {
  std::size_t document = 0;
  int page = 0;  // from 0
  Error error;
};

class LUMVET_EXPORT DocumentSearch {
 public:
  DocumentSearch(std::vector<Document> documents, TextSearch search, ReadOptions options = {});
  DocumentSearch(DocumentSearch&&) noexcept;
  DocumentSearch& operator=(DocumentSearch&&) noexcept;
  ~DocumentSearch();

  // Looks through the pages that are left, by document and page, several at a time, and gives those
  // on which something is found, on the calling thread. Pages whose bytes are not there yet are
  // left for the next time, when the page before is given once more for what goes on onto them;
  // other pages that cannot be read are told in unread(). The progress of
  // the options counts the pages of one document. Errors: of `take`, cancelled, after which the
  // pages that were not given yet are left.
  using Take = std::function<Status(const DocumentHits& found)>;
  Status go_on(const Take& take);

  std::size_t pages_left() const;
  std::size_t hit_count() const;  // so far, on all pages
  const std::vector<UnreadPage>& unread() const;

 private:
  struct Impl;
  std::unique_ptr<Impl> impl_;
};

}  // namespace lumvet

// SPDX-License-Identifier: Apache-2.0
#include "lumvet/text/document_search.h"

#include <numeric>

#include "base/attempt.h"
#include "text/each_scene.h"
#include "text/hits_in_order.h"

namespace lumvet {
struct DocumentSearch::Impl {
  std::vector<Document> documents;
  TextSearch search;
  ReadOptions options;
  std::vector<std::vector<int>> left;  // pages of each document
  std::vector<text::HitsInOrder> found;
  std::size_t hits = 0;
  std::vector<UnreadPage> unread;

  Status go_on(std::size_t number, const Take& take);
};

DocumentSearch::DocumentSearch(std::vector<Document> documents, TextSearch search,
                               ReadOptions options)
    : impl_(std::make_unique<Impl>(
          Impl{std::move(documents), std::move(search), std::move(options), {}, {}, 0, {}})) {
  for (const Document& document : impl_->documents) {
    auto& pages = impl_->left.emplace_back(static_cast<std::size_t>(document.page_count()));
    std::iota(pages.begin(), pages.end(), 0);
    impl_->found.emplace_back(impl_->search);
  }
}
DocumentSearch::DocumentSearch(DocumentSearch&&) noexcept = default;
DocumentSearch& DocumentSearch::operator=(DocumentSearch&&) noexcept = default;
DocumentSearch::~DocumentSearch() = default;

Status DocumentSearch::Impl::go_on(std::size_t number, const Take& take) {
  const std::vector<int> pages = left[number];
  std::vector<int> put_off;
  text::HitsInOrder& in_order = found[number];
  in_order.begin(
      [&](const PageHits& page) -> Status {
        LUMVET_RETURN_IF_ERROR(called_back(take, DocumentHits{number, page}));
        hits += page.hits.size() + page.across.size();
        return Done{};
      },
      [&](int page, const Error& error) -> Status {
        if (error.code() == ErrorCode::need_more_data)
          put_off.push_back(page);
        else
          unread.push_back({number, page, error});
        return Done{};
      });
  using Searched = Result<text::SearchedPage>;
  Status status = text::each_scene<Searched>(
      documents[number], pages, options,
      [&](int, const Scene& scene) -> Result<Searched> {
        return text::SearchedPage::of(search, PageWords::of(scene, options.letters));
      },
      [&](int page, const Searched& searched) { return in_order.add(page, searched); },
      [](Result<Searched> read) -> Result<Searched> {
        if (read.ok() || read.error().code() == ErrorCode::cancelled) return read;
        return Searched(std::move(read).error());
      });
  if (status.ok()) status = in_order.finish();
  left[number].assign(pages.begin() + static_cast<std::ptrdiff_t>(in_order.given()), pages.end());
  left[number].insert(left[number].begin(), put_off.begin(), put_off.end());
  return status;
}

Status DocumentSearch::go_on(const Take& take) {
  for (std::size_t i = 0; i < impl_->documents.size(); ++i)
    LUMVET_RETURN_IF_ERROR(impl_->go_on(i, take));
  return Done{};
}

std::size_t DocumentSearch::pages_left() const {
  std::size_t count = 0;
  for (const auto& pages : impl_->left) count += pages.size();
  return count;
}

std::size_t DocumentSearch::hit_count() const { return impl_->hits; }
const std::vector<UnreadPage>& DocumentSearch::unread() const { return impl_->unread; }

}  // namespace lumvet

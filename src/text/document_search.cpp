// SPDX-License-Identifier: Apache-2.0
#include "lumvet/text/document_search.h"

#include <numeric>
#include <optional>

#include "base/attempt.h"
#include "text/each_scene.h"

namespace lumvet {
namespace {

struct Searched {
  std::optional<PageHits> hits;
  std::optional<Error> error;  // in their place
};

}  // namespace

struct DocumentSearch::Impl {
  std::vector<Document> documents;
  TextSearch search;
  ReadOptions options;
  std::vector<std::vector<int>> left;  // pages of each document
  std::size_t hits = 0;
  std::vector<UnreadPage> unread;

  Status go_on(std::size_t number, const Take& take);
};

DocumentSearch::DocumentSearch(std::vector<Document> documents, TextSearch search,
                               ReadOptions options)
    : impl_(std::make_unique<Impl>(
          Impl{std::move(documents), std::move(search), std::move(options), {}, 0, {}})) {
  for (const Document& document : impl_->documents) {
    auto& pages = impl_->left.emplace_back(static_cast<std::size_t>(document.page_count()));
    std::iota(pages.begin(), pages.end(), 0);
  }
}
DocumentSearch::DocumentSearch(DocumentSearch&&) noexcept = default;
DocumentSearch& DocumentSearch::operator=(DocumentSearch&&) noexcept = default;
DocumentSearch::~DocumentSearch() = default;

Status DocumentSearch::Impl::go_on(std::size_t number, const Take& take) {
  const std::vector<int> pages = left[number];
  std::vector<int> put_off;
  std::size_t done = 0;
  const Status status = text::each_scene<Searched>(
      documents[number], pages, options,
      [&](int page, const Scene& scene) -> Result<Searched> {
        PageWords words = PageWords::of(scene, options.letters);
        LUMVET_TRY(std::vector<TextSpan> found, search.in(words));
        return Searched{PageHits{page, std::move(words), std::move(found)}, {}};
      },
      [&](int page, const Searched& searched) -> Status {
        if (searched.error && searched.error->code() == ErrorCode::need_more_data)
          put_off.push_back(page);
        else if (searched.error)
          unread.push_back({number, page, *searched.error});
        if (searched.hits && !searched.hits->hits.empty()) {
          LUMVET_RETURN_IF_ERROR(called_back(take, DocumentHits{number, *searched.hits}));
          hits += searched.hits->hits.size();
        }
        ++done;
        return Done{};
      },
      [](Result<Searched> read) -> Result<Searched> {
        if (read.ok() || read.error().code() == ErrorCode::cancelled) return read;
        return Searched{{}, std::move(read).error()};
      });
  left[number].assign(pages.begin() + static_cast<std::ptrdiff_t>(done), pages.end());
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

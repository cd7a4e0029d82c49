// SPDX-License-Identifier: Apache-2.0
#include "text/hits_in_order.h"

#include <algorithm>

#include "base/attempt.h"
#include "text/hits_across.h"

namespace lumvet::text {

Result<SearchedPage> SearchedPage::of(const TextSearch& search, PageWords words) {
  LUMVET_TRY(std::vector<TextSpan> hits, search.in(words));
  Edges edges = edges_of(words);
  return SearchedPage{std::move(words), std::move(hits), std::move(edges)};
}

void HitsInOrder::begin(TakeHits take, Told told) {
  take_ = std::move(take);
  told_ = std::move(told);
  waiting_.clear();
  given_ = 0;
}

Status HitsInOrder::add(int page, Result<SearchedPage> read) {
  if (read.ok()) {
    awaited_.erase(page);
    known_.insert_or_assign(page, Known{std::move(*read), false});
    waiting_.push_back({page, {}});
  } else {
    if (read.error().code() == ErrorCode::need_more_data) awaited_.insert(page);
    waiting_.push_back({page, read.error()});
  }
  while (waiting_.size() > static_cast<std::size_t>(kNearPages + 1)) {
    LUMVET_RETURN_IF_ERROR(give(waiting_.front()));
    waiting_.pop_front();
  }
  return Done{};
}

Status HitsInOrder::finish() {
  while (!waiting_.empty()) {
    LUMVET_RETURN_IF_ERROR(give(waiting_.front()));
    waiting_.pop_front();
  }
  return Done{};
}

Status HitsInOrder::give(const Waiting& waiting) {
  const int page = waiting.page;
  if (waiting.error) {
    LUMVET_RETURN_IF_ERROR(told_(page, *waiting.error));
    ++given_;
    return Done{};
  }
  const auto before = known_.find(page - 1);
  if (before != known_.end() && !before->second.is_joined) {
    PageHits late{page - 1, before->second.page.words};
    LUMVET_RETURN_IF_ERROR(join(page - 1, late));
    if (!late.across.empty()) LUMVET_RETURN_IF_ERROR(called_back(take_, late));
  }
  const SearchedPage& own = known_.at(page).page;
  PageHits found{page, own.words, own.hits};
  LUMVET_RETURN_IF_ERROR(join(page, found));
  if (!found.hits.empty() || !found.across.empty())
    LUMVET_RETURN_IF_ERROR(called_back(take_, found));
  ++given_;
  forget_far_from(page);
  return Done{};
}

// Looks for what goes on onto the next page, when that is there.
Status HitsInOrder::join(int page, PageHits& found) {
  Known& own = known_.at(page);
  const auto next = known_.find(page + 1);
  if (own.is_joined || next == known_.end()) return Done{};
  own.is_joined = true;
  const SearchedPage& other = next->second.page;
  auto across = hits_across(search_, {own.page.words.text(), body(page)}, own.page.hits,
                            {other.words.text(), body(page + 1)}, other.hits);
  if (!across.ok()) return told_(page, across.error());
  found.across = std::move(*across);
  if (!found.across.empty()) found.next = other.words;
  return Done{};
}

TextSpan HitsInOrder::body(int page) const {
  std::vector<const Edges*> near;
  for (int other = page - kNearPages; other <= page + kNearPages; ++other)
    if (const auto known = known_.find(other); other != page && known != known_.end())
      near.push_back(&known->second.page.edges);
  const SearchedPage& own = known_.at(page).page;
  return body_of(own.words, heads_of(own.words, own.edges, near));
}

// Keeps what lies beside a page that has not arrived.
void HitsInOrder::forget_far_from(int page) {
  const auto is_near = [](int one, int other) { return std::abs(one - other) <= kNearPages; };
  std::erase_if(known_, [&](const auto& known) {
    const int other = known.first;
    return !is_near(other, page) &&
           std::none_of(awaited_.begin(), awaited_.end(),
                        [&](int awaited) { return is_near(other, awaited); }) &&
           std::none_of(waiting_.begin(), waiting_.end(),
                        [&](const Waiting& waiting) { return waiting.page == other; });
  });
}

}  // namespace lumvet::text

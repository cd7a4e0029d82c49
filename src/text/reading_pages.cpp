// SPDX-License-Identifier: Apache-2.0
#include "base/attempt.h"
#include "base/in_order.h"
#include "base/parallel.h"
#include "lumvet/text/page_words.h"
#include "lumvet/text/text_search.h"

namespace lumvet {
namespace {

template <typename Value, typename Make, typename Take>
Status each_page(const Document& document, const std::vector<int>& pages,
                 const ReadOptions& options, const Make& make, const Take& take) {
  const auto read = [&](std::size_t i, const CancelToken& cancel) -> Result<Value> {
    RecordOptions record = options.record;
    record.cancel = cancel;
    LUMVET_TRY(const Page page, document.page(pages[i]));
    LUMVET_TRY(const PageWords words, PageWords::of(page, record));
    return make(pages[i], words);
  };
  constexpr std::size_t kAhead = 32;  // pages take little memory, and little time each
  return work_in_order<Value>(pages.size(), static_cast<std::size_t>(thread_count(options.threads)),
                              kAhead, options.cancel, read,
                              [&](std::size_t i, const Value& value) -> Status {
                                LUMVET_RETURN_IF_ERROR(take(pages[i], value));
                                if (options.progress) options.progress(i + 1, pages.size());
                                return Done{};
                              });
}

}  // namespace

Status read_pages(const Document& document, const std::vector<int>& pages,
                  const ReadOptions& options, const TakeWords& take) {
  return each_page<PageWords>(
      document, pages, options,
      [](int, const PageWords& words) -> Result<PageWords> { return words; },
      [&](int page, const PageWords& words) { return called_back(take, page, words); });
}

Status find_in(const Document& document, const std::vector<int>& pages, const TextSearch& search,
               const ReadOptions& options, const TakeHits& take) {
  return each_page<PageHits>(
      document, pages, options,
      [&](int page, const PageWords& words) -> Result<PageHits> {
        LUMVET_TRY(std::vector<TextSpan> hits, search.in(words));
        return PageHits{page, words, std::move(hits)};
      },
      [&](int, const PageHits& found) -> Status {
        if (found.hits.empty()) return Done{};
        return called_back(take, found);
      });
}

}  // namespace lumvet

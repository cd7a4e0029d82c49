// SPDX-License-Identifier: Apache-2.0
// Pages recorded to be read, several at a time, and given in order.
//
// Threads: free functions.
#pragma once

#include <vector>

#include "base/in_order.h"
#include "base/parallel.h"
#include "lumvet/text/page_words.h"
#include "text/page_scene.h"

namespace lumvet::text {

// make(page, scene) -> Result<Value> on some thread, then take(page, value) -> Status on the
// calling one. What reading a page says goes through result(Result<Value>) -> Result<Value> first.
template <typename Value, typename Make, typename Take, typename Outcome>
Status each_scene(const Document& document, const std::vector<int>& pages,
                  const ReadOptions& options, const Make& make, const Take& take,
                  const Outcome& outcome) {
  const auto read = [&](std::size_t i, const CancelToken& cancel) -> Result<Value> {
    const auto read_page = [&]() -> Result<Value> {
      RecordOptions record = options.record;
      record.cancel = cancel;
      LUMVET_TRY(const Page page, document.page(pages[i]));
      return with_scene<Value>(page, std::move(record), options.letters,
                               [&](const Scene& scene) { return make(pages[i], scene); });
    };
    return outcome(read_page());
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

template <typename Value, typename Make, typename Take>
Status each_scene(const Document& document, const std::vector<int>& pages,
                  const ReadOptions& options, const Make& make, const Take& take) {
  return each_scene<Value>(document, pages, options, make, take,
                           [](Result<Value> read) { return read; });
}

}  // namespace lumvet::text

// SPDX-License-Identifier: Apache-2.0
// Any bytes as an index of a document's text, with the mark at their end put right: what is loaded
// holds together and can be looked through.
#include "lumvet/text/text_index.h"
#include "text/search_inside.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  constexpr std::size_t kMark = 8;
  if (size < kMark) return 0;
  lumvet::Bytes bytes(data, data + size);
  const std::uint64_t mark = lumvet::index_mark({data, size - kMark});
  for (std::size_t i = 0; i < kMark; ++i)
    bytes[size - kMark + i] = static_cast<std::uint8_t>(mark >> (8 * i));
  const auto index = lumvet::TextIndex::load(std::move(bytes));
  if (!index.ok()) return 0;
  std::size_t all = 0;
  for (int page = 0; page < index->page_count(); ++page) all += index->text(page).size();
  if (all > size) __builtin_trap();
  const auto status = index->find(lumvet::TextSearch::of("e").value(),
                                  [&](const lumvet::IndexHits& found) -> lumvet::Status {
                                    for (const lumvet::TextSpan& span : found.spans)
                                      if (span.begin >= span.end || span.end > found.text.size())
                                        __builtin_trap();
                                    return lumvet::Done{};
                                  });
  if (!status.ok()) __builtin_trap();
  return 0;
}

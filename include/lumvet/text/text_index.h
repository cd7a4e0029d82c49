// SPDX-License-Identifier: Apache-2.0
// What all pages of a document say, kept beside it, so that looking through it again takes
// milliseconds.
//
//   auto index = lumvet::TextIndex::of(document).value();
//   index.save(file).value();
//   index.find(lumvet::TextSearch::of("swing bridge").value(),
//              [](const lumvet::IndexHits& found) -> lumvet::Status {
//                std::cout << found.page + 1 << '\n';
//                return lumvet::Done{};
//              });
//
// Copies share it. Threads: immutable, share freely. Since: 0.2
#pragma once

#include <functional>
#include <memory>
#include <string_view>
#include <vector>

#include "lumvet/io/byte_sink.h"
#include "lumvet/text/text_search.h"

namespace lumvet {

struct IndexHits {
  int page = 0;           // from 0
  std::string_view text;  // PageWords::text of it, as long as the index lives
  std::vector<TextSpan> spans;
  // What goes on onto the next page, as in PageHits, and what that says.
  std::vector<HitAcross> across = {};
  std::string_view next = {};
};

class LUMVET_EXPORT TextIndex {
 public:
  // Reads all pages. Errors: as read_pages'; limit for more than 4 GiB of text.
  static Result<TextIndex> of(const Document& document, const ReadOptions& options = {});
  // What save() wrote. Errors: malformed for what is damaged, or something else; unsupported for
  // one of a later version.
  static Result<TextIndex> load(Bytes bytes);
  // Errors: as the sink's.
  Status save(ByteSink& sink) const;

  // Whether it was made of these bytes: they are as many, and alike in their first and last 16 KiB,
  // where a change that was saved shows; one that was put into the middle by hand, of the same
  // length, does not. Errors: io, need_more_data.
  Result<bool> is_of(const Document& document) const;
  int page_count() const;
  std::string_view text(int page) const;  // of a page below page_count()

  // In the order of pages. An error of `take` ends it and is returned. Errors: limit, when a
  // pattern takes too long.
  using Take = std::function<Status(const IndexHits& found)>;
  Status find(const TextSearch& search, const Take& take) const;

  std::size_t memory() const;  // bytes

 private:
  struct Impl;
  explicit TextIndex(std::shared_ptr<const Impl> impl) : impl_(std::move(impl)) {}

  std::shared_ptr<const Impl> impl_;
};

}  // namespace lumvet

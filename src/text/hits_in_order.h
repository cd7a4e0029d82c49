// SPDX-License-Identifier: Apache-2.0
// What is found on pages, given in order once it is known what goes on onto the next.
//
// Threads: one thread at a time.
#pragma once

#include <cstddef>
#include <deque>
#include <functional>
#include <map>
#include <optional>
#include <set>

#include "lumvet/text/text_search.h"
#include "text/edge_rows.h"

namespace lumvet::text {

struct SearchedPage {
  PageWords words;
  std::vector<TextSpan> hits;
  Edges edges;

  static Result<SearchedPage> of(const TextSearch& search, PageWords words);
};

// Pages come by add() in the order in which they are looked through. One is given as soon as the
// next and those near that are there, or none is left.
class HitsInOrder {
 public:
  // A page that could not be looked through, or whose end could not; an error of it ends the work.
  using Told = std::function<Status(int page, const Error& error)>;

  explicit HitsInOrder(TextSearch search) : search_(std::move(search)) {}

  // What is to be called from now on, and how many pages are given counted from zero.
  void begin(TakeHits take, Told told);
  Status add(int page, Result<SearchedPage> read);
  Status finish();

  std::size_t given() const { return given_; }

 private:
  struct Known {
    SearchedPage page;
    bool is_joined = false;  // what goes on onto the next page was looked for
  };
  struct Waiting {
    int page = 0;
    std::optional<Error> error;  // that it could not be looked through for
  };

  Status give(const Waiting& waiting);
  Status join(int page, PageHits& found);
  TextSpan body(int page) const;
  void forget_far_from(int page);

  TextSearch search_;
  TakeHits take_;
  Told told_;
  std::deque<Waiting> waiting_;
  std::map<int, Known> known_;
  std::set<int> awaited_;  // pages that have not arrived
  std::size_t given_ = 0;
};

}  // namespace lumvet::text

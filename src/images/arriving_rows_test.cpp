// SPDX-License-Identifier: Apache-2.0
#include "images/arriving_rows.h"

#include <thread>
#include <vector>

#include "base/allowance.h"
#include "tests/support/catch.h"

using namespace lumvet;
using images::ArrivingRows;

namespace {

// Rows that hold their number once they are there; every third call gives no row, the others one.
struct Source {
  static constexpr int kRows = 500;
  std::vector<int> rows = std::vector<int>(kRows, -1);
  int calls = 0;
  int there = 0;
  int decode() {
    if (++calls % 3 != 0) {
      rows[static_cast<std::size_t>(there)] = there;
      ++there;
    }
    return there;
  }
};

}  // namespace

TEST_CASE("rows are decoded as far as they are needed, each once", "[images]") {
  Source source;
  ArrivingRows rows(Source::kRows, [&] { return source.decode(); });
  rows.need(0);
  CHECK(source.there == 1);
  rows.need(99);
  rows.need(20);
  CHECK(source.there == 100);
  {
    const CancelToken cancel;
    const Allowance allowance({}, cancel);
    cancel.cancel();
    rows.run_ahead();
  }
  CHECK(source.there == 100);
  rows.run_ahead();
  CHECK(source.there == Source::kRows);
  CHECK(source.calls == 749);
}

TEST_CASE("many threads find each row there, whoever runs ahead and stops", "[images]") {
  for (int round = 0; round < 20; ++round) {
    Source source;
    ArrivingRows rows(Source::kRows, [&] { return source.decode(); });
    CancelToken cancel;
    std::atomic<int> wrong = 0;
    {
      std::vector<std::jthread> threads;
      threads.emplace_back([&] {
        const Allowance allowance({}, cancel);
        rows.run_ahead();
      });
      for (int t = 0; t < 4; ++t)
        threads.emplace_back([&, t] {
          for (int row = t; row < Source::kRows; row += 1 + t) {
            rows.need(row);
            if (source.rows[static_cast<std::size_t>(row)] != row) ++wrong;
            if (row > 100) cancel.cancel();
          }
        });
    }
    CHECK(wrong == 0);
    CHECK(source.there == Source::kRows);
  }
}

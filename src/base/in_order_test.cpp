// SPDX-License-Identifier: Apache-2.0
#include "base/in_order.h"

#include "tests/support/catch.h"

using namespace lumvet;

TEST_CASE("what was made ahead is not handed out once the work is cancelled", "[base]") {
  constexpr std::size_t kCount = 6;
  for (const std::size_t threads : {std::size_t{1}, std::size_t{2}, std::size_t{6}}) {
    const CancelToken cancel;
    std::atomic<std::size_t> made = 0;
    std::size_t taken = 0;
    const Status status = work_in_order<std::size_t>(
        kCount, threads, kCount, cancel,
        [&](std::size_t i, const CancelToken& wanted) -> Result<std::size_t> {
          ++made;
          if (wanted.is_cancelled()) return Error(ErrorCode::cancelled, "making was cancelled");
          return i;
        },
        [&](std::size_t i, std::size_t value) -> Status {
          CHECK(value == i);
          ++taken;
          while (threads > 1 && made < kCount) std::this_thread::yield();
          cancel.cancel();
          return Done{};
        });
    REQUIRE_FALSE(status.ok());
    CHECK(status.error().code() == ErrorCode::cancelled);
    CHECK(taken == 1);
  }
}

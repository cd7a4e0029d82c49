// SPDX-License-Identifier: Apache-2.0
#include "base/allowance.h"

#include <thread>

#include "base/parallel.h"
#include "tests/support/catch.h"

using namespace lumvet;

namespace {

constexpr std::uint64_t kMemory = 1000;

Result<int> within(const Limits& limits, const CancelToken& cancel,
                   const std::function<void()>& work) {
  return attempted([&]() -> Result<int> {
    const Allowance allowance(limits, cancel);
    work();
    return 7;
  });
}

ErrorCode code_of(const Result<int>& result) {
  REQUIRE_FALSE(result.ok());
  return result.error().code();
}

}  // namespace

TEST_CASE("what is cancelled goes on no more, and the attempt ends with that", "[base]") {
  const CancelToken cancel;
  int turns = 0;
  const auto ended = within({}, cancel, [&] {
    for (; goes_on() && turns < 1'000'000; ++turns)
      if (turns == 500) cancel.cancel();
    CHECK_FALSE(Allowance::goes_on_now());
    CHECK(go_on().error().code() == ErrorCode::cancelled);
  });
  CHECK(code_of(ended) == ErrorCode::cancelled);
  CHECK(turns > 500);
  CHECK(turns < 1000);  // it is looked at now and then
  CHECK(*within({}, {}, [] { CHECK(goes_on()); }) == 7);
}

TEST_CASE("time ends an attempt, without end it does not", "[base]") {
  const auto wait = [] { std::this_thread::sleep_for(std::chrono::milliseconds(20)); };
  const auto late = within({.page_milliseconds = 1}, {}, [&] {
    wait();
    CHECK_FALSE(Allowance::goes_on_now());
  });
  CHECK(code_of(late) == ErrorCode::limit);
  CHECK_THAT(late.error().message(), Catch::Contains("Limits::page_milliseconds"));
  CHECK(within({.page_milliseconds = 0}, {}, [&] {
          wait();
          CHECK(Allowance::goes_on_now());
        }).ok());
}

TEST_CASE("memory is counted while it is taken, and given back", "[base]") {
  const auto too_much = within({.page_memory = kMemory}, {}, [] {
    for (int i = 0; i < 10; ++i) {
      const TakenMemory some(kMemory);
      CHECK(some.status().ok());
    }
    CHECK(Allowance::take(kMemory / 2));
    TakenMemory more(kMemory / 2);
    CHECK(more.status().ok());
    CHECK_FALSE(more.more(1));
    CHECK_FALSE(goes_on());
  });
  CHECK(code_of(too_much) == ErrorCode::limit);
  CHECK_THAT(too_much.error().message(), Catch::Contains("Limits::page_memory"));
  CHECK(code_of(within({.page_memory = kMemory}, {}, [] { Allowance::take(~std::uint64_t{0}); })) ==
        ErrorCode::limit);
}

TEST_CASE("what was too much for an inner allowance is given back to the outer one exactly",
          "[base]") {
  const Allowance outer({.page_memory = kMemory}, {});
  {
    const Allowance inner({.page_memory = kMemory / 2}, {});
    const TakenMemory too_much(kMemory);
    CHECK_FALSE(too_much.status().ok());
  }
  CHECK(Allowance::take(kMemory));
  CHECK_FALSE(Allowance::take(1));
}

TEST_CASE("an allowance within another keeps to both, and helper threads to whose work they do",
          "[base]") {
  const CancelToken outer;
  const auto ended = within({.page_memory = kMemory}, outer, [&] {
    {
      const Allowance inner({}, {});
      CHECK(Allowance::take(kMemory));
      outer.cancel();
      CHECK_FALSE(Allowance::goes_on_now());
    }
  });
  CHECK(code_of(ended) == ErrorCode::cancelled);
  std::atomic<int> seen = 0;
  const auto shared = within({.page_memory = kMemory}, {}, [&] {
    share_out(8, 4, [&](int, std::size_t) {
      if (Allowance::take(kMemory / 4)) ++seen;
    });
  });
  CHECK(code_of(shared) == ErrorCode::limit);
  CHECK(seen <= 4);
}

TEST_CASE("values that are followed stop an attempt, those of several files together", "[base]") {
  const int one = 0;
  const int other = 0;
  constexpr std::uint64_t kAllowed = 1 << 20;
  const auto follow = [&](std::uint64_t bytes, bool both) {
    return attempted([&]() -> Result<int> {
      CHECK(Attempt::follow_in(&one, kAllowed));
      if (both) CHECK(Attempt::follow_in(&other, kAllowed));
      CHECK(Attempt::follow_in(&one, kAllowed));  // entitles once
      for (std::uint64_t done = 0; done < bytes; done += 1024)
        if (!Attempt::follow(1024)) break;
      return 7;
    });
  };
  CHECK(follow(kAllowed / 2, false).ok());
  CHECK(code_of(follow(kAllowed * 3 / 2, false)) == ErrorCode::limit);
  CHECK(follow(kAllowed * 3 / 2, true).ok());
  CHECK_THAT(follow(kAllowed * 3, true).error().message(),
             Catch::Contains("Limits::followed_bytes"));
  CHECK(Attempt::follow(~std::uint32_t{0}));  // outside of any nobody counts
}

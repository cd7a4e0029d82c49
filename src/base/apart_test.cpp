// SPDX-License-Identifier: Apache-2.0
#include "base/apart.h"

#include <stdexcept>
#include <vector>

#include "tests/support/catch.h"

using namespace lumvet;

namespace {

// Ends when it is let go, whatever anybody wants.
class Stubborn {
 public:
  std::function<int(const std::atomic<bool>&)> work() const {
    return [let_go = let_go_](const std::atomic<bool>&) {
      let_go.wait();
      return 1;
    };
  }
  void let_go() { promise_.set_value(); }

 private:
  std::promise<void> promise_;
  std::shared_future<void> let_go_ = promise_.get_future().share();
};

void wait_until_left_behind(int count) {
  while (threads_left_behind() != count) std::this_thread::yield();
}

}  // namespace

TEST_CASE("work apart gives what it made, or throws", "[base]") {
  CHECK(run_apart<int>([](const std::atomic<bool>& is_unwanted) { return is_unwanted ? 0 : 7; }) ==
        7);
  CHECK_THROWS_AS(run_apart<int>([](const std::atomic<bool>&) -> int { throw std::bad_alloc(); }),
                  std::bad_alloc);
  CHECK(threads_left_behind() == 0);
}

TEST_CASE("nobody waits for work apart once it is cancelled, but behind four that go on",
          "[base]") {
  const CancelToken cancel;
  const Attempt attempt;
  const Allowance allowance(Limits(), cancel);
  cancel.cancel();
  Stubborn stubborn;
  for (int i = 1; i <= 4; ++i) {
    CHECK_FALSE(run_apart<int>(stubborn.work()));
    CHECK(threads_left_behind() == i);
  }
  std::atomic<bool> is_through = false;
  CHECK_FALSE(run_apart<int>([&](const std::atomic<bool>& is_unwanted) {
    while (!is_unwanted) std::this_thread::yield();
    is_through = true;
    return 2;
  }));
  CHECK(is_through);
  CHECK(threads_left_behind() == 4);
  stubborn.let_go();
  wait_until_left_behind(0);
}

// SPDX-License-Identifier: Apache-2.0
#include "file/recently_used.h"

#include <string>

#include "tests/support/catch.h"

using lumvet::file::RecentlyUsed;

TEST_CASE("what was used lately is kept, within the budget", "[file]") {
  RecentlyUsed<int, std::string> kept(100);
  for (int i = 0; i < 1000; ++i) {
    CHECK(kept.keep(i, std::to_string(i), 10) == std::to_string(i));
    CHECK(kept.find(0) == "0");  // used all the time
  }
  int count = 0;
  for (int k = 1; k < 1000; ++k) count += kept.find(k).has_value();
  CHECK(count <= 10);
  CHECK(kept.find(999) == "999");
  kept.clear();
  CHECK_FALSE(kept.find(999));
}

TEST_CASE("the first value kept under a key stays", "[file]") {
  RecentlyUsed<int, int> kept(100);
  CHECK(kept.keep(1, 10, 4) == 10);
  CHECK(kept.keep(1, 11, 4) == 10);
  CHECK(kept.find(1) == 10);
}

TEST_CASE("what is greater than the whole budget is kept by itself", "[file]") {
  RecentlyUsed<int, int> kept(100);
  kept.keep(1, 1, 4);
  kept.keep(2, 2, 5000);
  CHECK(kept.find(2) == 2);
  kept.keep(3, 3, 4);
  kept.keep(4, 4, 60);
  CHECK_FALSE(kept.find(2));
  CHECK(kept.find(3) == 3);
}

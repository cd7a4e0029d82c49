// SPDX-License-Identifier: Apache-2.0
#include "base/chunked_list.h"

#include <memory>

#include "tests/support/catch.h"

using lumvet::ChunkedList;

TEST_CASE("a chunked list keeps its order and its places while it grows", "[base]") {
  ChunkedList<std::unique_ptr<int>> list;
  CHECK(list.empty());
  list.push_back(std::make_unique<int>(0));
  for (int i = 1; i < 1000; ++i) list.push_back(std::make_unique<int>(i));
  const auto* const place = &list[300];
  for (int i = 1000; i < 5000; ++i) list.push_back(std::make_unique<int>(i));
  CHECK(place == &list[300]);
  int next = 0;
  for (const auto& value : list) CHECK(*value == next++);
  CHECK(next == 5000);
  CHECK(*list.back() == 4999);
}

TEST_CASE("a chunked list is cut at either end", "[base]") {
  ChunkedList<int> list;
  for (int i = 0; i < 700; ++i) list.push_back(i);
  list.drop_first();
  CHECK(list.size() == 699);
  CHECK(list[0] == 1);
  for (const std::size_t count : {600u, 511u, 256u, 255u, 1u}) {
    list.truncate(count);
    CHECK(list.size() == count);
    CHECK(list.back() == static_cast<int>(count));
    list.push_back(-5);
    CHECK(list[count] == -5);
    list.truncate(count);
  }
  list.truncate(0);
  CHECK(list.empty());
  list.push_back(9);
  CHECK(list[0] == 9);
}

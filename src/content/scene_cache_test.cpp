// SPDX-License-Identifier: Apache-2.0
#include "lumvet/content/scene_cache.h"
#include "content/scene_data.h"

#include <thread>

#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using test::PdfBuilder;

namespace {

Page page(int rectangles) {
  PdfBuilder pdf;
  std::string content;
  for (int i = 0; i < rectangles; ++i) content += "0 0 10 " + std::to_string(i + 1) + " re f ";
  return test::open(pdf.page(content).finish())->page(0).value();
}

}  // namespace

TEST_CASE("a page is recorded once while there is room for its scene", "[content]") {
  SceneCache scenes;
  const Page one = page(3);
  const Page other = page(4);
  const Scene first = scenes.get(one).value();
  CHECK(&data_of(*scenes.get(one)) == &data_of(first));
  CHECK(scenes.get(other)->operation_count() == 4);  // of another document
  CHECK(&data_of(*scenes.get(one)) == &data_of(first));
  scenes.clear();
  CHECK(&data_of(*scenes.get(one)) != &data_of(first));

  SceneCache small(1000);
  const Scene large = small.get(page(500)).value();
  CHECK(large.memory() > 1000);
  const Scene again = small.get(one).value();
  for (int i = 10; i < 14; ++i) REQUIRE(small.get(page(i)).ok());
  CHECK(&data_of(*small.get(one)) != &data_of(again));
}

TEST_CASE("a cancelled page is not kept, and many threads may ask", "[content]") {
  SceneCache scenes;
  const Page one = page(50);
  const CancelToken cancel;
  cancel.cancel();
  CHECK(scenes.get(one, cancel).error().code() == ErrorCode::cancelled);
  std::vector<std::jthread> readers;
  std::atomic<int> good = 0;
  for (int i = 0; i < 8; ++i)
    readers.emplace_back([&] { good += scenes.get(one)->operation_count() == 50; });
  readers.clear();
  CHECK(good == 8);
}

// SPDX-License-Identifier: Apache-2.0
#include "render/glyph_cache.h"

#include "base/allowance.h"
#include "base/attempt.h"
#include "tests/support/catch.h"

using namespace lumvet;
using rendering::GlyphCache;

namespace {

std::shared_ptr<Path> square(double side) {
  auto path = std::make_shared<Path>();
  path->add_rect({0, 0, side, side});
  return path;
}

}  // namespace

TEST_CASE("a glyph is made into edges once for each size, wherever it stands", "[render]") {
  GlyphCache cache;
  const auto outline = square(10);
  const auto first = cache.get(outline, {2, 0, 0, 2, 30, 40});
  CHECK(first == cache.get(outline, {2, 0, 0, 2, 7, 5}));
  CHECK(first != cache.get(outline, {3, 0, 0, 2, 30, 40}));
  // Around its origin, in 1/256 pixel.
  CHECK(first->box.x0 == 0);
  CHECK(first->box.x1 == 20 * 256);
  CHECK(first->box.y1 == 20 * 256);
}

TEST_CASE("another outline at the address of one that is gone has edges of its own", "[render]") {
  GlyphCache cache;
  // Each time the same address, and somebody else who owns it.
  Path place;
  place.add_rect({0, 0, 10, 10});
  const auto of_place = [&] { return std::shared_ptr<const Path>(&place, [](const Path*) {}); };
  CHECK(cache.get(of_place(), {1, 0, 0, 1, 0, 0})->box.x1 == 10 * 256);
  place = Path();
  place.add_rect({0, 0, 4, 4});
  CHECK(cache.get(of_place(), {1, 0, 0, 1, 0, 0})->box.x1 == 4 * 256);
}

TEST_CASE("a glyph that was made while its page ended is made again", "[render]") {
  GlyphCache cache;
  const auto outline = square(10);
  const Status ended = attempted([&]() -> Status {
    const CancelToken cancel;
    cancel.cancel();
    const Allowance allowance(Limits{}, cancel);
    CHECK_FALSE(Allowance::goes_on_now());
    CHECK(cache.get(outline, {1, 0, 0, 1, 0, 0})->edges.empty());
    return Done{};
  });
  CHECK_FALSE(ended.ok());
  CHECK_FALSE(cache.get(outline, {1, 0, 0, 1, 0, 0})->edges.empty());
}

TEST_CASE("glyphs that are more than some pages need are forgotten", "[render]") {
  GlyphCache cache;
  const auto outline = square(10);
  const auto kept = cache.get(outline, {1, 0, 0, 1, 0, 0});
  cache.trim();
  CHECK(kept == cache.get(outline, {1, 0, 0, 1, 0, 0}));
  for (int i = 0; i < 2500; ++i) cache.get(outline, {2 + i / 100.0, 0, 0, 1, 0, 0});
  cache.trim();
  CHECK(kept != cache.get(outline, {1, 0, 0, 1, 0, 0}));
}

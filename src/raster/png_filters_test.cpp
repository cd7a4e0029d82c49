// SPDX-License-Identifier: Apache-2.0
#include "raster/png_filters.h"

#include <cstdlib>
#include <random>

#include "lumvet/base/bytes.h"
#include "tests/support/catch.h"

using namespace lumvet;

namespace {

// As 9.2 and 9.4 define them, in whole numbers.
int predicted(std::size_t kind, int left, int above, int corner) {
  if (kind == 1) return left;
  if (kind == 2) return above;
  if (kind == 3) return (left + above) / 2;
  const int estimate = left + above - corner;
  const int to_left = std::abs(estimate - left);
  const int to_above = std::abs(estimate - above);
  const int to_corner = std::abs(estimate - corner);
  if (to_left <= to_above && to_left <= to_corner) return left;
  return to_above <= to_corner ? above : corner;
}

}  // namespace

TEST_CASE("rows are filtered as the standard says, and their differences summed", "[raster]") {
  std::mt19937 random(11);
  const std::size_t pixel = GENERATE(1, 3);
  // Values that are near each other, too, where the choices of Paeth are close.
  const unsigned spread = GENERATE(3U, 256U);
  for (const std::size_t bytes : {1, 3, 40, 700, 9001}) {
    CAPTURE(bytes, pixel, spread);
    Bytes row(bytes);
    Bytes above(bytes);
    for (Bytes* one : {&row, &above})
      for (std::uint8_t& byte : *one) byte = static_cast<std::uint8_t>(254 + random() % spread);
    for (std::size_t kind = 1; kind <= 4; ++kind) {
      Bytes out(bytes);
      const std::size_t sum =
          raster::kPngFilters[kind - 1](row.data(), above.data(), bytes, pixel, out.data());
      Bytes expected(bytes);
      std::size_t all = 0;
      for (std::size_t i = 0; i < bytes; ++i) {
        const bool has_left = i >= pixel;
        const int value = row[i] - predicted(kind, has_left ? row[i - pixel] : 0, above[i],
                                             has_left ? above[i - pixel] : 0);
        expected[i] = static_cast<std::uint8_t>(value);
        all += static_cast<std::size_t>(std::abs(static_cast<std::int8_t>(expected[i])));
      }
      CHECK(out == expected);
      CHECK(sum == all);
    }
  }
}

// SPDX-License-Identifier: Apache-2.0
#include "lumvet/compare/comparison.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "compare/different_places.h"
#include "lumvet/render/render.h"

namespace lumvet {
namespace {

constexpr double kMostPixels = 16e6;  // of a page that is looked at

using Pairs = CompareOptions::Pairs;

Result<std::vector<PageComparison>> paired(const Document& before, const Document& after,
                                           Pairs pairs) {
  std::vector<PageComparison> all;
  if (pairs == Pairs::by_number) {
    for (int i = 0; i < std::max(before.page_count(), after.page_count()); ++i)
      all.push_back({i < before.page_count() ? std::optional(i) : std::nullopt,
                     i < after.page_count() ? std::optional(i) : std::nullopt,
                     {}});
    return all;
  }
  std::map<ObjectId, int> places;
  for (int i = 0; i < before.page_count(); ++i) {
    LUMVET_TRY(const Page page, before.page(i));
    places.emplace(page.id(), i);
  }
  std::vector<bool> is_there(static_cast<std::size_t>(before.page_count()));
  for (int i = 0; i < after.page_count(); ++i) {
    LUMVET_TRY(const Page page, after.page(i));
    const auto same = places.find(page.id());
    const bool is_found = page.id() != ObjectId() && same != places.end();
    if (is_found) is_there[static_cast<std::size_t>(same->second)] = true;
    all.push_back({is_found ? std::optional(same->second) : std::nullopt, i, {}});
  }
  for (int i = 0; i < before.page_count(); ++i) {
    if (is_there[static_cast<std::size_t>(i)]) continue;
    // Behind the page that it stood behind.
    const auto last = std::find_if(all.rbegin(), all.rend(), [&](const PageComparison& each) {
      return each.before && *each.before < i;
    });
    all.insert(last.base(), PageComparison{i, std::nullopt, {}});
  }
  return all;
}

Result<Raster> seen(const Page& page, double dpi, const CompareOptions& options) {
  return render(page, {.dpi = dpi, .record = options.record, .cancel = options.cancel});
}

Result<std::vector<PageArea>> places_of(const Page& before, const Page& after,
                                        const CompareOptions& options) {
  const bool same_size = before.width() == after.width() && before.height() == after.height();
  if (!same_size) return std::vector{PageArea{0, 0, after.width(), after.height()}};
  const double inches = after.width() * after.height() / (72.0 * 72.0);
  const double dpi = std::min(options.dpi, std::sqrt(kMostPixels / std::max(inches, 1e-6)));
  LUMVET_TRY(const Raster old_pixels, seen(before, dpi, options));
  LUMVET_TRY(const Raster pixels, seen(after, dpi, options));
  const double points = 72 / dpi;
  std::vector<PageArea> places;
  for (const auto& box : compare::different_places(old_pixels, pixels, options.tolerance))
    places.push_back({box.left * points, box.top * points,
                      std::min((box.right - box.left) * points, after.width()),
                      std::min((box.bottom - box.top) * points, after.height())});
  return places;
}

}  // namespace

Result<std::vector<PageComparison>> compare_pages(const Document& before, const Document& after,
                                                  const CompareOptions& options) {
  if (!(options.dpi > 0))
    return Error(ErrorCode::invalid_argument, "pages are looked at by more than 0 pixels an inch");
  LUMVET_TRY(std::vector<PageComparison> all, paired(before, after, options.pairs));
  for (std::size_t i = 0; i < all.size(); ++i) {
    if (options.cancel.is_cancelled())
      return Error(ErrorCode::cancelled, "comparing the pages was stopped");
    PageComparison& each = all[i];
    if (each.before && each.after) {
      LUMVET_TRY(const Page old_page, before.page(*each.before));
      LUMVET_TRY(const Page page, after.page(*each.after));
      LUMVET_TRY(each.places, places_of(old_page, page, options));
    }
    if (options.progress) options.progress(i + 1, all.size());
  }
  return all;
}

}  // namespace lumvet

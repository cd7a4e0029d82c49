// SPDX-License-Identifier: Apache-2.0
// How documents load, drawn: every request as a bar over time, documents side by side.
//
//   const auto chart = lumvet::loading_chart({{"manual.pdf", before}, {"web.pdf", after}}).value();
//   lumvet::render(chart.page(0).value()).value().write_png("loading.png");
//
// Threads: free functions. Since: 0.2
#pragma once

#include <string>
#include <vector>

#include "lumvet/fonts/font_supply.h"
#include "lumvet/linear/loading.h"

namespace lumvet {

struct ChartedLoading {
  std::string name = {};  // UTF-8
  LoadingReport report = {};
};

// A document of one page, 840 by 525 points; all bars to one scale. Errors: invalid_argument
// without any loading, or for more than 4; unsupported when there is no font to write with.
LUMVET_EXPORT Result<Document> loading_chart(const std::vector<ChartedLoading>& loadings,
                                             const FontSupply& fonts = FontSupply());

}  // namespace lumvet

// SPDX-License-Identifier: Apache-2.0
// How documents load, drawn: every request as a bar over time, documents side by side.
//
// Threads: free functions.
#pragma once

#include <string>
#include <vector>

#include <lumvet/document/document.h>
#include <lumvet/linear/loading.h>

namespace tool {

struct ChartedLoading {
  std::string name = {};  // UTF-8
  lumvet::LoadingReport report = {};
};

// A document of one page, 840 by 525 points; all bars to one scale. Errors: invalid_argument
// without any loading, or for more than 4; unsupported when there is no font to write with.
lumvet::Result<lumvet::Document> loading_chart(const std::vector<ChartedLoading>& loadings);

}  // namespace tool

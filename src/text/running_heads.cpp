// SPDX-License-Identifier: Apache-2.0
#include "lumvet/text/running_heads.h"

#include <algorithm>

#include "text/edge_rows.h"

namespace lumvet {

std::vector<std::vector<TextSpan>> running_heads(const std::vector<PageWords>& pages) {
  constexpr std::size_t kNear = text::kNearPages;
  std::vector<text::Edges> edges;
  edges.reserve(pages.size());
  for (const PageWords& page : pages) edges.push_back(text::edges_of(page));
  std::vector<std::vector<TextSpan>> heads;
  heads.reserve(pages.size());
  for (std::size_t i = 0; i < pages.size(); ++i) {
    std::vector<const text::Edges*> near;
    for (std::size_t k = i > kNear ? i - kNear : 0; k < std::min(pages.size(), i + kNear + 1); ++k)
      if (k != i) near.push_back(&edges[k]);
    heads.push_back(text::heads_of(pages[i], edges[i], near));
  }
  return heads;
}

}  // namespace lumvet

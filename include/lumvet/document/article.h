// SPDX-License-Identifier: Apache-2.0
// Articles: texts that go on from one part of a page to another (ISO 32000-2, 12.4.3).
//
// Threads: values. Since: 0.2
#pragma once

#include <optional>
#include <vector>

#include "lumvet/document/metadata.h"
#include "lumvet/geometry/matrix.h"

namespace lumvet {

struct ArticlePart {
  std::optional<int> page = {};  // from 0; nothing when it leads to no page
  Rect area;                     // in the page's own space
  bool operator==(const ArticlePart&) const = default;
};

struct Article {
  DocumentInfo properties = {};         // its title, author and so on, as the document has them
  std::vector<ArticlePart> parts = {};  // in reading order
};

}  // namespace lumvet

// SPDX-License-Identifier: Apache-2.0
// What a Flow holds, and how it becomes strips.
//
// Threads: as Flow's.
#pragma once

#include <optional>
#include <variant>
#include <vector>

#include "compose/strips.h"
#include "lumvet/compose/flow.h"

namespace lumvet::compose {

struct HeadingBlock {
  Paragraph text;
  int level = 1;
  std::string name;
};
struct ListBlock {
  std::vector<Paragraph> items;
  bool is_numbered = false;
  int first = 1;
  int depth = 0;
};
struct PictureBlock {
  Picture picture;
  double width = 0;
  std::string description;
  std::optional<Flow::Side> side = {};  // with text beside it
};
struct ChartBlock {
  Chart chart;
  double height = 0;
};
struct DrawingBlock {
  Drawing drawing;
  std::string description;
};
struct SpaceBlock {
  double height = 0;
  bool breaks_page = false;
};
struct ContentsBlock {
  int levels = 2;
};

using Block = std::variant<HeadingBlock, Paragraph, ListBlock, Table, PictureBlock, ChartBlock,
                           DrawingBlock, SpaceBlock, ContentsBlock>;

struct FlowData {
  FlowOptions options;
  std::vector<Block> blocks;

  double column_width() const {
    const int columns = std::max(1, options.columns);
    return (options.paper.width - options.margins.left - options.margins.right -
            options.between_columns * (columns - 1)) /
           columns;
  }
  double column_height() const {
    return options.paper.height - options.margins.top - options.margins.bottom;
  }
};

// The pages that headings are on, by their numbers; none as long as that is not known.
using HeadingPages = std::vector<int>;

// How high the strips are of blocks that say on which pages headings are; none without such blocks.
// Errors: as Flow::as_document's.
Result<std::vector<double>> heights_telling_pages(const FlowData& flow, const HeadingPages& pages);

// All blocks set, one below the other, as they are asked for; all that it is given stays meanwhile.
// Errors, also of the source: as Flow::as_document's.
StripSource strips_of(const FlowData& flow, const HeadingPages& pages,
                      std::vector<Finding>& findings);

}  // namespace lumvet::compose

// SPDX-License-Identifier: Apache-2.0
// What lies over letters and below them on a page, by which some cannot be seen.
//
// Only what surely hides what is below it is taken to cover: fills of one opaque color and images
// without a mask, in upright rectangles. Where the color below is not known letters are seen.
//
// Threads: immutable, share freely.
#pragma once

#include <array>
#include <cstdint>
#include <optional>
#include <vector>

#include "content/scene_data.h"
#include "lumvet/text/page_words.h"

namespace lumvet::text {

class Sight {
 public:
  explicit Sight(const content::SceneData& scene);

  // Of all letters of a run that lies within a box of display space, where nothing reaches into it
  // that some of them may be over or below.
  std::optional<Visibility> of_all(const content::TextRun& run, const Rect& box) const;
  // Of a letter of a run, by a box within it, in display space.
  Visibility of(const content::TextRun& run, const Rect& letter) const;

 private:
  static constexpr std::size_t kCells = 16;  // each way

  struct Cover {
    std::uint32_t operation;
    Rect box;
    bool hides = false;      // all that is below it
    bool has_color = false;  // one, everywhere
    std::array<std::uint8_t, 3> color{};
  };

  void find_covers();
  void add(const Cover& cover);
  std::size_t column_of(double x) const { return cell_of(x, scene_.bounds.width()); }
  std::size_t row_of(double y) const { return cell_of(y, scene_.bounds.height()); }
  static std::size_t cell_of(double at, double size);

  const content::SceneData& scene_;
  std::vector<Cover> covers_;                                      // as they are drawn
  std::array<std::vector<std::uint32_t>, kCells * kCells> cells_;  // covers that reach into each
};

}  // namespace lumvet::text

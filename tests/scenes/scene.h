// SPDX-License-Identifier: Apache-2.0
// Drawings that a drawing library writes once as a document and once as pixels: what ours is held
// against, and raced with.
#pragma once

#include <cairo.h>

#include <cmath>
#include <functional>
#include <string>
#include <vector>

namespace test {

inline constexpr int kSize = 240;  // points, each way

using Draw = std::function<void(cairo_t*)>;

struct OracleScene {
  std::string name;
  Draw draw;
};

std::vector<OracleScene> path_scenes();
std::vector<OracleScene> gradient_scenes();
std::vector<OracleScene> image_scenes();
std::vector<OracleScene> blending_scenes();
std::vector<OracleScene> text_scenes();

inline std::vector<OracleScene> oracle_scenes() {
  std::vector<OracleScene> all;
  for (auto part :
       {path_scenes(), gradient_scenes(), image_scenes(), blending_scenes(), text_scenes()})
    all.insert(all.end(), part.begin(), part.end());
  return all;
}

}  // namespace test

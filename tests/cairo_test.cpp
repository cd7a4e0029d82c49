// SPDX-License-Identifier: Apache-2.0
// Scenes that cairo writes once as a document and once as pixels. Our drawing of the former has to
// look like the latter.
#include <iostream>

#include "tests/scenes/compare.h"
#include "tests/support/catch.h"

using namespace test;

TEST_CASE("our drawing looks like cairo's of the same scene, in 98 of 100 scenes", "[oracle]") {
  const std::vector<OracleScene> scenes = oracle_scenes();
  REQUIRE(scenes.size() >= 120);
  int alike = 0;
  for (const OracleScene& scene : scenes) {
    CAPTURE(scene.name);
    const lumvet::Document document = lumvet::Document::open(as_document(scene.draw)).value();
    const lumvet::Scene recorded = lumvet::Scene::record(document.page(0).value()).value();
    CHECK(document.findings().empty());
    bool is_alike = true;
    for (const double scale : {1.0, 2.0}) {
      const Difference difference =
          Comparison(as_our_pixels(recorded, scale), as_pixels(scene.draw, scale), pixels_at(scale))
              .measure();
      CHECK(difference.drawn > 0.02);  // an empty scene would agree with anything
      // Cairo leaves the rims of meshes jagged; ours are smooth.
      const bool has_rims = scene.name == "mesh" || scene.name == "nine patches";
      const bool good =
          difference.mean < (has_rims ? 3 : 2) && difference.far_off < (has_rims ? 0.01 : 0.005);
      if (!good || std::getenv("LUMVET_SHOW_DIFFERENCES") != nullptr)
        std::cerr << scene.name << " at " << scale << ": mean " << difference.mean << ", far off "
                  << difference.far_off * 100 << " %\n";
      is_alike = is_alike && good;
      // Even those that differ in a detail are the same drawing.
      CHECK(difference.mean < 8);
      CHECK(difference.far_off < 0.05);
    }
    alike += is_alike;
  }
  CHECK(alike >= 0.98 * static_cast<double>(scenes.size()));
}

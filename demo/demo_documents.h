// SPDX-License-Identifier: Apache-2.0
// The documents of the bridge office.
#pragma once

#include <filesystem>

#include "document_maker.h"

namespace demo {

// Sixteen pages: cover, contents, summary, condition, six bridges, measures, sign-off, a page of
// bars and a pie, readings over three pages.
lumvet::Status make_report(const Fonts& fonts, const std::filesystem::path& path);
// Four drawings, A3 and A4, one turned, one cropped.
lumvet::Status make_annex(const Fonts& fonts, const std::filesystem::path& path);
// A form to be filled in on the bridge: tagged, with fields, marks and a layer for the yard.
lumvet::Status make_inspection(const Fonts& fonts, const std::filesystem::path& path);
// Eleven inspection sheets of one day, scanned one by one, and a note that is no document.
lumvet::Status make_scans(const Fonts& fonts, const std::filesystem::path& folder);
// A maintenance manual of `pages` pages; with photos on two of five it is some 20 MB on 3,200.
lumvet::Status make_manual(const Fonts& fonts, const std::filesystem::path& path, int pages,
                           bool with_photos);

// The bridges that all of them speak of.
struct Bridge {
  const char* name;
  const char* river;
  int built;
  double length;  // metres
  int grade;      // 1 good to 5 closed
  const char* finding;
};
inline constexpr Bridge kBridges[] = {
    {"Alder Weir footbridge", "Ostrel", 1961, 42.5, 2,
     "Coating on the downstream handrail has come off over some 3 m; the steel beneath shows light "
     "rust only. The "
     "deck boards are sound. Two bolts of the northern bearing were loose and were tightened on "
     "site."},
    {"Merrow Ford bridge", "Ostrel", 1934, 28.0, 3,
     "The masonry of the middle pier is washed out below the waterline to a depth of 12 cm. Divers "
     "should look at the "
     "foundation before the autumn floods. The parapet leans by 8 mm more than last year."},
    {"Tannery steps", "Lesser Ostrel", 1988, 17.2, 1,
     "No defects worth noting. The drain at the western landing was blocked by leaves and has been "
     "cleared. Lighting "
     "works, lamp 4 flickers when cold."},
    {"Quarry suspension bridge", "Pell", 1926, 36.8, 4,
     "Three hangers on the eastern cable have broken strands. The bridge was limited to ten "
     "persons on the spot and a "
     "sign put up. The anchor block is dry and without cracks."},
    {"Hollin Mill crossing", "Pell", 1974, 21.4, 2,
     "Joint sealant at both abutments is brittle and should be renewed with the next painting. The "
     "clearance plate is "
     "hard to read. Timber moisture 17 percent at all six points."},
    {"St Orrin's walkway", "Ostrel", 2009, 64.0, 1,
     "The walkway is in very good condition. The tuned damper at midspan moves freely; its oil was "
     "topped up. Graffiti "
     "on the southern ramp was reported to the parish."}};

}  // namespace demo

// SPDX-License-Identifier: Apache-2.0
// Pictures as pages: a stack of scans becomes a document.
//
//   lumvet::Document scans = lumvet::pages_of_pictures({"sheet 1.jpg", "sheet 2.tif"}).value();
//   lumvet::save(scans, "scans.pdf");
//
// JPEG pictures go in as they are, byte for byte; PNG and TIFF lose nothing, opacity and profiles
// come along, and every picture of a TIFF file is a page. Pictures that say which way up they were
// taken stand upright.
// Threads: free functions. Since: 0.2
#pragma once

#include <filesystem>
#include <optional>
#include <vector>

#include "lumvet/assemble/paper.h"
#include "lumvet/document/document.h"

namespace lumvet {

struct PicturePageOptions {
  // Every page is of this size, upright or not as the picture is; without it pages are as large as
  // their pictures.
  std::optional<PaperSize> paper = {};
  double margin = 0;           // points, on all sides of such a page
  double dots_per_inch = 150;  // of pictures that do not say
  Limits limits = {};          // of what they unpack to
};

// Whether a file begins like a picture of a kind that can become a page.
LUMVET_EXPORT bool is_picture_file(const std::filesystem::path& path);

// A document in memory. Errors: io; malformed, unsupported and limit with the picture's name;
// invalid_argument without pictures, or for margins that leave no room.
LUMVET_EXPORT Result<Document> pages_of_pictures(const std::vector<std::filesystem::path>& pictures,
                                                 const PicturePageOptions& options = {});

}  // namespace lumvet

// SPDX-License-Identifier: Apache-2.0
// Images as pages: a stack of scans becomes a document.
//
//   lumvet::Document scans = lumvet::pages_of_images({"sheet 1.jpg", "sheet 2.tif"}).value();
//   lumvet::save(scans, "scans.pdf");
//
// JPEG images go in as they are, byte for byte; PNG and TIFF lose nothing, opacity and profiles
// come along, and every image of a TIFF file is a page. Images that say which way up they were
// taken stand upright.
// Threads: free functions. Since: 0.2
#pragma once

#include <filesystem>
#include <optional>
#include <vector>

#include "lumvet/assemble/paper.h"
#include "lumvet/document/document.h"

namespace lumvet {

struct ImagePageOptions {
  // Every page is of this size, upright or not as the image is; without it pages are as large as
  // their images.
  std::optional<PaperSize> paper = {};
  double margin = 0;           // points, on all sides of such a page
  double dots_per_inch = 150;  // of images that do not say
  Limits limits = {};          // of what they unpack to
};

// Whether a file begins like an image of a kind that can become a page.
LUMVET_EXPORT bool is_image_file(const std::filesystem::path& path);

// A document in memory. Errors: io; malformed, unsupported and limit with the image's name;
// invalid_argument without images, or for margins that leave no room.
LUMVET_EXPORT Result<Document> pages_of_images(const std::vector<std::filesystem::path>& images,
                                               const ImagePageOptions& options = {});

}  // namespace lumvet

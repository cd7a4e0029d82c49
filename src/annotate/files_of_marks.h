// SPDX-License-Identifier: Apache-2.0
// Files that lists of marks name.
//
// Threads: free functions.
#pragma once

#include <filesystem>
#include <optional>
#include <string>

#include "lumvet/annotate/annotations.h"

namespace lumvet::annotate {

// Nothing where there is no file of that name in the folder. Errors: io.
Result<std::optional<NewAttachment>> file_for_mark(const std::filesystem::path& folder,
                                                   const std::string& name);

// A picture, or a page of a document (from 0), for an area of that size in points. Errors: as
// Picture::load's and Document::open's; invalid_argument for a page that there is not.
Result<Drawing> picture_for_mark(const std::filesystem::path& file, int page, double width,
                                 double height);

}  // namespace lumvet::annotate

// SPDX-License-Identifier: Apache-2.0
// Folders as inputs: the documents in them, in the order in which a person would put them.
#pragma once

#include <filesystem>
#include <string_view>
#include <vector>

#include "lumvet/base/export.h"
#include "lumvet/base/result.h"

namespace lumvet {

// Digits count as numbers and case counts last: "sheet 2" before "Sheet 10".
LUMVET_EXPORT bool natural_less(std::string_view a, std::string_view b);

struct FolderListing {
  std::vector<std::filesystem::path> documents = {};    // in natural order
  std::vector<std::filesystem::path> passed_over = {};  // files that are no documents
  // What cannot be read: links that lead nowhere, files without the right to read them.
  std::vector<std::filesystem::path> unreadable = {};
};

// The documents directly in a folder: files named *.pdf, and files that begin as a document does
// whatever their name. Hidden files and folders are not looked at. Errors: io.
LUMVET_EXPORT Result<FolderListing> list_folder(const std::filesystem::path& folder);

}  // namespace lumvet

// SPDX-License-Identifier: Apache-2.0
// Inputs and outputs as they are written on the command line.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include <lumvet/assemble/page_selection.h>
#include <lumvet/document/locked_document.h>

#include "secrets.h"

namespace tool {

// A path, or "-" for standard input.
lumvet::Result<lumvet::LockedDocument> open_locked(const std::string& path);
lumvet::Result<lumvet::Document> open_document(const std::string& path, const Secrets& secrets);

// "annex.pdf@1-2,last", a plain path, or a folder; a file of just that name comes first.
struct PagesOf {
  std::string path;
  std::string pages = "all";
};
PagesOf split_input(const std::string& argument);

// An output's name from "{name}" and "{page}", the latter with as many digits as `page_count` has.
std::filesystem::path fill_pattern(const std::string& pattern, const std::string& name, int page,
                                   int page_count);

// Bytes to standard output. Errors: io.
lumvet::Status write_standard_output(const lumvet::Bytes& bytes);

}  // namespace tool

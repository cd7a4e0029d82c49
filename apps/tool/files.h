// SPDX-License-Identifier: Apache-2.0
// Inputs and outputs as they are written on the command line.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include <lumvet/assemble/inputs.h>
#include <lumvet/assemble/page_selection.h>
#include <lumvet/compose/image_pages.h>
#include <lumvet/document/locked_document.h>
#include <lumvet/io/byte_sink.h>

#include "secrets.h"

namespace tool {

// A path, or "-" for standard input.
lumvet::Result<lumvet::LockedDocument> open_locked(const std::string& path);
lumvet::Result<lumvet::Document> open_document(const std::string& path, const Secrets& secrets);
// The same, or an image, of which pages are made.
lumvet::Result<lumvet::Document> open_input(const std::string& path, const Secrets& secrets,
                                            const lumvet::ImagePageOptions& images = {});

// The indices of chosen pages. Errors: as PageSelection::in's, with the document's name.
lumvet::Result<std::vector<int>> chosen_pages(const lumvet::Document& document,
                                              const lumvet::PageSelection& selection);

// Notes on standard error what of a folder cannot be read, and is left out. Gives how many.
std::size_t note_unreadable(const lumvet::FolderListing& listing);

// Errors: malformed, when something was wrong with it.
lumvet::Status check_undamaged(const lumvet::Document& document);

// "annex.pdf@1-2,last", a plain path, or a folder; a file of just that name comes first.
struct PagesOf {
  std::string path;
  std::string pages = "all";
};
PagesOf split_input(const std::string& argument);

// Errors of write: io.
class StandardOutput final : public lumvet::ByteSink {
 public:
  lumvet::Status write(lumvet::ByteView bytes) override;
};

}  // namespace tool

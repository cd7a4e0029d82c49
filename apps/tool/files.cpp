// SPDX-License-Identifier: Apache-2.0
#include "files.h"

#include <iostream>

#include "console.h"
#include "printable.h"

namespace tool {

namespace fs = std::filesystem;

lumvet::Result<lumvet::LockedDocument> open_locked(const std::string& path) {
  if (path != "-") return lumvet::LockedDocument::open(fs::path(path));
  auto source = lumvet::read_stream_source(std::cin, "standard input");
  if (!source.ok()) return std::move(source).error();
  return lumvet::LockedDocument::open(*std::move(source));
}

lumvet::Result<lumvet::Document> open_document(const std::string& path, const Secrets& secrets) {
  const std::string name = path == "-" ? "standard input" : path;
  LUMVET_TRY(const lumvet::LockedDocument waiting, open_locked(path));
  auto document = unlock(waiting, name, secrets);
  if (!document.ok()) return std::move(document).error().about(name);
  return document;
}

lumvet::Result<lumvet::Document> open_input(const std::string& path, const Secrets& secrets,
                                            const lumvet::ImagePageOptions& images) {
  return lumvet::is_image_file(path) ? lumvet::pages_of_images({path}, images)
                                     : open_document(path, secrets);
}

lumvet::Result<std::vector<int>> chosen_pages(const lumvet::Document& document,
                                              const lumvet::PageSelection& selection) {
  auto pages = selection.in(document.page_count());
  if (!pages.ok())
    return lumvet::Error(pages.error()).during("choosing pages of " + document.name());
  return pages;
}

std::size_t note_unreadable(const lumvet::FolderListing& listing) {
  for (const fs::path& path : listing.unreadable) {
    std::error_code ignored;
    std::cerr << "  note: " << path.string()
              << (fs::is_symlink(path, ignored) && !fs::exists(path, ignored)
                      ? " is a link that leads nowhere"
                      : " cannot be read")
              << ", and was passed over\n";
  }
  return listing.unreadable.size();
}

lumvet::Status check_undamaged(const lumvet::Document& document) {
  const auto findings = document.findings();
  if (findings.empty()) return lumvet::Done{};
  return lumvet::Error(lumvet::ErrorCode::malformed,
                       document.name() + ": damaged, " + findings[0].to_string());
}

PagesOf split_input(const std::string& argument) {
  std::error_code ignored;
  const std::size_t at = argument.rfind('@');
  if (at == std::string::npos || fs::exists(argument, ignored)) return {argument};
  return {argument.substr(0, at), argument.substr(at + 1)};
}

lumvet::Status StandardOutput::write(lumvet::ByteView bytes) {
  std::ostream& out = raw_output();
  out.write(reinterpret_cast<const char*>(bytes.data()),
            static_cast<std::streamsize>(bytes.size()));
  out.flush();
  if (!out) return lumvet::Error(lumvet::ErrorCode::io, "standard output cannot be written");
  return lumvet::Done{};
}

}  // namespace tool

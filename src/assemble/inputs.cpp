// SPDX-License-Identifier: Apache-2.0
#include "lumvet/assemble/inputs.h"

#include <algorithm>
#include <array>
#include <fstream>

#include "base/digits.h"

namespace lumvet {
namespace {

namespace fs = std::filesystem;

char lower(char c) { return c >= 'A' && c <= 'Z' ? static_cast<char>(c - 'A' + 'a') : c; }
// The run of digits at `at` without leading zeros; `at` moves behind it.
std::string_view take_number(std::string_view text, std::size_t& at) {
  const std::size_t start = at;
  while (at < text.size() && is_digit(text[at])) ++at;
  std::string_view digits = text.substr(start, at - start);
  while (digits.size() > 1 && digits[0] == '0') digits.remove_prefix(1);
  return digits;
}

bool has_document_name(const fs::path& path) {
  std::string extension = path.extension().string();
  std::transform(extension.begin(), extension.end(), extension.begin(), lower);
  return extension == ".pdf";
}

bool begins_as_document(const fs::path& path) {
  std::array<char, 1024> head{};
  std::ifstream file(path, std::ios::binary);
  file.read(head.data(), head.size());
  return std::string_view(head.data(), static_cast<std::size_t>(file.gcount())).find("%PDF-") !=
         std::string_view::npos;
}

}  // namespace

bool natural_less(std::string_view a, std::string_view b) {
  std::size_t i = 0;
  std::size_t j = 0;
  while (i < a.size() && j < b.size()) {
    if (is_digit(a[i]) && is_digit(b[j])) {
      const std::string_view left = take_number(a, i);
      const std::string_view right = take_number(b, j);
      if (left.size() != right.size()) return left.size() < right.size();
      if (left != right) return left < right;
      continue;
    }
    if (lower(a[i]) != lower(b[j])) return lower(a[i]) < lower(b[j]);
    ++i;
    ++j;
  }
  if (a.size() - i != b.size() - j) return a.size() - i < b.size() - j;
  return a < b;
}

Result<FolderListing> list_folder(const fs::path& folder) {
  FolderListing listing;
  std::error_code error;
  for (fs::directory_iterator at(folder, error), end; !error && at != end; at.increment(error)) {
    std::error_code ignored;
    const fs::path& path = at->path();
    if (path.filename().string().starts_with(".")) continue;
    const bool leads_nowhere = at->is_symlink(ignored) && !fs::exists(path, ignored);
    if (!leads_nowhere && !at->is_regular_file(ignored)) continue;
    if (leads_nowhere || !std::ifstream(path, std::ios::binary)) {
      listing.unreadable.push_back(path);
      continue;
    }
    const bool document = has_document_name(path) || begins_as_document(path);
    (document ? listing.documents : listing.passed_over).push_back(path);
  }
  if (error)
    return Error(ErrorCode::io,
                 "cannot list the folder " + folder.string() + ": " + error.message());
  const auto by_name = [](const fs::path& a, const fs::path& b) {
    return natural_less(a.filename().string(), b.filename().string());
  };
  std::sort(listing.documents.begin(), listing.documents.end(), by_name);
  std::sort(listing.passed_over.begin(), listing.passed_over.end(), by_name);
  std::sort(listing.unreadable.begin(), listing.unreadable.end(), by_name);
  return listing;
}

}  // namespace lumvet

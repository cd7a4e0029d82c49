// SPDX-License-Identifier: Apache-2.0
#include "lumvet/assemble/split.h"

#include <algorithm>
#include <set>

#include "document/tree_builder.h"
#include "lumvet/io/file_name.h"

namespace lumvet {
namespace {

namespace fs = std::filesystem;

// So many digits that names sort as numbers do.
std::string padded(std::size_t number, std::size_t of) {
  std::string text = std::to_string(number);
  return std::string(std::to_string(of).size() - text.size(), '0') + text;
}

Result<std::string> filled(const std::string& pattern, const Document& document,
                           const SplitPart& part, std::size_t number, std::size_t of) {
  std::string name;
  for (std::size_t at = 0; at < pattern.size();) {
    if (pattern[at] != '{') {
      name += pattern[at++];
      continue;
    }
    const std::size_t end = std::min(pattern.find('}', at), pattern.size());
    const std::string word = pattern.substr(at + 1, end - at - 1);
    if (word == "name") {
      name += fs::path(document.name()).stem().string();
    } else if (word == "part") {
      name += padded(number, of);
    } else if (word == "title") {
      name += part.title;
    } else if (word == "label") {
      LUMVET_TRY(const std::string label, document.page_label(part.pages.front()));
      name += label;
    } else {
      return Error(ErrorCode::invalid_argument,
                   "names know {name}, {part}, {label} and {title}, but not {" + word + "}");
    }
    at = end + 1;
  }
  return name;
}

}  // namespace

Result<std::vector<fs::path>> split_names(const Document& document,
                                          const std::vector<SplitPart>& parts,
                                          const SplitOptions& options) {
  std::vector<fs::path> paths;
  std::set<std::string> taken;
  for (std::size_t i = 0; i < parts.size(); ++i) {
    LUMVET_TRY(const std::string text,
               filled(options.names, document, parts[i], i + 1, parts.size()));
    std::string name = safe_file_name(text);
    if (name.empty()) name = padded(i + 1, parts.size());
    name =
        document::free_name(name, [&](const std::string& other) { return taken.contains(other); });
    taken.insert(name);
    paths.push_back(options.folder / (name + ".pdf"));
  }
  return paths;
}

Result<std::vector<SaveReport>> split(const Document& document, const SplitRule& rule,
                                      const SplitOptions& options) {
  LUMVET_TRY(const std::vector<SplitPart> parts, rule.parts_of(document, options));
  return split(document, parts, options);
}

Result<std::vector<SaveReport>> split(const Document& document, const std::vector<SplitPart>& parts,
                                      const SplitOptions& options) {
  LUMVET_TRY(const std::vector<fs::path> paths, split_names(document, parts, options));
  std::error_code error;
  for (const fs::path& path : paths)
    if (!options.save.replace && fs::exists(path, error))
      return Error(ErrorCode::exists, path.string() + " is already there; nothing was written");
  const bool is_new_folder = fs::create_directories(options.folder, error);
  if (error)
    return Error(ErrorCode::io,
                 "cannot make the folder " + options.folder.string() + ": " + error.message());
  std::vector<SaveReport> reports;
  std::vector<fs::path> made;
  SaveOptions save = options.save;
  save.progress = {};
  for (std::size_t i = 0; i < parts.size(); ++i) {
    if (options.save.progress) options.save.progress(i, parts.size());
    const bool was_there = fs::exists(paths[i], error);
    Assembly part;
    Status added = part.add(document, PageSelection::of(parts[i].pages), options.carry);
    Result<SaveReport> saved =
        added.ok() ? part.save(paths[i], save) : Result<SaveReport>(std::move(added).error());
    if (!saved.ok()) {
      for (const fs::path& path : made) fs::remove(path, error);
      if (is_new_folder) fs::remove(options.folder, error);
      return std::move(saved).error();
    }
    if (!was_there) made.push_back(paths[i]);
    reports.push_back(*std::move(saved));
  }
  if (options.save.progress) options.save.progress(parts.size(), parts.size());
  return reports;
}

}  // namespace lumvet

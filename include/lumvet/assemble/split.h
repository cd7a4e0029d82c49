// SPDX-License-Identifier: Apache-2.0
// One document cut into several, each with its own part of the outline, labels, fields and places.
//
//   lumvet::Document manual = lumvet::Document::open("manual.pdf").value();
//   auto parts = lumvet::split(manual, lumvet::SplitRule::at_outline(1),
//                              {.folder = "chapters", .names = "{part} {title}"});
//
// All parts are planned and their names looked at before anything is written.
// Threads: free functions; documents may be shared.
#pragma once

#include <filesystem>
#include <functional>
#include <string>
#include <vector>

#include "lumvet/assemble/assembly.h"

namespace lumvet {

// The pages of a part, counted from 0.
struct SplitPart {
  std::vector<int> pages = {};
  std::string title = {};  // of the outline's entry that it begins with; empty without one
};

struct SplitOptions {
  std::filesystem::path folder = ".";  // made if it is not there
  // {name} of the document, {part} is its number from 1, {label} of its first page, {title}. What
  // file names cannot have is left out; ".pdf" is put behind.
  std::string names = "{name}-{part}";
  Carry carry = {.attachments = false};
  SaveOptions save = {};
};

// Where a document is cut. Since: 0.2
class LUMVET_EXPORT SplitRule {
 public:
  static SplitRule every(int pages);
  // A part begins at each of these pages, counted from 0, and at the first.
  static SplitRule before(std::vector<int> pages);
  // At each entry of the outline down to a level; the outermost are of level 1.
  static SplitRule at_outline(int level = 1);
  // Pages 1, 3, 5 and so on, and pages 2, 4, 6.
  static SplitRule odd_and_even();
  // As many pages as make no file larger than that; a page that alone is larger has a part of its
  // own.
  static SplitRule at_most(std::uint64_t bytes);
  // What is told of a page, from its first on; an error of it ends the splitting.
  using Tells = std::function<Result<bool>(const Page& page)>;
  // At pages that part others, as blank sheets do among scans; they go into no part.
  static SplitRule at_separators(Tells is_separator);
  // A part begins at each page of which that is true, as the first page of every letter says
  // "Dear", and at the first.
  static SplitRule before_those(Tells begins_a_part);

  // Errors: invalid_argument for a rule that makes no sense for the document; as Assembly::save's.
  Result<std::vector<SplitPart>> parts_of(const Document& document,
                                          const SplitOptions& options = {}) const;

 private:
  using Plan = std::function<Result<std::vector<SplitPart>>(const Document&, const SplitOptions&)>;
  explicit SplitRule(Plan plan) : plan_(std::move(plan)) {}

  Plan plan_;
};

// The files that a split makes, in order. Errors: invalid_argument for a pattern that makes no
// sense.
LUMVET_EXPORT Result<std::vector<std::filesystem::path>> split_names(
    const Document& document, const std::vector<SplitPart>& parts, const SplitOptions& options);

// Errors: as SplitRule::parts_of, split_names and Assembly::save; exists, before anything is
// written. When a later part cannot be written, the earlier ones are taken away again.
LUMVET_EXPORT Result<std::vector<SaveReport>> split(const Document& document,
                                                    const std::vector<SplitPart>& parts,
                                                    const SplitOptions& options = {});
LUMVET_EXPORT Result<std::vector<SaveReport>> split(const Document& document, const SplitRule& rule,
                                                    const SplitOptions& options = {});

}  // namespace lumvet

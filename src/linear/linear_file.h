// SPDX-License-Identifier: Apache-2.0
// What a linearized file says of itself: its parameters and where, by its hint tables, its pages
// lie (ISO 32000-2, F.3.3 and F.4).
//
// Threads: immutable, share freely.
#pragma once

#include <optional>

#include "linear/hint_tables.h"
#include "lumvet/document/document.h"

namespace lumvet::linear {

// Counted from the header.
struct FileRange {
  std::uint64_t begin = 0;
  std::uint64_t end = 0;
};

class LinearFile {
 public:
  // Nothing for a file that does not say it is one, be that still true or not.
  static std::optional<LinearFile> of(const Document& document);

  // A parameter; 0 when it is missing or negative.
  std::uint64_t number(const char* key) const;
  std::uint64_t first_page() const { return number("P"); }
  std::uint64_t hints_at() const { return number_at("H", 0); }
  std::uint64_t hints_size() const { return number_at("H", 1); }

  // Errors: malformed when they cannot be read; those of Document::decoded.
  Result<HintTables> tables(const Document& document) const;
  // By page.
  std::vector<FileRange> page_ranges(const HintTables& tables) const;
  // By place in the table of shared objects.
  std::vector<FileRange> group_ranges(const HintTables& tables) const;
  // A place in the tables, which count as if the hint stream were not there.
  std::uint64_t real(std::uint64_t place) const {
    return place >= hints_at() ? place + hints_size() : place;
  }

 private:
  explicit LinearFile(Dict parameters) : parameters_(std::move(parameters)) {}
  std::uint64_t number_at(const char* key, std::size_t i) const;

  Dict parameters_;
};

}  // namespace lumvet::linear

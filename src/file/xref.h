// SPDX-License-Identifier: Apache-2.0
// Cross references: where each object lies (ISO 32000-2, 7.5.4 to 7.5.8).
//
// Threads: const methods may run concurrently.
#pragma once

#include <vector>

#include "base/findings_list.h"
#include "file/xref_section.h"

namespace lumvet::file {

class XrefTable {
 public:
  // Reads every section from the newest back. Errors: malformed when they cannot be read; io,
  // need_more_data, limit.
  static Result<XrefTable> read(const ByteSource& source, std::uint64_t header_offset,
                                const Limits& limits, Findings& findings);
  // One made by looking at the whole file.
  static XrefTable of(std::vector<XrefEntry> entries, Dict trailer);

  // The newest entry; kind `missing` for unknown numbers.
  XrefEntry find(std::uint64_t number) const;
  // One more than the greatest object number.
  std::uint64_t size() const { return size_; }

  const Dict& trailer() const { return trailer_; }  // of the newest section
  bool uses_streams() const { return uses_streams_; }
  // Whether sections or rows are missing, so that objects may exist which nothing leads to.
  bool has_gaps() const { return has_gaps_; }
  // Whether the sections were found wrong and made anew from the objects in the file.
  bool is_rebuilt() const { return is_rebuilt_; }
  // Whether those who know streams are led to other objects than those who know tables alone,
  // although no table calls them free.
  bool shows_two_states() const { return shows_two_states_; }
  // Where the sections lie, newest first; hidden ones of hybrid files are not counted.
  const std::vector<std::uint64_t>& places() const { return places_; }

 private:
  friend class XrefReader;
  struct Level {
    XrefSection section;
    std::optional<XrefSection> hidden;  // what a hybrid file shows only to those who know streams
    XrefEntry find(std::uint64_t number) const;
  };

  void find_two_states();
  void merge_many();

  std::vector<Level> levels_;  // newest first
  std::vector<std::uint64_t> places_;
  Dict trailer_;
  std::uint64_t size_ = 0;
  bool uses_streams_ = false;
  bool has_gaps_ = false;
  bool is_rebuilt_ = false;
  bool shows_two_states_ = false;
};

}  // namespace lumvet::file

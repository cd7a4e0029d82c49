// SPDX-License-Identifier: Apache-2.0
// One cross-reference section: a table (ISO 32000-2, 7.5.4) or a stream (7.5.8). Its rows stay as
// they are in the file and are read when an object is looked up, so that opening a document does
// not depend on how many objects it has.
//
// Threads: const methods may run concurrently.
#pragma once

#include <array>
#include <memory>
#include <optional>
#include <vector>

#include "base/findings_list.h"
#include "file/xref_rows.h"
#include "lumvet/base/limits.h"
#include "lumvet/io/byte_source.h"
#include "lumvet/objects/object.h"

namespace lumvet::file {

struct XrefEntry {
  enum class Kind : std::uint8_t { missing, free, in_file, in_stream };
  std::uint64_t where = 0;   // the offset in the file, or the number of the object stream
  std::uint32_t detail = 0;  // the generation, or the index within the object stream
  Kind kind = Kind::missing;
};

class XrefSection {
 public:
  // Reads the table whose word "xref" ends at `at` in `bytes`, which begin at `base` in the file.
  // `shift` is added to the offsets it gives. Errors: malformed, limit.
  static Result<XrefSection> read_table(const ByteSlice& bytes, std::size_t at, std::uint64_t base,
                                        std::uint64_t shift, const Limits& limits,
                                        Findings& findings);
  // Reads the stream object at `offset`. Errors: malformed, limit, io, need_more_data.
  static Result<XrefSection> read_stream(const std::shared_ptr<const ByteSource>& source,
                                         std::uint64_t offset, std::uint64_t shift,
                                         const Limits& limits, Findings& findings);
  // Of entries found otherwise, by object number.
  static XrefSection of(std::vector<XrefEntry> entries);

  // Kind `missing` for numbers that the section says nothing about.
  XrefEntry find(std::uint64_t number) const;

  // Every number it has an entry for.
  template <typename Visit>
  void for_each_number(Visit visit) const {
    for (const Range& range : ranges_)
      for (std::uint64_t i = 0; i < range.count; ++i) visit(range.first + i);
  }

  const Dict& trailer() const { return trailer_; }
  // One more than the greatest object number.
  std::uint64_t end() const { return end_; }
  bool is_stream() const { return is_stream_; }
  // Whether rows are missing that it announces.
  bool is_short() const { return is_short_; }

 private:
  enum class Form : std::uint8_t { text, binary, listed };
  struct Range {
    std::uint64_t first = 0;
    std::uint64_t count = 0;
    std::uint64_t at = 0;  // of its first row: bytes in text_ or rows_, or an index into listed_
    Form form = Form::listed;
  };

  Status add(const Range& range, const Limits& limits);
  Status read_subsections(std::size_t& at, std::uint64_t base, const Limits& limits,
                          Findings& findings);
  Result<std::size_t> list_rows(Range range, std::size_t at, std::uint64_t base,
                                const Limits& limits, Findings& findings);
  Status read_index(std::uint64_t offset, const Limits& limits, Findings& findings);
  void settle();
  XrefEntry entry_at(const Range& range, std::uint64_t index) const;
  XrefEntry text_entry(std::uint64_t at) const;
  XrefEntry binary_entry(std::uint64_t at) const;

  Dict trailer_;
  ByteSlice text_;                        // of a table
  std::shared_ptr<const XrefRows> rows_;  // of a stream
  std::array<std::size_t, 3> widths_{};   // of a stream's fields, bytes
  std::vector<XrefEntry> listed_;
  std::vector<Range> ranges_;  // by first number, once settled
  std::uint64_t shift_ = 0;
  std::uint64_t end_ = 0;
  bool is_stream_ = false;
  bool is_short_ = false;
};

}  // namespace lumvet::file

// SPDX-License-Identifier: Apache-2.0
#include "file/xref.h"
#include "base/findings_list.h"

#include <set>

#include "file/header.h"
#include "objects/lexer.h"

namespace lumvet::file {

class XrefReader {
 public:
  XrefReader(const ByteSource& source, std::uint64_t header_offset, const Limits& limits,
             Findings& findings)
      : source_(source.shared_from_this()),
        shift_(header_offset),
        limits_(limits),
        findings_(findings) {}

  Result<XrefTable> read() {
    LUMVET_TRY(std::uint64_t offset, find_last_section(*source_));
    std::optional<std::uint64_t> next = offset;
    while (next) {
      if (!visited_.insert(*next).second) {
        findings_.add({"cross-reference sections lead back to one already read", *next, {}});
        break;
      }
      auto before = read_section(*next);
      if (!before.ok()) {
        // The newest section has to be there; objects of lost older ones are looked for.
        if (table_.levels_.empty() || before.error().code() != ErrorCode::malformed)
          return std::move(before).error();
        findings_.add(
            {"an older cross-reference section cannot be read; its objects are looked "
             "for in the whole file",
             *next,
             {}});
        table_.has_gaps_ = true;
        break;
      }
      next = *before;
    }
    if (!table_.trailer_.contains("Root"))
      return Error(ErrorCode::malformed,
                   "the trailer names no catalog, so there are no pages to find")
          .at_offset(offset);
    table_.find_two_states();
    table_.merge_many();
    return std::move(table_);
  }

 private:
  // Reads one section and gives the place of the one before it.
  Result<std::optional<std::uint64_t>> read_section(std::uint64_t stated) {
    Error error(
        ErrorCode::malformed,
        "there are no cross references where the document says; it is damaged or was cut off");
    error.at_offset(stated);
    // Offsets count from "%PDF-", but many writers of files with bytes in front count from 0.
    for (const std::uint64_t offset : {stated + shift_, stated}) {
      constexpr std::uint64_t kBeginning = 64;  // bytes, enough for a word and two numbers
      const Result<ByteSlice> slice = source_->slice(offset, kBeginning);
      if (!slice.ok()) {
        if (slice.error().code() != ErrorCode::malformed) return slice.error();
        continue;
      }
      objects::Lexer lexer(slice->view());
      const Result<objects::Token> first = lexer.next();
      if (!first.ok()) continue;
      const std::uint64_t shift = offset == stated ? 0 : shift_;
      Result<XrefSection> section = error;
      if (first->kind == objects::TokenKind::keyword && first->text == "xref")
        section = read_table(lexer, offset, shift);
      else if (first->kind == objects::TokenKind::integer)
        section = XrefSection::read_stream(source_, offset, shift, limits_, findings_);
      if (!section.ok()) {
        error = std::move(section).error();
        if (error.code() != ErrorCode::malformed) return error;
        continue;
      }
      shift_ = shift;  // the other sections count in the same way
      table_.places_.push_back(offset);
      return follow(*std::move(section));
    }
    return error;
  }

  // A table behind its word "xref": as much of the file as its first numbers let expect, and more
  // while its end is not reached.
  Result<XrefSection> read_table(objects::Lexer& beginning, std::uint64_t offset,
                                 std::uint64_t shift) {
    constexpr std::uint64_t kRow = 20;     // bytes
    constexpr std::uint64_t kRest = 4096;  // of a table, behind its rows
    const std::size_t at = beginning.position();
    const auto first = beginning.next();
    const auto count = beginning.next();
    const bool is_told = first.ok() && count.ok() && count->integer > 0;
    const std::uint64_t rows = is_told ? static_cast<std::uint64_t>(count->integer) : 0;
    const std::uint64_t all = source_->size();
    for (std::uint64_t window = std::min(all, std::min(rows, all / kRow) * kRow + kRest);;
         window = std::min(all, window * 8)) {
      LUMVET_TRY(const ByteSlice bytes, source_->slice(offset, window));
      Findings met;
      Result<XrefSection> section = XrefSection::read_table(bytes, at, offset, shift, limits_, met);
      const bool is_cut = bytes.size() == window && window < all;
      if (!section.ok() && section.error().code() == ErrorCode::malformed && is_cut) continue;
      for (Finding& finding : met.list()) findings_.add(std::move(finding));
      return section;
    }
  }

  Result<std::optional<std::uint64_t>> follow(XrefSection section) {
    const Dict trailer = section.trailer();
    if (table_.levels_.empty()) table_.trailer_ = trailer;
    note(section);
    XrefTable::Level level{std::move(section), {}};
    const Object hybrid = trailer["XRefStm"];
    if (hybrid.is_integer() && hybrid.as_integer() > 0) {
      const auto offset = static_cast<std::uint64_t>(hybrid.as_integer());
      Result<XrefSection> hidden =
          XrefSection::read_stream(source_, offset + shift_, shift_, limits_, findings_);
      if (hidden.ok()) {
        note(*hidden);
        level.hidden = *std::move(hidden);
      } else {
        findings_.add({"the hidden cross references of a hybrid file cannot be read", offset, {}});
        table_.has_gaps_ = true;
      }
    }
    table_.levels_.push_back(std::move(level));
    const Object previous = trailer["Prev"];
    if (!previous.is_number()) return std::optional<std::uint64_t>();
    if (previous.as_integer() <= 0) {
      // Some writers put 0 to say that there is none.
      if (previous.as_integer() < 0) {
        findings_.add(
            {"a cross-reference section names an impossible place for the one before it", {}, {}});
        table_.has_gaps_ = true;
      }
      return std::optional<std::uint64_t>();
    }
    return std::optional(static_cast<std::uint64_t>(previous.as_integer()));
  }

  void note(const XrefSection& section) {
    table_.size_ = std::max(table_.size_, section.end());
    table_.uses_streams_ = table_.uses_streams_ || section.is_stream();
    table_.has_gaps_ = table_.has_gaps_ || section.is_short();
  }

  std::shared_ptr<const ByteSource> source_;
  std::uint64_t shift_;
  const Limits& limits_;
  Findings& findings_;
  XrefTable table_;
  std::set<std::uint64_t> visited_;
};

Result<XrefTable> XrefTable::read(const ByteSource& source, std::uint64_t header_offset,
                                  const Limits& limits, Findings& findings) {
  return XrefReader(source, header_offset, limits, findings).read();
}

XrefTable XrefTable::of(std::vector<XrefEntry> entries, Dict trailer) {
  XrefTable table;
  table.size_ = entries.size();
  table.levels_.push_back({XrefSection::of(std::move(entries)), {}});
  table.trailer_ = std::move(trailer);
  table.is_rebuilt_ = true;
  return table;
}

XrefEntry XrefTable::Level::find(std::uint64_t number) const {
  const XrefEntry entry = section.find(number);
  // Tables of hybrid files call hidden objects free (7.5.8.4).
  const bool open = entry.kind == XrefEntry::Kind::missing || entry.kind == XrefEntry::Kind::free;
  if (!open || !hidden) return entry;
  const XrefEntry behind = hidden->find(number);
  return behind.kind == XrefEntry::Kind::missing ? entry : behind;
}

XrefEntry XrefTable::find(std::uint64_t number) const {
  for (const Level& level : levels_)
    if (const XrefEntry entry = level.find(number); entry.kind != XrefEntry::Kind::missing)
      return entry;
  return {};
}

// Hidden objects whose numbers tables know as those of others.
void XrefTable::find_two_states() {
  for (auto level = levels_.begin(); level != levels_.end() && !shows_two_states_; ++level) {
    if (!level->hidden) continue;
    level->hidden->for_each_number([&](std::uint64_t number) {
      const XrefEntry seen = level->hidden->find(number);
      if (seen.kind == XrefEntry::Kind::missing || seen.kind == XrefEntry::Kind::free) return;
      // What tables alone say: this one, or one before it.
      auto older = level;
      XrefEntry stated = older->section.find(number);
      while (stated.kind == XrefEntry::Kind::missing && ++older != levels_.end())
        stated = older->section.find(number);
      const bool is_used =
          stated.kind != XrefEntry::Kind::missing && stated.kind != XrefEntry::Kind::free;
      if (is_used && (stated.where != seen.where || stated.kind != seen.kind))
        shows_two_states_ = true;
    });
  }
}

// A file updated a thousand times would be asked a thousand times for every object.
void XrefTable::merge_many() {
  constexpr std::size_t kFew = 12;
  if (levels_.size() <= kFew) return;
  std::vector<XrefEntry> entries(size_);
  for (const Level& level : levels_) {
    const auto take = [&](std::uint64_t number) {
      if (entries[number].kind == XrefEntry::Kind::missing) entries[number] = level.find(number);
    };
    level.section.for_each_number(take);
    if (level.hidden) level.hidden->for_each_number(take);
  }
  levels_.clear();
  levels_.push_back({XrefSection::of(std::move(entries)), {}});
}

}  // namespace lumvet::file

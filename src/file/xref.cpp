// SPDX-License-Identifier: Apache-2.0
#include "file/xref.h"

#include <algorithm>
#include <array>
#include <set>

#include "base/budget.h"
#include "file/object_reader.h"
#include "filters/stream_decoder.h"
#include "objects/parser.h"

namespace lumvet::file {
namespace {

using objects::Parser;
using objects::References;

constexpr std::uint64_t kHeaderWithin = 1024;  // where readers look for "%PDF-"
constexpr std::uint64_t kTailWithin = 2048;    // where readers look for "startxref"

// Nothing to follow yet: everything in cross-reference streams has to be direct.
class NoResolver final : public objects::Resolver {
 public:
  Object resolve(const Object& object) const override {
    return object.is_reference() ? Object() : object;
  }
};

// What a file that is no PDF document probably is, for the message.
std::string_view likely_kind(std::string_view head) {
  struct Mark {
    std::string_view start;
    std::string_view kind;
  };
  static constexpr std::array<Mark, 9> kMarks = {
      {{"\x89PNG", "a PNG picture"},
       {"\xFF\xD8\xFF", "a JPEG picture"},
       {"II*", "a TIFF picture"},
       {"MM\0*", "a TIFF picture"},
       {"PK\x03\x04", "a ZIP archive or office document"},
       {"%!PS", "a PostScript document"},
       {"{\\rtf", "a rich-text document"},
       {"<!", "a web page"},
       {"<html", "a web page"}}};
  for (const Mark& mark : kMarks)
    if (head.starts_with(mark.start)) return mark.kind;
  return {};
}

class Reader {
 public:
  Reader(const ByteSource& source, const Limits& limits, Findings& findings)
      : source_(source.shared_from_this()), limits_(limits), findings_(findings) {}

  Result<XrefTable> read() {
    LUMVET_CHECK(find_header());
    LUMVET_TRY(std::uint64_t offset, find_start());
    std::optional<std::uint64_t> next = offset;
    while (next) {
      if (!visited_.insert(*next).second) {
        findings_.add({"cross-reference sections lead back to one already read", *next, {}});
        break;
      }
      LUMVET_TRY(next, read_section(*next));
    }
    if (!table_.trailer.contains("Root"))
      return Error(ErrorCode::malformed,
                   "the trailer names no catalog, so there are no pages to find")
          .at_offset(offset);
    return std::move(table_);
  }

 private:
  Status find_header() {
    if (source_->size() == 0) return Error(ErrorCode::malformed, "the file is empty");
    LUMVET_TRY(const ByteSlice head, source_->slice(0, kHeaderWithin));
    const std::string_view text = as_text(head.view());
    const std::size_t at = text.find("%PDF-");
    if (at == std::string_view::npos) {
      std::string message = "this is not a PDF document";
      if (const std::string_view kind = likely_kind(text); !kind.empty())
        message += "; it looks like " + std::string(kind);
      return Error(ErrorCode::malformed, message).at_offset(0);
    }
    table_.header_offset = at;
    std::size_t end = at + 5;
    while (end < text.size() && (text[end] == '.' || (text[end] >= '0' && text[end] <= '9'))) ++end;
    table_.version = text.substr(at + 5, end - at - 5);
    return Done{};
  }

  Result<std::uint64_t> find_start() {
    const std::uint64_t size = source_->size();
    const std::uint64_t from = size > kTailWithin ? size - kTailWithin : 0;
    LUMVET_TRY(const ByteSlice tail, source_->slice(from, kTailWithin));
    const std::size_t at = as_text(tail.view()).rfind("startxref");
    if (at == std::string_view::npos)
      return Error(ErrorCode::malformed,
                   "the end of the document is missing; it was probably cut off while being copied "
                   "or fetched, so get it again")
          .at_offset(size);
    Parser parser(tail.view(), at + 9, References::none, 0);
    const Result<Object> number = parser.value();
    if (!number.ok() || !number->is_integer() || number->as_integer() < 0)
      return Error(ErrorCode::malformed, "the place of the cross references is not given")
          .at_offset(from + at);
    return static_cast<std::uint64_t>(number->as_integer());
  }

  // Reads one section and gives the place of the one before it.
  Result<std::optional<std::uint64_t>> read_section(std::uint64_t stated) {
    ++table_.sections;
    Error error(
        ErrorCode::malformed,
        "there are no cross references where the document says; it is damaged or was cut off");
    error.at_offset(stated);
    // Offsets count from "%PDF-", but many writers of files with bytes in front count from 0.
    for (const std::uint64_t offset : {stated + table_.header_offset, stated}) {
      const Result<ByteSlice> slice = source_->slice(offset, source_->size());
      if (!slice.ok()) {
        if (slice.error().code() != ErrorCode::malformed) return slice.error();
        continue;
      }
      objects::Lexer lexer(slice->view());
      const Result<objects::Token> first = lexer.next();
      if (!first.ok()) continue;
      if (offset == stated) table_.header_offset = 0;  // so entries count from 0 as well
      Result<Dict> trailer = Dict();
      if (first->kind == objects::TokenKind::keyword && first->text == "xref")
        trailer = read_table(slice->view(), lexer.position(), offset);
      else if (first->kind == objects::TokenKind::integer)
        trailer = read_stream(offset);
      else
        continue;
      if (!trailer.ok()) {
        error = std::move(trailer).error();
        if (error.code() != ErrorCode::malformed) return error;
        continue;
      }
      return follow(*trailer);
    }
    return error;
  }

  Result<std::optional<std::uint64_t>> follow(const Dict& trailer) {
    if (table_.trailer.is_empty()) table_.trailer = trailer;
    const Object hybrid = trailer["XRefStm"];
    if (hybrid.is_integer() && hybrid.as_integer() > 0) {
      const auto offset = static_cast<std::uint64_t>(hybrid.as_integer());
      if (visited_.insert(offset).second) {
        const Result<Dict> read = read_stream(offset + table_.header_offset);
        if (!read.ok())
          findings_.add(
              {"the hidden cross references of a hybrid file cannot be read", offset, {}});
      }
    }
    const Object previous = trailer["Prev"];
    if (!previous.is_number()) return std::optional<std::uint64_t>();
    if (previous.as_integer() <= 0) {
      findings_.add(
          {"a cross-reference section names an impossible place for the one before it", {}, {}});
      return std::optional<std::uint64_t>();
    }
    return std::optional(static_cast<std::uint64_t>(previous.as_integer()));
  }

  // The first section that mentions an object counts, since sections are read newest first.
  Status put(std::uint64_t number, const XrefEntry& entry) {
    if (number >= limits_.objects)
      return Error(ErrorCode::limit,
                   "object number " + std::to_string(number) + " is beyond Limits::objects");
    if (number >= table_.entries.size()) table_.entries.resize(number + 1);
    XrefEntry& kept = table_.entries[number];
    if (kept.kind == XrefEntry::Kind::missing) kept = entry;
    return Done{};
  }

  static std::optional<std::uint64_t> read_digits(ByteView bytes, std::size_t& at) {
    while (at < bytes.size() && objects::is_white(bytes[at])) ++at;
    const std::size_t start = at;
    std::uint64_t value = 0;
    constexpr std::size_t kMostDigits = 19;
    while (at < bytes.size() && bytes[at] >= '0' && bytes[at] <= '9' && at - start < kMostDigits)
      value = value * 10 + (bytes[at++] - std::uint64_t{'0'});
    if (at == start) return std::nullopt;
    return value;
  }

  Result<Dict> read_table(ByteView bytes, std::size_t at, std::uint64_t base) {
    const auto broken = [&](const char* what) {
      return Error(ErrorCode::malformed, what).at_offset(base + at);
    };
    while (auto first = read_digits(bytes, at)) {
      const auto count = read_digits(bytes, at);
      if (!count) return broken("a cross-reference table without an entry count");
      for (std::uint64_t i = 0; i < *count; ++i) {
        const std::size_t entry_at = at;
        const auto where = read_digits(bytes, at);
        const auto generation = read_digits(bytes, at);
        while (at < bytes.size() && objects::is_white(bytes[at])) ++at;
        const char letter = at < bytes.size() ? static_cast<char>(bytes[at]) : '\0';
        if (!where || !generation || (letter != 'n' && letter != 'f')) {
          findings_.add({"a cross-reference table is shorter than it says", base + entry_at, {}});
          at = entry_at;
          break;
        }
        ++at;
        constexpr std::uint64_t kHeadOfFreeList = 65535;
        if (i == 0 && *first == 1 && letter == 'f' && *generation == kHeadOfFreeList) {
          findings_.add({"a cross-reference table counts its objects from 1; 0 was taken",
                         base + entry_at,
                         {}});
          first = 0;
        }
        XrefEntry entry{*where, static_cast<std::uint32_t>(*generation),
                        letter == 'n' ? XrefEntry::Kind::in_file : XrefEntry::Kind::free};
        if (entry.kind == XrefEntry::Kind::in_file) entry.where += table_.header_offset;
        LUMVET_CHECK(put(*first + i, entry));
      }
    }
    Parser parser(bytes, at, References::allowed, limits_.nesting);
    const Result<objects::Parsed> word = parser.next();
    if (!word.ok() || word->keyword != "trailer")
      return broken("a cross-reference table without a trailer");
    LUMVET_TRY(const Object trailer, parser.value());
    return trailer.as_dict();
  }

  Result<Dict> read_stream(std::uint64_t offset) {
    const LengthLookup no_lookup = [](ObjectId) { return Object(); };
    LUMVET_TRY(const IndirectObject object,
               read_object_at(source_, offset, no_lookup, limits_.nesting, findings_));
    const Stream* stream = object.value.as_stream();
    if (stream == nullptr || !stream->dict["Type"].is_name("XRef"))
      return Error(ErrorCode::malformed,
                   "there is no cross-reference stream where one is said to be")
          .at_offset(offset);
    table_.uses_streams = true;
    Budget budget(limits_);
    LUMVET_TRY(const ByteSlice content,
               filters::decode_whole(*stream, NoResolver(), budget, findings_));
    LUMVET_CHECK(read_stream_entries(stream->dict, content.view(), offset));
    return stream->dict;
  }

  Status read_stream_entries(const Dict& dict, ByteView content, std::uint64_t offset) {
    std::array<std::size_t, 3> widths{};
    const Array& stated = dict["W"].as_array();
    for (std::size_t i = 0; i < 3; ++i) {
      const std::int64_t width = i < stated.size() ? stated[i].as_integer() : -1;
      if (width < 0 || width > 8)
        return Error(ErrorCode::malformed, "a cross-reference stream with impossible field widths")
            .at_offset(offset);
      widths[i] = static_cast<std::size_t>(width);
    }
    const std::size_t row = widths[0] + widths[1] + widths[2];
    if (row == 0)
      return Error(ErrorCode::malformed, "a cross-reference stream with empty rows")
          .at_offset(offset);
    Array index = dict["Index"].as_array();
    if (index.size() < 2) index = {Object(0), dict["Size"]};
    std::size_t at = 0;
    for (std::size_t pair = 0; pair + 1 < index.size(); pair += 2) {
      const std::int64_t first = index[pair].as_integer(-1);
      const std::int64_t count = index[pair + 1].as_integer(-1);
      if (first < 0 || count < 0)
        return Error(ErrorCode::malformed, "a cross-reference stream with an impossible /Index")
            .at_offset(offset);
      for (std::int64_t i = 0; i < count; ++i, at += row) {
        if (row > content.size() - at) {
          findings_.add({"a cross-reference stream is shorter than it says", offset, {}});
          return Done{};
        }
        LUMVET_CHECK(put(static_cast<std::uint64_t>(first) + static_cast<std::uint64_t>(i),
                         stream_entry(content.subspan(at, row), widths)));
      }
    }
    return Done{};
  }

  XrefEntry stream_entry(ByteView row, const std::array<std::size_t, 3>& widths) const {
    std::array<std::uint64_t, 3> fields = {1, 0, 0};  // the type is 1 when its field has no width
    std::size_t at = 0;
    for (std::size_t field = 0; field < 3; ++field) {
      if (widths[field] > 0) fields[field] = 0;
      for (std::size_t i = 0; i < widths[field]; ++i)
        fields[field] = fields[field] << 8 | row[at++];
    }
    XrefEntry entry;
    entry.where = fields[1];
    entry.detail = static_cast<std::uint32_t>(fields[2]);
    switch (fields[0]) {
      case 0: entry.kind = XrefEntry::Kind::free; break;
      case 1:
        entry.kind = XrefEntry::Kind::in_file;
        entry.where += table_.header_offset;
        break;
      case 2: entry.kind = XrefEntry::Kind::in_stream; break;
      default: break;  // types to come read as null objects (7.5.8.3)
    }
    return entry;
  }

  std::shared_ptr<const ByteSource> source_;
  const Limits& limits_;
  Findings& findings_;
  XrefTable table_;
  std::set<std::uint64_t> visited_;
};

}  // namespace

Result<XrefTable> read_cross_references(const ByteSource& source, const Limits& limits,
                                        Findings& findings) {
  return Reader(source, limits, findings).read();
}

}  // namespace lumvet::file

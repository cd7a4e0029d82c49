// SPDX-License-Identifier: Apache-2.0
#include "file/header.h"

#include <algorithm>
#include <array>
#include <optional>

#include "objects/parser.h"

namespace lumvet::file {
namespace {

constexpr std::string_view kMark = "%PDF-";
constexpr std::uint64_t kHeaderWithin = 1024;  // where readers look for it first
constexpr std::uint64_t kTailWithin = 2048;    // where readers look for "startxref"

// What a file that is no PDF document probably is, for the message.
std::string_view likely_kind(std::string_view head) {
  struct Mark {
    std::string_view start;
    std::string_view kind;
  };
  static constexpr std::array<Mark, 9> kMarks = {
      {{"\x89PNG", "a PNG image"},
       {"\xFF\xD8\xFF", "a JPEG image"},
       {"II*", "a TIFF image"},
       {"MM\0*", "a TIFF image"},
       {"PK\x03\x04", "a ZIP archive or office document"},
       {"%!PS", "a PostScript document"},
       {"{\\rtf", "a rich-text document"},
       {"<!", "a web page"},
       {"<html", "a web page"}}};
  for (const Mark& mark : kMarks)
    if (head.starts_with(mark.start)) return mark.kind;
  return {};
}

std::string version_at(std::string_view text, std::size_t at) {
  std::size_t end = at;
  while (end < text.size() && (text[end] == '.' || (text[end] >= '0' && text[end] <= '9'))) ++end;
  return std::string(text.substr(at, end - at));
}

// Behind what other programs put in front, such as the headers of a message.
Result<std::optional<Header>> find_far_header(const ByteSource& source) {
  constexpr std::uint64_t kStep = 4096;
  constexpr std::uint64_t kFarthest = 256 * 1024;
  for (std::uint64_t from = kHeaderWithin - kMark.size(); from < std::min(source.size(), kFarthest);
       from += kStep) {
    constexpr std::uint64_t kOver = 16;  // bytes, for what lies across a border
    LUMVET_TRY(const ByteSlice piece, source.slice(from, kStep + kOver));
    const std::string_view text = as_text(piece.view());
    const std::size_t at = text.find(kMark);
    if (at == std::string_view::npos) continue;
    return std::optional(
        Header{from + at, version_at(text, at + kMark.size()),
               "the header stands " + std::to_string(from + at) + " bytes behind the beginning"});
  }
  return std::optional<Header>();
}

// What programs once wrote in its place: "%!PS-Adobe-3.0 PDF-1.4" (7.5.2).
std::optional<Header> find_old_header(std::string_view text) {
  constexpr std::string_view kOldMark = "PDF-";
  if (!text.starts_with("%!PS-Adobe-")) return std::nullopt;
  const std::string_view line = text.substr(0, text.find_first_of("\r\n"));
  const std::size_t at = line.find(kOldMark);
  if (at == std::string_view::npos) return std::nullopt;
  return Header{0, version_at(line, at + kOldMark.size()), "the header is of an old kind"};
}

bool has_objects(std::string_view text) {
  const std::size_t at = text.find(" obj");
  return at != std::string_view::npos && at > 0 && text[at - 1] >= '0' && text[at - 1] <= '9';
}

}  // namespace

Result<Header> find_header(const ByteSource& source) {
  if (source.size() == 0) return Error(ErrorCode::malformed, "the file is empty");
  LUMVET_TRY(const ByteSlice head, source.slice(0, kHeaderWithin));
  const std::string_view text = as_text(head.view());
  const std::size_t at = text.find(kMark);
  if (at != std::string_view::npos) return Header{at, version_at(text, at + kMark.size())};
  if (auto old = find_old_header(text)) return *std::move(old);
  const std::string_view kind = likely_kind(text);
  LUMVET_TRY(std::optional<Header> far, find_far_header(source));
  if (far && kind.empty()) return *std::move(far);
  if (kind.empty() && has_objects(text))
    return Header{0, "", "the header is missing; the file was read as it is"};
  std::string message = "not a PDF document";
  if (!kind.empty()) message += "; it looks like " + std::string(kind);
  return Error(ErrorCode::malformed, message).at_offset(0);
}

Result<std::uint64_t> find_last_section(const ByteSource& source) {
  const std::uint64_t size = source.size();
  const std::uint64_t from = size > kTailWithin ? size - kTailWithin : 0;
  LUMVET_TRY(const ByteSlice tail, source.slice(from, kTailWithin));
  const std::size_t at = as_text(tail.view()).rfind("startxref");
  if (at == std::string_view::npos)
    return Error(ErrorCode::malformed,
                 "the end of the document is missing; it was probably cut off while being copied "
                 "or fetched")
        .at_offset(size);
  objects::Parser parser(tail.view(), at + 9, objects::References::none, 0);
  const Result<Object> number = parser.value();
  if (!number.ok() || !number->is_integer() || number->as_integer() < 0)
    return Error(ErrorCode::malformed, "the place of the cross references is not given")
        .at_offset(from + at);
  return static_cast<std::uint64_t>(number->as_integer());
}

}  // namespace lumvet::file

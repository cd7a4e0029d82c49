// SPDX-License-Identifier: Apache-2.0
#include "file/header.h"

#include <array>

#include "objects/parser.h"

namespace lumvet::file {
namespace {

constexpr std::uint64_t kHeaderWithin = 1024;  // where readers look for "%PDF-"
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

}  // namespace

Result<Header> find_header(const ByteSource& source) {
  if (source.size() == 0) return Error(ErrorCode::malformed, "the file is empty");
  LUMVET_TRY(const ByteSlice head, source.slice(0, kHeaderWithin));
  const std::string_view text = as_text(head.view());
  const std::size_t at = text.find("%PDF-");
  if (at == std::string_view::npos) {
    std::string message = "not a PDF document";
    if (const std::string_view kind = likely_kind(text); !kind.empty())
      message += "; it looks like " + std::string(kind);
    return Error(ErrorCode::malformed, message).at_offset(0);
  }
  std::size_t end = at + 5;
  while (end < text.size() && (text[end] == '.' || (text[end] >= '0' && text[end] <= '9'))) ++end;
  return Header{at, std::string(text.substr(at + 5, end - at - 5))};
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

// SPDX-License-Identifier: Apache-2.0
#include "file/object_reader.h"
#include "base/findings_list.h"

#include <algorithm>
#include <optional>

#include "file/scan.h"
#include "objects/parser.h"

namespace lumvet::file {
namespace {

using objects::Lexer;
using objects::Parsed;
using objects::Parser;
using objects::References;
using objects::Token;
using objects::TokenKind;

constexpr std::uint64_t kFirstWindow = 4096;  // bytes, enough for most objects
constexpr std::size_t kSearchPiece = 64 * 1024;
constexpr std::string_view kEndOfStream = "endstream";

// What stands before a stream's bytes, with places counted from the object's start.
struct Head {
  ObjectId id;
  Object value;
  std::optional<std::size_t> data_start;  // of a stream
};

// Reads on in spite of damage when `damages` is given.
Result<Head> parse_head(ByteView bytes, int nesting, bool& touched_end,
                        std::vector<objects::Damage>* damages) {
  Parser parser(bytes, 0, References::allowed, nesting);
  if (damages != nullptr) parser.tolerate(*damages);
  Lexer& lexer = parser.lexer();
  const auto give_up = [&](Error error) {
    touched_end = touched_end || lexer.touched_end();
    return error;
  };
  const auto no_object = [&] {
    return give_up(Error(ErrorCode::malformed, "no object begins here").at_offset(0));
  };
  Head head;
  const Result<Token> number = lexer.next();
  if (!number.ok() || number->kind != TokenKind::integer) return no_object();
  const Result<Token> generation = lexer.next();
  if (!generation.ok() || generation->kind != TokenKind::integer) return no_object();
  const Result<Token> word = lexer.next();
  if (!word.ok() || word->kind != TokenKind::keyword || !word->text.starts_with("obj"))
    return no_object();
  // "obj" may be written together with a number that follows it.
  if (word->text.size() > 3) lexer.seek(word->offset + 3);
  head.id = {static_cast<std::uint32_t>(number->integer),
             static_cast<std::uint16_t>(generation->integer)};
  Result<Parsed> value = parser.next();
  if (!value.ok()) return give_up(std::move(value).error());
  if (value->kind == Parsed::Kind::end) {
    touched_end = true;
    return Error(ErrorCode::malformed, "the file ends inside an object").at_offset(value->offset);
  }
  if (value->kind == Parsed::Kind::keyword) {
    if (value->keyword == "endobj") return head;  // an empty object reads as null
    return give_up(Error(ErrorCode::malformed, "'" + value->keyword + "' where a value should be")
                       .at_offset(value->offset));
  }
  head.value = std::move(value->value);
  if (!head.value.is_dict()) {
    touched_end = touched_end || lexer.touched_end();
    return head;
  }
  const Result<Token> after = lexer.next();
  touched_end = touched_end || lexer.touched_end();
  if (after.ok() && after->kind == TokenKind::keyword && after->text == "stream") {
    std::size_t at = lexer.position();
    // CR LF or LF ends the line; a CR alone and blanks are seen in real files.
    while (at < bytes.size() && bytes[at] == ' ') ++at;
    if (at < bytes.size() && bytes[at] == '\r') ++at;
    if (at < bytes.size() && bytes[at] == '\n') ++at;
    touched_end = touched_end || at >= bytes.size();
    head.data_start = at;
  }
  return head;
}

bool end_of_stream_at(const ByteSource& source, std::uint64_t offset) {
  constexpr std::uint64_t kRoom = 32;
  const Result<ByteSlice> slice = source.slice(offset, kRoom);
  if (!slice.ok()) return false;
  ByteView rest = slice->view();
  while (!rest.empty() && objects::is_white(rest[0])) rest = rest.subspan(1);
  return as_text(rest).starts_with(kEndOfStream);
}

// The length up to "endstream", less the end of line before it; without, to the next object or
// the end of the file.
Result<std::uint64_t> length_by_search(const ByteSource& source, std::uint64_t start) {
  LUMVET_TRY(const ByteSlice rest, source.slice(start, source.size()));
  const std::string_view text = as_text(rest.view());
  std::size_t length = text.size();
  // In pieces, since a file may hold many streams without an end before one that has it.
  for (std::size_t from = 0; from < text.size(); from += kSearchPiece) {
    const std::string_view piece = text.substr(from, kSearchPiece + kEndOfStream.size());
    if (const std::size_t at = piece.find(kEndOfStream); at != std::string_view::npos) {
      length = from + at;
      break;
    }
    if (const std::size_t at = next_boundary(as_bytes(piece), 0); at < piece.size()) {
      length = from + at;
      break;
    }
  }
  if (length > 0 && text[length - 1] == '\n') --length;
  if (length > 0 && text[length - 1] == '\r') --length;
  return length;
}

Result<std::uint64_t> stream_length(const ByteSource& source, ObjectId id, const Dict& dict,
                                    std::uint64_t start, const LengthLookup& length_of,
                                    Findings& findings) {
  Object stated = dict["Length"];
  if (stated.is_reference()) stated = length_of(stated.as_reference());
  if (stated.is_integer() && stated.as_integer() >= 0) {
    const auto length = static_cast<std::uint64_t>(stated.as_integer());
    if (length <= source.size() - start && end_of_stream_at(source, start + length)) return length;
  }
  LUMVET_TRY(const std::uint64_t found, length_by_search(source, start));
  findings.add({"the length of a stream is wrong or missing; " + std::to_string(found) +
                    " bytes up to its end mark were taken",
                start, id});
  return found;
}

// Behind "12 0 obj", from where on another boundary belongs to something else.
std::size_t behind_object_word(ByteView bytes) {
  constexpr std::size_t kWordWithin = 64;
  const std::size_t at = as_text(bytes).substr(0, kWordWithin).find("obj");
  return at == std::string_view::npos ? 0 : at + 3;
}

// A damaged object up to where the next begins, with what it lacks as findings.
Result<Head> read_tolerantly(ByteView bytes, std::size_t boundary, std::uint64_t offset,
                             int nesting, Findings& findings) {
  std::vector<objects::Damage> damages;
  bool touched_end = false;
  Result<Head> head =
      parse_head(bytes.first(std::min(boundary, bytes.size())), nesting, touched_end, &damages);
  if (head.ok())
    for (objects::Damage& damage : damages)
      findings.add({std::move(damage.what) + "; what could be read of it was taken",
                    offset + damage.offset, head->id});
  return head;
}

}  // namespace

Result<IndirectObject> read_object_at(const std::shared_ptr<const ByteSource>& source,
                                      std::uint64_t offset, const LengthLookup& length_of,
                                      int nesting, Findings& findings) {
  if (offset >= source->size())
    return Error(ErrorCode::malformed, "an object is said to lie beyond the end of the file")
        .at_offset(offset);
  for (std::uint64_t window = kFirstWindow;; window *= 8) {
    LUMVET_TRY(const ByteSlice slice, source->slice(offset, window));
    bool touched_end = false;
    Result<Head> head = parse_head(slice.view(), nesting, touched_end, nullptr);
    const bool whole_file = slice.size() < window;
    const bool malformed = !head.ok() && head.error().code() == ErrorCode::malformed;
    // The object may go on behind the window, unless another begins inside it.
    std::size_t boundary = slice.size();
    if (malformed || (touched_end && !whole_file))
      boundary = next_boundary(slice.view(), behind_object_word(slice.view()));
    if (touched_end && !whole_file && boundary == slice.size()) continue;
    if (malformed) head = read_tolerantly(slice.view(), boundary, offset, nesting, findings);
    if (!head.ok()) {
      const Error& inner = head.error();
      return Error(inner.code(), inner.message()).at_offset(offset + inner.offset().value_or(0));
    }
    IndirectObject object{head->id, std::move(head->value)};
    if (head->data_start) {
      Stream stream{object.value.as_dict(), source, offset + *head->data_start, 0};
      LUMVET_TRY(stream.length, stream_length(*source, object.id, stream.dict, stream.offset,
                                              length_of, findings));
      object.value = Object(std::move(stream));
    }
    return object;
  }
}

}  // namespace lumvet::file

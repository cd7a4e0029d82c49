// SPDX-License-Identifier: Apache-2.0
#include "file/scan.h"

#include <algorithm>
#include <cstring>

#include "base/digits.h"
#include "objects/lexer.h"

namespace lumvet::file {
namespace {

constexpr std::uint64_t kMostNumber = 0xFFFFFFFF;
constexpr std::uint64_t kMostGeneration = 0xFFFF;
constexpr std::string_view kStreamEnd = "endstream";

// Digits that end before `end`; gives where they begin. Nothing when there are none or too many.
std::optional<std::size_t> digits_before(ByteView bytes, std::size_t end, std::uint64_t most,
                                         std::uint64_t& value) {
  constexpr std::size_t kMostDigits = 12;
  std::size_t start = end;
  while (start > 0 && is_digit(bytes[start - 1]) && end - start < kMostDigits) --start;
  if (start == end) return std::nullopt;
  value = 0;
  for (std::size_t i = start; i < end; ++i) value = value * 10 + (bytes[i] - std::uint64_t{'0'});
  return value <= most ? std::optional(start) : std::nullopt;
}

std::size_t white_before(ByteView bytes, std::size_t end) {
  while (end > 0 && objects::is_white(bytes[end - 1])) --end;
  return end;
}

struct Mark {
  enum class Kind { none, begin, end } kind = Kind::none;
  ObjectId id;
  std::size_t start = 0;  // of the object's number, or of the word
  std::size_t behind = 0;
};

// What the letter 'j' at `at` belongs to: "12 0 obj", "endobj", or nothing of interest.
Mark mark_at(ByteView bytes, std::size_t at) {
  Mark mark;
  if (at < 2 || bytes[at - 1] != 'b' || bytes[at - 2] != 'o') return mark;
  const std::size_t word = at - 2;
  mark.behind = at + 1;
  if (word >= 3 && as_text(bytes.subspan(word - 3, 3)) == "end") {
    mark.kind = Mark::Kind::end;
    mark.start = word - 3;
    return mark;
  }
  const bool goes_on = mark.behind < bytes.size() && ((bytes[mark.behind] | 0x20) >= 'a') &&
                       ((bytes[mark.behind] | 0x20) <= 'z');
  if (goes_on) return mark;
  std::uint64_t generation = 0;
  std::uint64_t number = 0;
  const auto generation_start =
      digits_before(bytes, white_before(bytes, word), kMostGeneration, generation);
  if (!generation_start) return mark;
  const std::size_t gap = white_before(bytes, *generation_start);
  if (gap == *generation_start) return mark;
  const auto start = digits_before(bytes, gap, kMostNumber, number);
  if (!start) return mark;
  mark.kind = Mark::Kind::begin;
  mark.id = {static_cast<std::uint32_t>(number), static_cast<std::uint16_t>(generation)};
  mark.start = *start;
  return mark;
}

std::size_t next_letter(ByteView bytes, std::size_t from) {
  if (from >= bytes.size()) return bytes.size();
  const void* found = std::memchr(bytes.data() + from, 'j', bytes.size() - from);
  return found == nullptr
             ? bytes.size()
             : static_cast<std::size_t>(static_cast<const std::uint8_t*>(found) - bytes.data());
}

class Scanner {
 public:
  Scanner(ByteView bytes, std::uint64_t most_objects)
      : bytes_(bytes), most_objects_(most_objects) {}

  Scan run() {
    for (std::size_t at = next_letter(bytes_, 0); at < bytes_.size();
         at = next_letter(bytes_, at)) {
      const Mark mark = mark_at(bytes_, at++);
      if (mark.kind == Mark::Kind::end) {
        if (open_) close(mark.behind);
      } else if (mark.kind == Mark::Kind::begin) {
        if (open_) {
          // Inside a stream, or the one before has no "endobj".
          const std::size_t stream_end = end_of_open_stream(mark.start);
          if (stream_end > mark.start) {
            at = std::max(at, stream_end);
            close(stream_end);
            continue;
          }
          close(mark.start);
          closed_at_ = std::max(body_, stream_end);
        }
        look_for_trailers(closed_at_, mark.start);
        open(mark);
      }
    }
    if (open_) {
      const std::size_t stream_end = end_of_open_stream(bytes_.size());
      close(bytes_.size());
      closed_at_ = std::max(body_, stream_end);
    }
    look_for_trailers(closed_at_, bytes_.size());
    return std::move(scan_);
  }

 private:
  void open(const Mark& mark) {
    open_ = true;
    start_ = mark.start;
    body_ = mark.behind;
    id_ = mark.id;
  }

  void close(std::size_t end) {
    open_ = false;
    closed_at_ = end;
    if (id_.number >= most_objects_) return;
    // The types that matter stand in the dictionary, which is at the front.
    constexpr std::size_t kDictWithin = 1024;
    std::string_view head = as_text(bytes_.subspan(body_, std::min(end - body_, kDictWithin)));
    head = head.substr(0, head.find("stream"));
    ScannedObject object{id_, start_, ScannedObject::Kind::plain};
    if (head.find("/ObjStm") != std::string_view::npos)
      object.kind = ScannedObject::Kind::object_stream;
    else if (head.find("/XRef") != std::string_view::npos)
      object.kind = ScannedObject::Kind::cross_references;
    else if (head.find("/Standard") != std::string_view::npos &&
             head.find("/Filter") != std::string_view::npos)
      object.kind = ScannedObject::Kind::encryption;
    scan_.objects.push_back(object);
  }

  // Where the stream of the open object ends; its start when it is no stream, or one without end.
  std::size_t end_of_open_stream(std::size_t before) {
    constexpr std::string_view kWord = "stream";
    const std::string_view head = as_text(bytes_.subspan(body_, before - body_));
    std::size_t word = head.find(kWord);
    if (word == std::string_view::npos) return start_;
    const std::size_t dict_end = white_before(bytes_, body_ + word);
    if (dict_end < 2 || as_text(bytes_.subspan(dict_end - 2, 2)) != ">>") return start_;
    std::size_t data = body_ + word + kWord.size();
    if (data < bytes_.size() && bytes_[data] == '\r') ++data;
    if (data < bytes_.size() && bytes_[data] == '\n') ++data;
    if (const auto length = direct_length(head.substr(0, word)))
      if (*length <= bytes_.size() - data && ends_at(data + *length)) return data + *length;
    return next_end_mark(data).value_or(start_);
  }

  // The value of /Length in a dictionary's text; nothing when it is a reference.
  static std::optional<std::size_t> direct_length(std::string_view dict) {
    const std::size_t key = dict.find("/Length");
    if (key == std::string_view::npos) return std::nullopt;
    objects::Lexer lexer(as_bytes(dict), key + std::string_view("/Length").size());
    const auto length = lexer.next();
    if (!length.ok() || length->kind != objects::TokenKind::integer || length->integer < 0)
      return std::nullopt;
    const auto next = lexer.next();
    if (next.ok() && next->kind == objects::TokenKind::integer) return std::nullopt;
    return static_cast<std::size_t>(length->integer);
  }

  bool ends_at(std::size_t at) const {
    while (at < bytes_.size() && objects::is_white(bytes_[at])) ++at;
    return as_text(bytes_.subspan(at)).starts_with(kStreamEnd);
  }

  // The next "endstream" from `from` on. What was found is kept, since objects without an end
  // would otherwise each search the whole rest of the file.
  std::optional<std::size_t> next_end_mark(std::size_t from) {
    if (from < searched_from_ || from > end_mark_) {
      searched_from_ = from;
      end_mark_ = std::min(as_text(bytes_).find(kStreamEnd, from), bytes_.size());
    }
    return end_mark_ < bytes_.size() ? std::optional(end_mark_) : std::nullopt;
  }

  void look_for_trailers(std::size_t from, std::size_t to) {
    constexpr std::string_view kWord = "trailer";
    if (to <= from || to - from < kWord.size()) return;
    const std::string_view text = as_text(bytes_.subspan(from, to - from));
    for (std::size_t at = text.find(kWord); at != std::string_view::npos;
         at = text.find(kWord, at + kWord.size()))
      scan_.trailers.push_back(from + at + kWord.size());
  }

  ByteView bytes_;
  std::uint64_t most_objects_;
  Scan scan_;
  bool open_ = false;
  std::size_t start_ = 0;  // of the open object's number
  std::size_t body_ = 0;   // behind its "obj"
  ObjectId id_;
  std::size_t closed_at_ = 0;
  std::size_t searched_from_ = 1;  // behind end_mark_: nothing was searched yet
  std::size_t end_mark_ = 0;
};

}  // namespace

Result<Scan> scan_file(const ByteSource& source, std::uint64_t most_objects) {
  LUMVET_TRY(const ByteSlice whole, source.slice(0, source.size()));
  return Scanner(whole.view(), most_objects).run();
}

std::optional<std::uint64_t> find_object_near(const ByteSource& source, std::uint32_t number,
                                              std::uint64_t offset, std::uint64_t within) {
  const std::uint64_t from = offset > within ? offset - within : 0;
  if (from >= source.size()) return std::nullopt;
  constexpr std::uint64_t kWords = 32;  // "4294967295 65535 obj"
  const Result<ByteSlice> slice = source.slice(from, offset - from + within + kWords);
  if (!slice.ok()) return std::nullopt;
  const ByteView bytes = slice->view();
  std::optional<std::uint64_t> nearest;
  const auto distance = [&](std::uint64_t place) {
    return place > offset ? place - offset : offset - place;
  };
  for (std::size_t at = next_letter(bytes, 0); at < bytes.size(); at = next_letter(bytes, at + 1)) {
    const Mark mark = mark_at(bytes, at);
    if (mark.kind != Mark::Kind::begin || mark.id.number != number) continue;
    const std::uint64_t place = from + mark.start;
    if (distance(place) > within) continue;
    if (!nearest || distance(place) < distance(*nearest)) nearest = place;
  }
  return nearest;
}

std::size_t next_boundary(ByteView bytes, std::size_t from) {
  for (std::size_t at = next_letter(bytes, from); at < bytes.size();
       at = next_letter(bytes, at + 1)) {
    const Mark mark = mark_at(bytes, at);
    if (mark.kind != Mark::Kind::none && mark.start >= from) return mark.start;
  }
  return bytes.size();
}

}  // namespace lumvet::file

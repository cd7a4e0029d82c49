// SPDX-License-Identifier: Apache-2.0
// JPEG 2000 files and code streams (ISO/IEC 15444-1, annexes A and I), which go in as they are.
#include "draw/image_frames.h"

namespace lumvet::draw {
namespace {

constexpr std::size_t kBoxHead = 8;

std::uint32_t word_at(ByteView bytes, std::size_t at) {
  if (at + 4 > bytes.size()) return 0;
  return static_cast<std::uint32_t>(bytes[at]) << 24 |
         static_cast<std::uint32_t>(bytes[at + 1]) << 16 |
         static_cast<std::uint32_t>(bytes[at + 2]) << 8 | bytes[at + 3];
}

// What is in the first box of a kind; nothing where there is none.
ByteView box_in(ByteView boxes, std::string_view kind) {
  for (std::size_t at = 0; at + kBoxHead <= boxes.size();) {
    std::size_t length = word_at(boxes, at);
    if (length == 0) length = boxes.size() - at;
    if (length < kBoxHead || length > boxes.size() - at) return {};
    if (as_text(boxes.subspan(at + 4, 4)) == kind)
      return boxes.subspan(at + kBoxHead, length - kBoxHead);
    at += length;
  }
  return {};
}

// Whether one of the channels is opacity (I.5.3.6).
bool has_opacity(ByteView header) {
  const ByteView channels = box_in(header, "cdef");
  constexpr std::size_t kChannel = 6;
  for (std::size_t at = 2; at + kChannel <= channels.size(); at += kChannel)
    if (channels[at + 2] == 0 && channels[at + 3] == 1) return true;
  return false;
}

}  // namespace

bool is_jpeg2000(ByteView head) {
  constexpr std::string_view kFile("\0\0\0\x0CjP  \r\n\x87\n", 12);
  constexpr std::string_view kCodeStream = "\xFF\x4F\xFF\x51";
  const auto begins_with = [&](std::string_view text) {
    return as_text(head.first(std::min(head.size(), text.size()))) == text;
  };
  // Whoever looks may have no more than the first eight bytes.
  return begins_with(kFile.substr(0, kBoxHead)) || begins_with(kCodeStream);
}

Result<std::vector<ImageFrame>> read_jpeg2000(const Bytes& file, const Limits& limits) {
  const ByteView all(file);
  const bool is_bare = all.size() >= 2 && all[0] == 0xFF;
  const ByteView stream = is_bare ? all : box_in(all, "jp2c");
  // SIZ is the first segment: the grid, and where the image begins on it (A.5.1).
  constexpr std::size_t kGrid = 8;
  constexpr std::size_t kLeast = 40;
  if (stream.size() < kLeast || stream[2] != 0xFF || stream[3] != 0x51)
    return Error(ErrorCode::malformed, "a JPEG 2000 image without its size");
  constexpr std::uint32_t kMostSide = 1 << 24;
  const std::uint32_t width = word_at(stream, kGrid) - word_at(stream, kGrid + 8);
  const std::uint32_t height = word_at(stream, kGrid + 4) - word_at(stream, kGrid + 12);
  if (width < 1 || height < 1 || width > kMostSide || height > kMostSide)
    return Error(ErrorCode::malformed, "a JPEG 2000 image with impossible dimensions");
  if (static_cast<std::uint64_t>(width) * height > limits.pixels)
    return Error(ErrorCode::limit, "an image beyond Limits::pixels");
  ImageFrame frame{.width = static_cast<int>(width), .height = static_cast<int>(height)};
  Dict dict{{"Type", Object::name("XObject")},
            {"Subtype", Object::name("Image")},
            {"Width", frame.width},
            {"Height", frame.height},
            {"Filter", Object::name("JPXDecode")}};
  if (!is_bare && has_opacity(box_in(all, "jp2h"))) dict.set("SMaskInData", 1);
  frame.image = Stream::of(std::move(dict), Bytes(file));
  return std::vector<ImageFrame>{std::move(frame)};
}

}  // namespace lumvet::draw
